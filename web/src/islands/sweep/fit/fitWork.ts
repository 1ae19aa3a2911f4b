import {
  type FileValue,
  type FitProgress,
  type FitReport,
  type FrontPoint,
  type MoveRequest,
  numberAt,
  resolveTuning,
  type Target,
  type TuningFile,
  withValue,
} from '@zygopod/core';
import { proxy } from 'comlink';
import { atom } from 'nanostores';
import { Desk } from '../../../workers/desk.ts';
import type { FitApi, PageFit } from '../../../workers/fit.ts';
import type { SweepWork } from '../sweepWork.ts';
import { numberWords } from '../words.ts';
import { movesIn, withMoves } from './moves.ts';

/** The result of a fit, with the tuning and the targets that it began with. */
export interface Fitted {
  report: FitReport;
  from: TuningFile;
  targets: readonly Target[];
  seconds: number;
}

/** A fit: not begun, under way, done, or why it failed. */
export type FitState =
  | { is: 'idle' }
  | { is: 'running'; measurements: number; found: Fitted | null }
  | { is: 'done'; found: Fitted }
  | { is: 'failed'; why: string };

/** The trade-off of two targets, under way or done. */
export type FrontState = { pair: [string, string]; points: FrontPoint[] | null; at: number; why: string | null };

/** Fits the tuning under work to the chosen targets. */
export class FitWork {
  readonly sweep: SweepWork;
  readonly $state = atom<FitState>({ is: 'idle' });
  /** The numbers that may move, with their ranges; empty: those that matter. */
  readonly $moves = atom<readonly MoveRequest[]>(movesIn(window.location.search));
  readonly $front = atom<FrontState | null>(null);
  readonly #desk = new Desk<FitApi>(() => new Worker(new URL('../../../workers/fit.ts', import.meta.url), { type: 'module' }));

  constructor(sweep: SweepWork) {
    this.sweep = sweep;
  }

  /** The request for the tuning as it is now. */
  #request(): PageFit {
    return {
      file: this.sweep.work.editing.$plainTuning.get().file,
      targets: this.sweep.$targets.get()?.set.targets ?? [],
      ground: this.sweep.work.drive.world.ground,
      moves: this.$moves.get(),
    };
  }

  async run(): Promise<void> {
    const request = this.#request();
    const begun = performance.now();
    this.$front.set(null);
    this.$state.set({ is: 'running', measurements: 0, found: null });
    const fitted = (report: FitReport): Fitted => ({
      report,
      from: request.file,
      targets: request.targets,
      seconds: (performance.now() - begun) / 1000,
    });
    const took = ({ measurements, report }: FitProgress) => {
      if (this.$state.get().is === 'running') this.$state.set({ is: 'running', measurements, found: report ? fitted(report) : null });
    };
    try {
      const report = await this.#desk.call((remote) => remote.fit(request, proxy(took)));
      this.$state.set({ is: 'done', found: fitted(report) });
    } catch (error) {
      if (this.$state.get().is === 'running')
        this.$state.set({ is: 'failed', why: error instanceof Error ? error.message : String(error) });
    }
  }

  /** Ends what is under way. */
  stop(): void {
    if (this.$state.get().is === 'running') this.$state.set({ is: 'idle' });
    this.#desk.stop();
  }

  /** Chooses the numbers that may move; the address keeps them. */
  choose(moves: readonly MoveRequest[]): void {
    this.$moves.set(moves);
    const url = new URL(window.location.href);
    url.search = withMoves(url.search, moves);
    window.history.replaceState(null, '', url);
  }

  /** The numbers that move without a choice. */
  defaults(): Promise<MoveRequest[]> {
    const request = this.#request();
    return this.#desk.call((remote) => remote.numbers(request));
  }

  /** Measures the trade-off of two targets. */
  async tradeOff(pair: [string, string]): Promise<void> {
    const request = this.#request();
    const begun: FrontState = { pair, points: null, at: 0, why: null };
    this.$front.set(begun);
    try {
      const points = await this.#desk.call((remote) => remote.tradeOff(request, pair));
      if (this.$front.get() === begun) this.$front.set({ ...begun, points, at: points.length - 1 });
    } catch (error) {
      if (this.$front.get() === begun) this.$front.set({ ...begun, why: error instanceof Error ? error.message : String(error) });
    }
  }

  /** Goes to a point of the trade-off. */
  goTo(at: number): void {
    const front = this.$front.get();
    if (front?.points) this.$front.set({ ...front, at: Math.min(front.points.length - 1, Math.max(0, at)) });
  }

  /** The present tuning with values. */
  fileWith(set: Record<string, FileValue>): TuningFile {
    const { file } = this.sweep.work.editing.$plainTuning.get();
    return Object.entries(set).reduce((one, [path, value]) => withValue(one, path, value), file);
  }

  /** The values in words: `Decelerate 1780 px/s²`. */
  wordsOf(set: Record<string, FileValue>): string {
    const read = resolveTuning(this.fileWith(set));
    if (!read.ok) return '';
    const { unit = 'px' } = read.value.file;
    return Object.keys(set)
      .map((path) => numberWords(path, numberAt(read.value.parameters, path), unit))
      .join(', ');
  }
}
