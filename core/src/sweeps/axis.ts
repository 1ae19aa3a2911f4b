import { specs } from '../tuning/catalogue/catalogue.ts';
import { isWhole, type Spec } from '../tuning/catalogue/specs.ts';
import { isLink } from '../tuning/links.ts';
import type { FileValue, TuningFile } from '../tuning/schema.ts';
import { rawAt, type Tuning, withValue } from '../tuning/tuning.ts';

/** Values of an axis at most, and cells of a sweep. */
const MOST_VALUES = 2000;
export const MOST_CELLS = 1_000_000;

/**
 * An axis of a sweep: a parameter, or the factor of its link (`pace.sprintSpeed.times`), and the values that it takes, in their order.
 */
export interface SweepAxis {
  path: string;
  values: (number | boolean | string)[];
  /** True if the values rise by factors. */
  isLog: boolean;
}

/** Cells of the plane, or the line, over axes. */
export const cellsOver = (axes: readonly SweepAxis[]): number => axes.reduce((product, { values }) => product * values.length, 1);

/** The ending of a path that means the factor of a link. */
const TIMES = '.times';

/** The parameter of an axis, and whether it is the factor of its link. */
function subjectOf(path: string): { of: string; isFactor: boolean } {
  const isFactor = path.endsWith(TIMES);
  return { of: isFactor ? path.slice(0, -TIMES.length) : path, isFactor };
}

/** Values from one end to the other, both included, evenly or by equal factors. */
export function spread(from: number, to: number, count: number, isLog: boolean): number[] {
  return Array.from({ length: count }, (_, i) => {
    if (i === 0) return from;
    if (i === count - 1) return to;
    const share = i / (count - 1);
    return isLog ? from * (to / from) ** share : from + (to - from) * share;
  });
}

const number = (text: string): number => (text.trim() === '' ? Number.NaN : Number(text));

/** Reads the values of a number's axis: `from:to:count`, `from:to:count:log`, or a list `a,b,c`. Returns what is wrong with them, in words. */
function numbersIn(text: string): { values: number[]; isLog: boolean } | string {
  if (!text.includes(':')) {
    const values = text.split(',').map(number);
    const wrong = values.findIndex((value) => !Number.isFinite(value));
    return wrong < 0 ? { values, isLog: false } : `found ${text.split(',')[wrong] || 'nothing'}, expected a number`;
  }
  const [from, to, count, scale, ...more] = text.split(':');
  const [low, high, steps] = [from, to, count].map((part) => number(part ?? '')) as [number, number, number];
  if (!Number.isFinite(low) || !Number.isFinite(high) || more.length > 0) return `found ${text}, expected FROM:TO:COUNT`;
  if (!(low < high)) return `found the ends ${low} and ${high}, expected the first below the second`;
  if (!Number.isInteger(steps) || steps < 2) return `found ${count ?? 'nothing'} for the count, expected a whole number from 2 on`;
  if (steps > MOST_VALUES) return `found ${steps} values, expected at most ${MOST_VALUES}`;
  if (scale !== undefined && scale !== 'log') return `found ${scale}, expected log or nothing`;
  if (scale === 'log' && !(low > 0)) return `found ${low} as the lower end of a log axis, expected a number above 0`;
  return { values: spread(low, high, steps, scale === 'log'), isLog: scale === 'log' };
}

/** Reads the values of an axis of flags or options. */
function optionsIn(text: string, spec: Extract<Spec, { kind: 'flag' | 'choice' }>): (boolean | string)[] | string {
  const options: readonly (boolean | string)[] = spec.kind === 'flag' ? [false, true] : spec.options;
  if (text === '' || text === '*') return [...options];
  const values = text.split(',').map((word) => options.find((option) => String(option) === word.trim()));
  const wrong = values.indexOf(undefined);
  return wrong < 0 ? (values as (boolean | string)[]) : `found ${text.split(',')[wrong]}, expected some of ${options.join(', ')}`;
}

/**
 * Reads an axis: `pace.walkSpeed=60:320:64`, `ramp.decelerate=300:4800:48:log`, `clock.hz=30,60,144`, `ramp.model=linear,smooth`, `stamina.enabled=*`.
 * Returns what is wrong with it, in words.
 */
