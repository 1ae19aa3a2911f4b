import {
  cellsOver,
  type MetricKey,
  metricKey,
  metricOfKey,
  readAxis,
  resolveTuning,
  Sweep,
  type SweepAxis,
  sweepFaults,
  type Tape,
  type TuningFile,
  valueOn,
  withAxis,
} from '@zygopod/core';
import { atom } from 'nanostores';
import { GivenUp } from '../../workers/desk.ts';
import { fetchChosenKept, fetchTargets, type KeptTargets, keepChoice } from '../judging/targets.ts';
import type { TuningWork } from '../tuning/context.ts';
import { fetchTape } from '../work/fetching.ts';
import { axisThrough, COUNTS, FIT, KEPT, readChoice, type SweepChoice, withChoice } from './choice.ts';
import { Measuring, type Swept } from './measuring.ts';
import { sweepDesk } from './pool.ts';

/** A kept tape that is driven for metrics. */
interface KeptTape {
  id: string;
  head: number;
  tape: Tape;
}

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
  /** The tape that metrics are of; null: none is chosen. */
  readonly $tape = atom<KeptTape | null>(null);
  readonly measuring = new Measuring();
  readonly $swept = this.measuring.$swept;
  readonly $progress = this.measuring.$progress;
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
  /** The kept sweep whose stored results are shown, with its run, and the documents that have changed since by id, or `core`. */
  readonly $kept = atom<{ id: string; changed: readonly string[]; run: string | null } | null>(null);
  /** True: on the queue, however few cells there are. */
  readonly $isQueued = atom(false);
  /** True: the fit is open beside the chart, in place of what is under the pointer. */
  readonly $isFitOpen = atom(new URLSearchParams(window.location.search).has(FIT));
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
      this.measuring.end();
      this.desk.stop();
    };
  }

  get workers(): number {
    return this.measuring.workers;
  }

  async #open(openKept: () => Promise<boolean>): Promise<void> {
    this.$targets.set((await fetchChosenKept(this.work.opening.tuning.id)) ?? noTargets);
    const { tape } = this.$choice.get();
    if (tape !== null) await this.takeTape(tape);
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

  /** Takes another tape, or none; metrics that are of it are measured again. */
  async chooseTape(id: string | null): Promise<void> {
    await this.takeTape(id);
    if (this.$choice.get().metrics.some((key) => metricOfKey(key).tape !== undefined)) this.run();
  }

  /** Fetches a tape for metrics, or takes it away with those that are of it. */
  async takeTape(id: string | null): Promise<void> {
    const fetched = id === null ? null : await fetchTape({ id, revision: null });
    if (fetched && !fetched.ok) this.$trouble.set(fetched.why);
    const tape = id !== null && fetched?.ok ? { id, head: fetched.fetched.revision, tape: fetched.fetched.value } : null;
    this.$tape.set(tape);
    const { metrics, shown } = this.$choice.get();
    const left = tape ? metrics : metrics.filter((key) => metricOfKey(key).tape === undefined);
    this.choose({ tape: tape?.id ?? null, metrics: left, shown: shown === 'met' || left.includes(shown) ? shown : (left[0] ?? 'met') });
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
      return {
        ...choice,
        over,
        metrics,
        shown: choice.metrics.length > 0 || choice.shown !== 'met' ? choice.shown : (metrics[0] ?? 'met'),
      };
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
    this.#leaveCell();
    const isQueued = this.$isQueued.get() || sweep.cells > MOST_HERE;
    void this.measuring.measure(sweep, isQueued ? this.$choice.get().over : null);
  }

  /** The sweep that is chosen, with nothing measured yet; null, with faults, if it can't be swept. */
  defined(): Sweep | null {
    const { axes, faults } = this.axes();
    const tape = this.$tape.get();
    const definition = {
      tuning: this.work.editing.$plainTuning.get(),
      axes,
      metrics: this.$choice.get().metrics,
      targets: this.$targets.get()?.set.targets ?? [],
      ground: this.work.drive.world.ground,
      tapes: tape ? [tape.tape] : [],
      isMetOnly: true,
    };
    const all = faults.length > 0 ? faults : sweepFaults(definition);
    this.$faults.set(all);
    return all.length > 0 ? null : new Sweep(definition);
  }

  /** Marks the results as those of a kept sweep, here and in the address, or as new ones. */
  setKept(kept: { id: string; changed: readonly string[]; run: string | null } | null): void {
    this.$kept.set(kept);
    const url = new URL(window.location.href);
    if (kept) url.searchParams.set(KEPT, kept.id);
    else url.searchParams.delete(KEPT);
    window.history.replaceState(null, '', url);
  }

  /** Shows a sweep that was measured before. */
  show(sweep: Sweep): void {
    this.#leaveCell();
    this.measuring.show(sweep);
  }

  #leaveCell(): void {
    this.$at.set(null);
    this.$isPinned.set(false);
  }

  /** Stops the sweep; what is measured stays. */
  stop(): void {
    this.measuring.stop();
  }

  /** Opens the fit, or what is under the pointer, here and in the address. */
  openFit(isOpen: boolean): void {
    this.$isFitOpen.set(isOpen);
    const url = new URL(window.location.href);
    if (isOpen) url.searchParams.set(FIT, '');
    else url.searchParams.delete(FIT);
    window.history.replaceState(null, '', url);
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
    return cellsOver(this.axes().axes);
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
