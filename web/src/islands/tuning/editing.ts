import { type FileValue, heldIn, numberAt, numberSpec, resolveTuning, type Tuning, type TuningFile, withValue } from '@zygopod/core';
import { atom, computed, type ReadableAtom } from 'nanostores';
import { Steps } from '../work/steps.ts';

/** A number at a multiple of itself. */
interface Trial {
  path: string;
  factor: number;
}

/**
 * The tuning under work: now, the last saved revision (before), undo and redo. Everything that changes a tuning on the
 * bench goes through here; the world, the figures and the draft follow `$shown` and `$now`.
 */
export class Editing extends Steps<TuningFile> {
  /** True while the bench shows and drives the last saved revision instead. */
  readonly $flipped = atom(false);
  /** A number that is tried at a multiple for as long as a key is held; the tuning itself does not change. */
  readonly $trial = atom<Trial | null>(null);
  /** The number focused last: the subject of a trial. */
  readonly $subject = atom<string>('pace.walkSpeed');
  readonly $tuning: ReadableAtom<Tuning>;
  /** The tuning by itself: whatever is shown or tried in its place. */
  readonly $plainTuning: ReadableAtom<Tuning>;
  /** A file that is tried for as long as what would set it is pointed at. */
  readonly $preview = atom<TuningFile | null>(null);
  readonly $beforeTuning: ReadableAtom<Tuning>;
  /** The tuning to compare with. */
  readonly $otherTuning: ReadableAtom<Tuning>;

  constructor(now: TuningFile, before: TuningFile) {
    super(now, before);
    this.$plainTuning = computed(this.$now, resolved);
    this.$tuning = computed(
      [this.$plainTuning, this.$before, this.$flipped, this.$trial, this.$preview],
      (current, last, flipped, trial, preview) => tried(flipped ? resolved(last) : preview ? resolved(preview) : current, trial),
    );
    this.$beforeTuning = computed(this.$before, resolved);
    this.$otherTuning = computed([this.$now, this.$before, this.$flipped], (now, before, flipped) => resolved(flipped ? now : before));
  }

  /** Sets a parameter. A value that the tuning cannot take (a link loop, out of range) changes nothing and says why. */
  set(path: string, value: FileValue | undefined, what: string): string | null {
    if (!this.isTrying && this.$flipped.get()) this.$flipped.set(false);
    const file = withValue(this.$now.get(), path, value);
    const reading = resolveTuning(file);
    if (!reading.ok) return `${reading.faults[0]?.path}: found ${reading.faults[0]?.found}, expected ${reading.faults[0]?.expected}`;
    this.replace(file, what);
    return null;
  }

  /** Sets several parameters as one step; where the tuning cannot take them, nothing changes, and it says why. */
  setAll(values: Readonly<Record<string, FileValue>>, what: string): string | null {
    if (!this.isTrying) {
      this.$preview.set(null);
      if (this.$flipped.get()) this.$flipped.set(false);
    }
    const reading = this.#with(values);
    if (!reading.ok) return `${reading.faults[0]?.path}: found ${reading.faults[0]?.found}, expected ${reading.faults[0]?.expected}`;
    this.replace(reading.value.file, what);
    return null;
  }

  /** Previews the tuning with these values until another preview, or none, is requested. */
  preview(values: Readonly<Record<string, FileValue>> | null): void {
    const reading = values && this.#with(values);
    this.$preview.set(reading?.ok ? reading.value.file : null);
  }

  #with(values: Readonly<Record<string, FileValue>>) {
    const file = Object.entries(values).reduce((changed, [path, value]) => withValue(changed, path, value), this.$now.get());
    return resolveTuning(file);
  }

  override undo(): void {
    this.$flipped.set(false);
    super.undo();
  }

  override redo(): void {
    this.$flipped.set(false);
    super.redo();
  }

  flip(): void {
    this.endGesture();
    this.$flipped.set(!this.$flipped.get());
  }
}

/** The tuning with the tried number in it, held in its range; as it is where that makes no tuning. */
function tried(tuning: Tuning, trial: Trial | null): Tuning {
  if (!trial) return tuning;
  const spec = numberSpec(trial.path);
  const number = heldIn(spec, numberAt(tuning.parameters, trial.path) * trial.factor);
  const reading = resolveTuning(withValue(tuning.file, trial.path, number));
  return reading.ok ? reading.value : tuning;
}

/** A file that came through `set` or through the server always resolves. */
function resolved(file: TuningFile): Tuning {
  const reading = resolveTuning(file);
  if (!reading.ok) throw new Error(`the tuning does not resolve: ${JSON.stringify(reading.faults)}`);
  return reading.value;
}
