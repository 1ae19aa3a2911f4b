import { newTuning, type RecordingOptions, type RecordingReport } from '@zygopod/core';
import { proxy } from 'comlink';
import { atom } from 'nanostores';
import { Desk } from '../../workers/desk.ts';
import type { RecordingApi, RecordingSummary } from '../../workers/recording.ts';

/** The unit of a recording: that of the project, or so many of it each. */
export interface RecordingUnit {
  is: 'same' | 'm' | 'tiles';
  each: string;
  isYUp: boolean;
}

/** Bytes of a recording at most. */
const LARGEST = 100 * 1024 * 1024;

/** The search for the numbers of a recording. */
export type RecordingState =
  | { is: 'reading' }
  | { is: 'refused'; why: string }
  | { is: 'read' }
  | { is: 'running'; attempts: number }
  | { is: 'done'; report: RecordingReport }
  | { is: 'failed'; why: string };

/** A file with a recording: how it is read, and the numbers that are found in it. */
export class RecordingWork {
  readonly name: string;
  readonly $unit = atom<RecordingUnit>({ is: 'same', each: '32', isYUp: false });
  readonly $summary = atom<RecordingSummary | null>(null);
  readonly $state = atom<RecordingState>({ is: 'reading' });
  readonly #file: File;
  readonly #unit: 'px' | 'm';
  #text: string | null = null;
  readonly #desk = new Desk<RecordingApi>(() => new Worker(new URL('../../workers/recording.ts', import.meta.url), { type: 'module' }));

  constructor(file: File, unit: 'px' | 'm') {
    this.#file = file;
    this.#unit = unit;
    this.name = file.name.replace(/\.[^.]*$/, '').slice(0, 80) || 'From a recording';
  }

  /** How the file is read; null where the size of its unit is no number. */
  options(): RecordingOptions | null {
    const { is, each, isYUp } = this.$unit.get();
    const scale = is === 'same' ? 1 : Number(each);
    return scale > 0 && Number.isFinite(scale) ? { scale, isYUp } : null;
  }

  /** Reads the file as it is to be read. */
  async read(): Promise<void> {
    const options = this.options();
    if (!options) return;
    try {
      if (this.#file.size > LARGEST)
        throw new Error(`found ${Math.round(this.#file.size / 1e6)} MB, expected at most ${LARGEST / 1024 / 1024} MB`);
      const text = this.#text ?? (await this.#file.text());
      this.#text = text;
      const read = await this.#desk.call((remote) => remote.read(text, options));
      this.$summary.set(read.found);
      this.$state.set(read.found ? { is: 'read' } : { is: 'refused', why: read.why });
    } catch (error) {
      this.$state.set({ is: 'refused', why: error instanceof Error ? error.message : String(error) });
    }
  }

  /** Reads the file in another unit. */
  setUnit(change: Partial<RecordingUnit>): void {
    this.#desk.stop();
    this.$unit.set({ ...this.$unit.get(), ...change });
    void this.read();
  }

  /** Finds the numbers. */
  async run(): Promise<void> {
    const [options, text] = [this.options(), this.#text];
    if (!options || text === null) return;
    this.$state.set({ is: 'running', attempts: 0 });
    const took = (attempts: number) => {
      if (this.$state.get().is === 'running') this.$state.set({ is: 'running', attempts });
    };
    try {
      const base = newTuning(this.name, this.#unit);
      const { found, why } = await this.#desk.call((remote) => remote.fit(text, options, base, proxy(took)));
      this.$state.set(found ? { is: 'done', report: found } : { is: 'failed', why: `No numbers: ${why}` });
    } catch (error) {
      if (this.$state.get().is === 'running')
        this.$state.set({ is: 'failed', why: error instanceof Error ? error.message : String(error) });
    }
  }

  /** Ends the search. */
  stop(): void {
    if (this.$state.get().is === 'running') this.$state.set({ is: 'read' });
    this.#desk.stop();
  }
}
