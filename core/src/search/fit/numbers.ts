import { exp, log } from '../../math/functions.ts';
import { withAxis } from '../../sweeps/axis.ts';
import { specs } from '../../tuning/catalogue/catalogue.ts';
import { isWhole } from '../../tuning/catalogue/specs.ts';
import { isLink } from '../../tuning/links.ts';
import type { TuningFile } from '../../tuning/schema.ts';
import { numberAt, rawAt, type Tuning } from '../../tuning/tuning.ts';

/** A number that a fit may move: a parameter, or the factor of its link (`pace.sprintSpeed.times`), and the range that it stays in. */
export interface MoveRequest {
  path: string;
  min?: number | undefined;
  max?: number | undefined;
}

/** A number that moves, with its coordinate: ln(v / now) where the range is above 0, else (v − now) / (max − min). It is 0 now. */
export interface FitNumber {
  path: string;
  now: number;
  min: number;
  max: number;
  isLog: boolean;
}

/** Ranges without a request go from a quarter of the number to four times as much. */
const FOLD = 4;

const TIMES = '.times';

/** Reads a request: the number with its range, or what is wrong with it, in words. */
export function fitNumber({ file, parameters }: Tuning, { path, min, max }: MoveRequest): FitNumber | string {
  const isFactor = path.endsWith(TIMES);
  const of = isFactor ? path.slice(0, -TIMES.length) : path;
  const spec = specs.get(of);
  const refused = (why: string) => `${path}: ${why}`;
  if (!spec) return refused('found no such parameter, expected a path of the catalogue such as pace.walkSpeed');
  if (spec.kind !== 'number') return refused(`found a ${spec.kind}, expected a number`);
  if (isWhole(spec)) return refused('found a count, expected a number that can change by any amount');
  const raw = rawAt(file, of);
  if (isFactor && !isLink(raw)) return refused(`found no link at ${of}, whose factor could move`);
  const now = isFactor && isLink(raw) ? (raw.times ?? 1) : numberAt(parameters, of);
  const [least, most] = isFactor ? [0, spec.max] : [spec.min, spec.max];
  const spread = now > 0 ? [now / FOLD, now * FOLD] : [least, Math.max(now, 1) * FOLD];
  const low = min ?? Math.min(now, Math.max(least, spread[0] as number));
  const high = max ?? Math.max(now, Math.min(most, spread[1] as number));
  if (!Number.isFinite(low) || !Number.isFinite(high)) return refused('found a range with an end that is not a number');
  if (!(low < high)) return refused(`found the range ${low} to ${high}, expected the first end below the second`);
  if (low < least || high > most) return refused(`found the range ${low} to ${high}, expected numbers from ${least} to ${most}`);
  return { path, now, min: low, max: high, isLog: low > 0 && now > 0 };
}

/** The coordinate of a value. */
export const placeOf = ({ now, min, max, isLog }: FitNumber, value: number): number =>
  isLog ? log(value / now) : (value - now) / (max - min);

/** The value at a coordinate, within the range. */
export function valueAt({ now, min, max, isLog }: FitNumber, place: number): number {
  if (place === 0) return now;
  const value = isLog ? now * exp(place) : now + place * (max - min);
  return Math.min(max, Math.max(min, value));
}

/** The tuning's file with the numbers at these values; what is linked to them follows. */
export const fileWith = (file: TuningFile, numbers: readonly FitNumber[], values: readonly number[]): TuningFile =>
  numbers.reduce((moved, number, i) => withAxis(moved, { path: number.path, values: [], isLog: false }, values[i] as number), file);
