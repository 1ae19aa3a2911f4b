import { scaleLinear } from 'd3-scale';

/** The levels at which contours of a metric are drawn, and the range of its colours. */
export interface Levels {
  values: number[];
  low: number;
  high: number;
  /** True if colours and levels go by factors. */
  isLog: boolean;
}

/** Contours at most, and the ratio of the ends from which levels go by factors. */
const MOST = 9;
const WIDE = 15;

/** Levels for values: round numbers, by factors where the largest is many times the smallest. Values that aren't numbers are left out. */
export function levelsOf(values: ArrayLike<number>): Levels {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < values.length; i++) {
    const value = values[i] as number;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  if (!(low < high)) return { values: [], low: Number.isFinite(low) ? low : 0, high: Number.isFinite(high) ? high : 1, isLog: false };
  const isLog = low > 0 && high / low > WIDE;
  const all = isLog ? byFactors(low, high) : scaleLinear().domain([low, high]).ticks(8);
  const inside = all.filter((value) => value > low && value < high);
  const step = Math.ceil(inside.length / MOST);
  return { values: inside.filter((_, i) => i % step === 0), low, high, isLog };
}

/** 1, 2 and 5 times the powers of ten between two numbers. */
function byFactors(low: number, high: number): number[] {
  const found: number[] = [];
  for (let power = Math.floor(Math.log10(low)); 10 ** power <= high; power++)
    for (const digit of [1, 2, 5]) found.push(Number(`${digit}e${power}`));
  return found.filter((value) => value >= low && value <= high);
}

/** Where a value lies between the ends of the colours, 0 to 1. */
export function shareOf(value: number, { low, high, isLog }: Levels): number {
  if (!(low < high)) return 0.5;
  const share = isLog ? Math.log(value / low) / Math.log(high / low) : (value - low) / (high - low);
  return Math.min(1, Math.max(0, share));
}
