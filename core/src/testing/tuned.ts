import { readAxis, type SweepAxis } from '../sweeps/axis.ts';
import { firstTuning } from '../tuning/firstTuning.ts';
import { resolveTuning, type Tuning, withValue } from '../tuning/tuning.ts';

/** The first tuning of a project, with some values. */
export function tuned(values: Record<string, number | string | boolean> = {}): Tuning {
  const file = Object.entries(values).reduce((one, [path, value]) => withValue(one, path, value), firstTuning('Boots', 'px'));
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

/** An axis through it, from its text. */
export function axis(text: string): SweepAxis {
  const read = readAxis(text, tuned().file);
  if (typeof read === 'string') throw new Error(read);
  return read;
}
