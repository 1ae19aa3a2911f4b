import {
  type MetricKey,
  metricKey,
  type QueuedSweep,
  readAxis,
  resolveTuning,
  Sweep,
  type SweepAxis,
  sweepFaults,
  type TuningFile,
  valueOn,
  withAxis,
} from '@zygopod/core';
import { atom } from 'nanostores';
import { GivenUp } from '../../workers/desk.ts';
import { fetchChosenKept, fetchTargets, type KeptTargets, keepChoice } from '../judging/targets.ts';
import type { TuningWork } from '../tuning/context.ts';
import { axisThrough, COUNTS, KEPT, readChoice, type SweepChoice, withChoice } from './choice.ts';
import { SweepPool, sweepDesk } from './pool.ts';
import { idle, type Progress } from './progress.ts';
import { runOnQueue } from './queue.ts';

/** The sweep that is shown; a new object with each change of its cells. */
export interface Swept {
  sweep: Sweep;
}

/** Milliseconds between pictures while cells come in. */
const PICTURE = 120;
/** Cells that a picture draws in a millisecond, about: a large one is drawn less often. */
const CELLS_A_MS = 100;
/** Cells that the page measures itself; more go to the queue. */
export const MOST_HERE = 5000;
/** Seconds that a single tuning may take to be measured. */
export const PATIENCE = 20;
/** Choices that zooming out goes back to. */
const MOST_BACK = 50;

/** Where a project has no target sets. */
const noTargets: KeptTargets = {
  id: '',
  head: 0,
  set: { format: 'zygopod/targets', version: 1, name: 'No targets', note: '', targets: [] },
};

/** A sweep of the tuning under work: what is chosen, its cells as they come in, and the cell that is looked at. */
export class SweepWork {
  readonly work: TuningWork;
  readonly $choice = atom<SweepChoice>(readChoice(window.location.search));
  /** The targets that cells are compared with; null until they are known. */
  readonly $targets = atom<KeptTargets | null>(null);
  readonly $swept = atom<Swept | null>(null);
  readonly $progress = atom<Progress>(idle);
  /** Why the choice can't be swept; empty if it can. */
  readonly $faults = atom<readonly string[]>([]);
  /** The cell under the pointer or the arrow keys, and whether it stays when the pointer leaves. */
  readonly $at = atom<number | null>(null);
  readonly $isPinned = atom(false);
  /** Which tunings are marked on the plane, besides the one under work. */
  readonly $layers = atom({ others: true, revisions: false });
  readonly $trouble = atom<string | null>(null);
  /** Measures single tunings, and effects, beside the sweep. */
  readonly desk = sweepDesk();
  /** The kept sweep whose stored results are shown, with the documents that have changed since by id, or `core`; null: these are new results. */
  readonly $kept = atom<{ id: string; changed: readonly string[] } | null>(null);
  readonly #pool = new SweepPool();
  /** True: on the queue, however few cells there are. */
  readonly $isQueued = atom(false);
  #queued: AbortController | null = null;
  /** Settles once the last sweep on the queue is over, or stopped there. */
  #over: Promise<unknown> = Promise.resolve();
  readonly #back: SweepChoice[] = [];
  readonly $canGoBack = atom(false);

  constructor(work: TuningWork) {
    this.work = work;
  }

  /**
   * Fetches the targets, completes the choice and runs it; the answer stops everything. Where `openKept` resolves with true, a kept sweep is shown
   * instead.
   */
  start(openKept: () => Promise<boolean>): () => void {
    void this.#open(openKept);
    return () => {
      this.#pool.end();
      this.desk.stop();
    };
  }

  get workers(): number {
    return this.#pool.desks.length;
  }

