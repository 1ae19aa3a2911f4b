import { specs } from './catalogue/catalogue.ts';
import { heldIn, type Quantity, type Spec } from './catalogue/specs.ts';
import type { TuningFile } from './schema.ts';
import { newTuning, withValue } from './tuning.ts';

/** Pixels of a metre, where nobody has said yet how large a game is: a body of defaults is 0.75 m wide, and walks 4.4 m/s. */
const METRE = 32;

const lengths: readonly Quantity[] = ['length', 'speed', 'acceleration'];

/** A tuning to begin with, in a unit of length: of defaults in pixels, and of as much in metres. */
export function firstTuning(name: string, unit: 'px' | 'm'): TuningFile {
  const file = newTuning(name, unit);
  if (unit === 'px') return file;
  const inMetres = (own: TuningFile, [path, spec]: [string, Spec]) =>
    spec.kind === 'number' && lengths.includes(spec.quantity) && typeof spec.default === 'number' && spec.default !== 0
      ? withValue(own, path, heldIn(spec, spec.default / METRE))
      : own;
  return [...specs].reduce(inMetres, file);
}
