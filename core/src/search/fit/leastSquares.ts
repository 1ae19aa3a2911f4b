import { CholeskyDecomposition, Matrix } from 'ml-matrix';

/**
 * A change to look for: ½ Σ (d − c)² + ½ w Σ v(z + J d)², where v is how far a value is outside of its band, with every d in its box. Convex and
 * piecewise quadratic.
 */
export interface BandProblem {
  /** The change with the least cost, c. */
  centre: readonly number[];
  /** The box of d. */
  low: readonly number[];
  high: readonly number[];
  /** Values now, z, and their derivatives J, a row for each value. */
  values: readonly number[];
  slopes: readonly (readonly number[])[];
  bands: readonly (readonly [number, number])[];
  /** Weight w of the values against the change. */
  weight: number;
}

/** How far a value is outside of its band, with its sign; 0 inside. */
export const outside = (value: number, [low, high]: readonly [number, number]): number =>
  value > high ? value - high : value < low ? value - low : 0;

/** Iterations at most, and halvings of a step. */
const MOST = 60;
const HALVINGS = 30;
const SMALL = 1e-12;

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, value, i) => sum + value * (b[i] as number), 0);

/** The cost of a change. */
export function costOf({ centre, values, slopes, bands, weight }: BandProblem, d: readonly number[]): number {
  const change = d.reduce((sum, value, i) => sum + (value - (centre[i] as number)) ** 2, 0);
  const missed = values.reduce(
    (sum, value, i) => sum + outside(value + dot(slopes[i] as number[], d), bands[i] as [number, number]) ** 2,
    0,
  );
  return 0.5 * change + 0.5 * weight * missed;
}

/**
 * The change with the least cost, by projected Newton steps (Bertsekas, “Projected Newton methods for optimization problems with simple
 * constraints”, 1982): the numbers that the gradient presses against an end of their range are held, the others solve (I + w Jᵀ J) p = −g over
 * the bands that are missed, and the step is shortened until the cost falls.
 */
export function leastChange(problem: BandProblem): number[] {
  const { centre, low, high, values, slopes, bands, weight } = problem;
  const boxed = (d: readonly number[]) => d.map((value, i) => Math.min(high[i] as number, Math.max(low[i] as number, value)));
  let d = boxed(centre.map(() => 0));
  let cost = costOf(problem, d);
  for (let iteration = 0; iteration < MOST; iteration++) {
    const missed = values.map((value, i) => outside(value + dot(slopes[i] as number[], d), bands[i] as [number, number]));
    const gradient = d.map(
      (value, k) => value - (centre[k] as number) + weight * missed.reduce((sum, miss, i) => sum + miss * (slopes[i]?.[k] as number), 0),
    );
    const free = [...d.keys()].filter((k) => {
      const [value, slope] = [d[k] as number, gradient[k] as number];
      return !((value <= (low[k] as number) && slope > 0) || (value >= (high[k] as number) && slope < 0));
    });
    if (free.length === 0) break;
    const active = [...missed.keys()].filter((i) => missed[i] !== 0);
    const curvature = free.map((k) =>
      free.map(
        (l) => (k === l ? 1 : 0) + weight * active.reduce((sum, i) => sum + (slopes[i]?.[k] as number) * (slopes[i]?.[l] as number), 0),
      ),
    );
    const step = new CholeskyDecomposition(new Matrix(curvature)).solve(Matrix.columnVector(free.map((k) => -(gradient[k] as number))));
    const whole = d.map(() => 0);
    for (const [at, k] of free.entries()) whole[k] = step.get(at, 0);
    const from = d;
    let share = 1;
    for (let halving = 0; halving < HALVINGS; halving++, share /= 2) {
      const next = boxed(from.map((value, k) => value + share * (whole[k] as number)));
      const nextCost = costOf(problem, next);
      if (nextCost >= cost) continue;
      [d, cost] = [next, nextCost];
      break;
    }
    if (d === from || d.every((value, k) => Math.abs(value - (from[k] as number)) < SMALL)) break;
  }
  return d;
}