export function readAxis(text: string, file: TuningFile): SweepAxis | string {
  const at = text.indexOf('=');
  const path = (at < 0 ? text : text.slice(0, at)).trim();
  const rest = at < 0 ? '' : text.slice(at + 1).trim();
  const { of, isFactor } = subjectOf(path);
  const spec = specs.get(of);
  const refused = (why: string) => `${path}: ${why}`;
  if (!spec) return refused('found no such parameter, expected a path of the catalogue such as pace.walkSpeed');
  if (isFactor && !(spec.kind === 'number' && isLink(rawAt(file, of))))
    return refused(`found no link at ${of}, whose factor could be swept`);
  if (spec.kind === 'flag' || spec.kind === 'choice') {
    const values = optionsIn(rest, spec);
    return typeof values === 'string' ? refused(values) : { path, values: [...new Set(values)], isLog: false };
  }
  if (spec.kind !== 'number') return refused(`found a ${spec.kind}, expected a number, a flag or a choice`);
  if (rest === '') return refused('found no values, expected FROM:TO:COUNT or a list');
  const read = numbersIn(rest);
  if (typeof read === 'string') return refused(read);
  const values = [...new Set(isWhole(spec) && !isFactor ? read.values.map(Math.round) : read.values)];
  if (values.length > MOST_VALUES) return refused(`found ${values.length} values, expected at most ${MOST_VALUES}`);
  const outside = isFactor ? undefined : values.find((value) => value < spec.min || value > spec.max);
  if (outside !== undefined) return refused(`found ${outside}, expected numbers from ${spec.min} to ${spec.max}`);
  return { path, values, isLog: read.isLog };
}

/** An axis as `readAxis` reads it: its ends and count where the values are spread so, else the list of them. */
export function axisText({ path, values, isLog }: SweepAxis): string {
  const [from, to] = [values[0], values.at(-1)];
  if (typeof from !== 'number' || typeof to !== 'number') return `${path}=${values.join(',')}`;
  const even = values.length > 1 && from < to ? spread(from, to, values.length, isLog) : [];
  const isSpread = even.length === values.length && even.every((value, i) => value === values[i]);
  return `${path}=${isSpread ? `${from}:${to}:${values.length}${isLog ? ':log' : ''}` : values.join(',')}`;
}

/** The parameter of an axis. */
export const pathOf = ({ path }: SweepAxis): string => subjectOf(path).of;

/** The label of an axis: its parameter's, or that of a factor. */
export function axisLabel(path: string): string {
  const { of, isFactor } = subjectOf(path);
  const label = specs.get(of)?.label ?? of;
  return isFactor ? `${label}, ratio` : label;
}

/** The value of an axis in a tuning: the number, the option, or the factor of the link; undefined where there is no such link. */
export function valueOn({ path }: SweepAxis, { file, parameters }: Tuning): number | boolean | string | undefined {
  const { of, isFactor } = subjectOf(path);
  if (isFactor) {
    const raw = rawAt(file, of);
    return isLink(raw) ? (raw.times ?? 1) : undefined;
  }
  return of.split('.').reduce<unknown>((at, name) => (at as Record<string, unknown>)[name], parameters) as number | boolean | string;
}

/** The place of a value among those of an axis, as an index that may lie between two (between their logarithms on a log axis); null if it is outside. */
export function placeOn({ values, isLog }: SweepAxis, value: number | boolean | string): number | null {
  const exact = values.indexOf(value);
  if (exact >= 0) return exact;
  if (typeof value !== 'number') return null;
  for (let i = 0; i + 1 < values.length; i++) {
    const [a, b] = [values[i], values[i + 1]] as [number, number];
    if (value < Math.min(a, b) || value > Math.max(a, b)) continue;
    return i + (isLog ? Math.log(value / a) / Math.log(b / a) : (value - a) / (b - a));
  }
  return null;
}

/** A tuning's file with a value of an axis; links to it follow. */
export function withAxis(file: TuningFile, { path }: SweepAxis, value: number | boolean | string): TuningFile {
  const { of, isFactor } = subjectOf(path);
  if (!isFactor) return withValue(file, of, value as FileValue);
  const raw = rawAt(file, of);
  return withValue(file, of, isLink(raw) ? { ...raw, times: value as number } : value);
}
