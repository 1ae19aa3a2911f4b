/** Samples that are needed before something is claimed, and the spread of those that agree. */
export const ENOUGH = 4;
const AGREE = 0.05;
/** Fraction by which a number is off before it is reported. */
const OFF = 0.02;
/** Rows between two spans. */
const BETWEEN = 15;

const sorted = (values: readonly number[]) => values.toSorted((a, b) => a - b);
const quantile = (ascending: readonly number[], at: number) => ascending[Math.floor((ascending.length - 1) * at)] as number;

/** The median of values that agree with each other; null if they don't, or are too few. */
export function agreed(values: readonly number[], least = ENOUGH, tail = 0.2): number | null {
  if (values.length < least) return null;
  const all = sorted(values);
  const median = quantile(all, 0.5);
  return quantile(all, 1 - tail) - quantile(all, tail) <= AGREE * Math.abs(median) ? median : null;
}

/** The first rows of spans of rows. */
export function spansOf(rows: readonly number[]): number[] {
  return rows.filter((row, i) => i === 0 || row - (rows[i - 1] as number) > BETWEEN);
}

/** True if a number is so far from the model's that it is reported. */
export const isOff = (game: number, model: number) => Math.abs(game - model) > OFF * Math.max(Math.abs(model), 1e-9);