  async #open(openKept: () => Promise<boolean>): Promise<void> {
    this.$targets.set((await fetchChosenKept(this.work.opening.tuning.id)) ?? noTargets);
    if (await openKept()) return;
    const choice = await this.#completed(this.$choice.get());
    this.choose(choice);
    this.run();
  }

  /** Compares with another set of targets, as all screens do from now on. */
  async chooseTargets(id: string): Promise<void> {
    const fetched = await fetchTargets(id);
    if ('why' in fetched) return this.$trouble.set(fetched.why);
    keepChoice(this.work.opening.tuning.id, id);
    this.$targets.set(fetched);
    this.run();
  }

  /** A choice with axes and metrics where it has none: the main metric of a stop, or what its axes may say, over the numbers that move it most. */
  async #completed(choice: SweepChoice): Promise<SweepChoice> {
    const tuning = this.work.editing.$plainTuning.get();
    const ground = this.work.drive.world.ground;
    try {
      const open =
        choice.metrics.length > 0 && choice.over.length > 0
          ? null
          : await this.#call((remote) => remote.open(tuning.file, choice.metrics, ground));
      const metrics = choice.metrics.length > 0 ? choice.metrics : (open?.metrics ?? []);
      const over =
        choice.over.length > 0 ? choice.over : (open?.paths ?? []).map((path, i) => axisThrough(path, tuning, COUNTS[i] ?? COUNTS[1]));
      return { over, metrics, shown: choice.metrics.length > 0 || choice.shown !== 'met' ? choice.shown : (metrics[0] ?? 'met') };
    } catch (error) {
      this.$trouble.set(`The numbers to sweep couldn’t be chosen: ${error instanceof GivenUp ? error.message : String(error)}`);
      return choice;
    }
  }

  #call = <T>(work: Parameters<typeof this.desk.call<T>>[0]) => this.desk.call(work, PATIENCE);

  /** The axes of the choice, or what is wrong with them. */
  axes(): { axes: SweepAxis[]; faults: string[] } {
    const { file } = this.work.editing.$plainTuning.get();
    const read = this.$choice.get().over.map((text) => readAxis(text, file));
    return {
      axes: read.filter((axis) => typeof axis !== 'string'),
      faults: read.filter((axis) => typeof axis === 'string'),
    };
  }

  /** Changes the choice, and the address with it. */
  choose(change: Partial<SweepChoice>): void {
    const next = { ...this.$choice.get(), ...change };
    this.$choice.set(next);
    const url = new URL(window.location.href);
    url.search = withChoice(url.search, next);
    window.history.replaceState(null, '', url);
    this.$faults.set(this.axes().faults);
  }

  /** Sweeps what is chosen; zooming out comes back to what was swept before. */
  run(): void {
    const sweep = this.defined();
    if (!sweep) return;
    this.setKept(null);
    void this.#measure(sweep);
  }

  /** The sweep that is chosen, with nothing measured yet; null, with faults, if it can't be swept. */
  defined(): Sweep | null {
    const { axes, faults } = this.axes();
    const definition = {
      tuning: this.work.editing.$plainTuning.get(),
      axes,
      metrics: this.$choice.get().metrics,
      targets: this.$targets.get()?.set.targets ?? [],
      ground: this.work.drive.world.ground,
      isMetOnly: true,
    };
    const all = faults.length > 0 ? faults : sweepFaults(definition);
    this.$faults.set(all);
    return all.length > 0 ? null : new Sweep(definition);
  }

  /** Marks the results as those of a kept sweep, here and in the address, or as new ones. */
  setKept(kept: { id: string; changed: readonly string[] } | null): void {
    this.$kept.set(kept);
    const url = new URL(window.location.href);
    if (kept) url.searchParams.set(KEPT, kept.id);
    else url.searchParams.delete(KEPT);
    window.history.replaceState(null, '', url);
  }

  /** Shows a sweep that was measured before. */
  show(sweep: Sweep): void {
    this.stop();
    this.$at.set(null);
    this.$isPinned.set(false);
    this.$swept.set({ sweep });
    this.$progress.set({ ...idle, state: sweep.done === sweep.cells ? 'done' : 'stopped', done: sweep.done, cells: sweep.cells });
  }

  async #measure(sweep: Sweep): Promise<void> {
    this.$at.set(null);
    this.$isPinned.set(false);
    this.#pool.stop();
    this.#queued?.abort();
    const onQueue = this.$isQueued.get() || sweep.cells > MOST_HERE;
    const { over } = this.$choice.get();
    const begun = performance.now();
    let shown = Number.NEGATIVE_INFINITY;
    let [on, early]: [QueuedSweep | null, number] = [null, 0];
    const report = (state: Progress['state'], why = '') => {
      const took = (performance.now() - begun) / 1000;
      // Cells that were measured before say nothing about the rate.
      const fresh = sweep.done - early;
      const left = state === 'running' && fresh > 0 ? (took * (sweep.cells - sweep.done)) / fresh : null;
      this.$progress.set({ state, done: sweep.done, cells: sweep.cells, left, took, on, why });
      this.$swept.set({ sweep });
    };
    const isOwn = () => this.$swept.get()?.sweep === sweep;
    report('running');
    try {
      const took = () => {
        if (performance.now() - shown < Math.max(PICTURE, sweep.cells / CELLS_A_MS)) return;
        shown = performance.now();
        report('running');
      };
      const tookQueued = (run: QueuedSweep) => {
        if (on === null) early = sweep.done;
        on = run;
        took();
      };
      const isWhole = onQueue ? await this.#runQueued(sweep, over, tookQueued) : await this.#pool.run(sweep, took);
      if (isOwn()) report(isWhole ? 'done' : 'stopped');
    } catch (error) {
      if (isOwn()) report('failed', error instanceof Error ? error.message : String(error));
    }
  }

  /** Measures a sweep on the queue, after the one before has stopped there: a stop that came late would stop this one, too. */
  #runQueued(sweep: Sweep, over: readonly string[], took: (run: QueuedSweep) => void): Promise<boolean> {
    const queued = new AbortController();
    this.#queued = queued;
    const running = this.#over.then(() => (queued.signal.aborted ? false : runOnQueue(sweep, over, took, queued.signal)));
    this.#over = running.catch(() => undefined);
    return running;
  }

  /** Stops the sweep; what is measured stays. */
  stop(): void {
    this.#pool.stop();
    this.#queued?.abort();
  }

  /** Sweeps another choice, which `goBack` returns from. */
  goTo(change: Partial<SweepChoice>): void {
    this.#back.push(this.$choice.get());
    if (this.#back.length > MOST_BACK) this.#back.shift();
    this.$canGoBack.set(true);
    this.choose(change);
    this.run();
  }

  goBack(): void {
    const last = this.#back.pop();
    this.$canGoBack.set(this.#back.length > 0);
    if (!last) return;
    this.choose(last);
    this.run();
  }

  /** Chooses a cell that is pressed; pressed again, it is released. */
  press(cell: number): void {
    this.$isPinned.set(!(this.$isPinned.get() && this.$at.get() === cell));
    this.$at.set(cell);
  }

  /** Chooses a cell that the arrow keys go to. */
  goToCell(cell: number): void {
    this.$isPinned.set(true);
    this.$at.set(cell);
  }

  /** The present tuning with a cell's values. */
  fileAt(cell: number): TuningFile | null {
    const sweep = this.$swept.get()?.sweep;
    if (!sweep) return null;
    const places = sweep.placesOf(cell);
    return sweep.definition.axes.reduce(
      (file, axis, i) => withAxis(file, axis, axis.values[places[i] as number] as number),
      this.work.editing.$plainTuning.get().file,
    );
  }

  /** True if something else is chosen than what was swept. */
  isOther({ sweep }: Swept, { over, metrics }: SweepChoice): boolean {
    const { axes } = this.axes();
    return (
      over.length !== sweep.definition.axes.length ||
      JSON.stringify(axes) !== JSON.stringify(sweep.definition.axes) ||
      metrics.some((key) => !sweep.values.has(key))
    );
  }

  /** Tunings of a choice. */
  cells(): number {
    return this.axes().axes.reduce((product, { values }) => product * values.length, 1);
  }

  /** The keys of the metrics that are measured: those chosen and those of the targets. */
  keys(): MetricKey[] {
    const own = (this.$targets.get()?.set.targets ?? []).map(({ metric, at }) => metricKey(metric, at));
    return [...new Set([...this.$choice.get().metrics, ...own])];
  }

  /** The values of a tuning on the axes. */
  valuesOf(file: TuningFile): (number | boolean | string)[] | null {
    const read = resolveTuning(file);
    const sweep = this.$swept.get()?.sweep;
    if (!read.ok || !sweep) return null;
    const values = sweep.definition.axes.map((axis) => valueOn(axis, read.value));
    return values.every((value) => value !== undefined) ? (values as (number | boolean | string)[]) : null;
  }
}
