import { type FileValue, numberAt, numberSpec, resolveTuning, type Tuning, type TuningFile, withValue } from '@zygopod/core';
import { atom, computed, type ReadableAtom } from 'nanostores';

/** One step that undo takes back: the files before and after, and what the step was. */
interface Step {
  before: TuningFile;
  after: TuningFile;
  what: string;
}

/** A number at a multiple of itself. */
export interface Trial {
  path: string;
  factor: number;
}

const DEPTH = 500;

/**
 * The tuning under work: now, the last saved revision (before), undo and redo. Everything that changes a tuning on the
 * bench goes through here; the world, the figures and the draft follow `$shown` and `$now`.
 */
export class Editing {
  readonly $now = atom<TuningFile>({ format: 'zygopod/tuning', version: 1, name: '', unit: 'px' });
  readonly $before: ReturnType<typeof atom<TuningFile>>;
  /** True while the bench shows and drives the last saved revision instead. */
  readonly $flipped = atom(false);
  /** A number that is tried at a multiple for as long as a key is held; the tuning itself does not change. */
  readonly $trial = atom<Trial | null>(null);
  /** The number that was looked at last: what a trial is about. */
  readonly $subject = atom<string>('pace.walkSpeed');
  readonly $history = atom<{ undo: string | null; redo: string | null }>({ undo: null, redo: null });
  readonly $tuning: ReadableAtom<Tuning>;
  readonly $beforeTuning: ReadableAtom<Tuning>;
  #done: Step[] = [];
  #undone: Step[] = [];
  /** While a drag lasts, its changes are one step. */
  #gesture: { before: TuningFile; what: string } | null = null;

  constructor(now: TuningFile, before: TuningFile) {
    this.$now.set(now);
    this.$before = atom(before);
    this.$tuning = computed([this.$now, this.$before, this.$flipped, this.$trial], (current, last, flipped, trial) =>
      tried(resolved(flipped ? last : current), trial),
    );
    this.$beforeTuning = computed(this.$before, resolved);
  }

  /** Sets a parameter. A value that the tuning cannot take (a link loop, out of range) changes nothing and says why. */
  set(path: string, value: FileValue | undefined, what: string): string | null {
    if (this.$flipped.get()) this.$flipped.set(false);
    const file = withValue(this.$now.get(), path, value);
    const reading = resolveTuning(file);
    if (!reading.ok) return `${reading.faults[0]?.path}: found ${reading.faults[0]?.found}, expected ${reading.faults[0]?.expected}`;
    this.replace(file, what);
    return null;
  }

  /** Puts a whole file in place of the present one, as one step. */
  replace(file: TuningFile, what: string): void {
    const before = this.$now.get();
    if (JSON.stringify(before) === JSON.stringify(file)) return;
    this.$now.set(file);
    if (!this.#gesture) this.#push({ before, after: file, what });
  }

  /** All changes until `endGesture` are one step. */
  beginGesture(what: string): void {
    this.endGesture();
    this.#gesture = { before: this.$now.get(), what };
  }

  endGesture(): void {
    const gesture = this.#gesture;
    this.#gesture = null;
    if (gesture && gesture.before !== this.$now.get()) this.#push({ ...gesture, after: this.$now.get() });
  }

  /** Gives back what was there when the gesture began. */
  cancelGesture(): void {
    if (this.#gesture) this.$now.set(this.#gesture.before);
    this.#gesture = null;
  }

  undo(): void {
    this.endGesture();
    const step = this.#done.pop();
    if (!step) return;
    this.#undone.push(step);
    this.#go(step.before);
  }

  redo(): void {
    const step = this.#undone.pop();
    if (!step) return;
    this.#done.push(step);
    this.#go(step.after);
  }

  flip(): void {
    this.endGesture();
    this.$flipped.set(!this.$flipped.get());
  }

  #push(step: Step): void {
    this.#done.push(step);
    if (this.#done.length > DEPTH) this.#done.shift();
    this.#undone = [];
    this.#tell();
  }

  #go(file: TuningFile): void {
    this.$flipped.set(false);
    this.$now.set(file);
    this.#tell();
  }

  #tell(): void {
    this.$history.set({ undo: this.#done.at(-1)?.what ?? null, redo: this.#undone.at(-1)?.what ?? null });
  }
}

/** The tuning with the tried number in it, held in its range; as it is where that makes no tuning. */
function tried(tuning: Tuning, trial: Trial | null): Tuning {
  if (!trial) return tuning;
  const spec = numberSpec(trial.path);
  const number = Math.min(spec.max, Math.max(spec.min, numberAt(tuning.parameters, trial.path) * trial.factor));
  const reading = resolveTuning(withValue(tuning.file, trial.path, number));
  return reading.ok ? reading.value : tuning;
}

/** A file that came through `set` or through the server always resolves. */
function resolved(file: TuningFile): Tuning {
  const reading = resolveTuning(file);
  if (!reading.ok) throw new Error(`the tuning does not resolve: ${JSON.stringify(reading.faults)}`);
  return reading.value;
}
