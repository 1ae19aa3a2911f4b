import { placeOn, type SweepAxis, shortNumber } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';

/** A tick of an axis: where it is, in cells from the start of the axis, and its text. */
export interface Tick {
  at: number;
  text: string;
}

/** Round numbers on a log axis: 1, 2 and 5 times powers of ten, or only some where these are few or many. */
function logTicks(low: number, high: number): number[] {
  const within = (digits: readonly number[]) => {
    const found: number[] = [];
    for (let power = Math.floor(Math.log10(low)); 10 ** power <= high; power++)
      for (const digit of digits) {
        const value = Number(`${digit}e${power}`);
        if (value >= low && value <= high) found.push(value);
      }
    return found;
  };
  const usual = within([1, 2, 5]);
  return usual.length < 4 ? within([1, 1.5, 2, 3, 4, 5, 6, 8]) : usual.length > 8 ? within([1]) : usual;
}

/** The ticks of an axis, so many at most: round numbers between its ends, or its own values where these are few or no numbers. */
export function ticksOf(axis: SweepAxis, most: number): Tick[] {
  const { values, isLog } = axis;
  const [from, to] = [values[0], values.at(-1)];
  const isNumeric = typeof from === 'number' && typeof to === 'number' && from < to;
  const own = isNumeric && values.length > most ? null : values;
  const wanted =
    own ??
    (isLog
      ? logTicks(from as number, to as number)
      : scaleLinear()
          .domain([from as number, to as number])
          .ticks(most));
  const step = Math.ceil(wanted.length / most);
  const shown = wanted.filter((_, i) => i % step === 0);
  const digits = own ? digitsOf(shown) : ALL;
  return shown.flatMap((value): Tick[] => {
    const at = placeOn(axis, value);
    return at === null ? [] : [{ at: at + 0.5, text: textOf(value, digits) }];
  });
}

/** Significant digits at least of an axis's own values, and those of round numbers. */
const FEW = 4;
const ALL = 12;

/** The fewest digits with which numbers differ: an axis's own values may have all those of a double. */
function digitsOf(values: readonly (number | boolean | string)[]): number {
  const numbers = values.filter((value) => typeof value === 'number');
  let digits = FEW;
  while (digits < ALL && new Set(numbers.map((value) => value.toPrecision(digits))).size < numbers.length) digits++;
  return digits;
}

const textOf = (value: number | boolean | string, digits: number): string =>
  typeof value === 'number' ? shortNumber(Number(value.toPrecision(digits)), 4) : value === true ? 'on' : value === false ? 'off' : value;
