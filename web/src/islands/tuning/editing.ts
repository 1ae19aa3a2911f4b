import { type FileValue, numberAt, numberSpec, resolveTuning, type Tuning, type TuningFile, withValue } from '@zygopod/core';
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
  /** The number that was looked at last: what a trial is about. */
  readonly $subject = atom<string>('pace.walkSpeed');
  readonly $tuning: ReadableAtom<Tuning>;
  readonly $beforeTuning: ReadableAtom<Tuning>;
  /** What the tuning that is driven is compared with. */
  readonly $otherTuning: ReadableAtom<Tuning>;

  constructor(now: TuningFile, before: TuningFile) {
    super(now, before);
    this.$tuning = computed([this.$now, this.$before, this.$flipped, this.$trial], (current, last, flipped, trial) =>
      tried(resolved(flipped ? last : current), trial),
    );
    this.$beforeTuning = computed(this.$before, resolved);
    this.$otherTuning = computed([this.$now, this.$before, this.$flipped], (now, before, flipped) => resolved(flipped ? now : before));
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
