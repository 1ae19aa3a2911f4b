import { costOf, leastChange, outside } from './leastSquares.ts';
import { type FitProblem, type Measured, withMargin } from './problem.ts';

/** The point that a descent has come to. */
export interface Descended {
  point: number[];
  measured: Measured;
  cost: number;
}

interface DescentOptions {
  /** The point that changes are counted from. */
  centre: readonly number[];
  /** The weight of the targets against the change. */
  weight: number;
  /** The targets that count, by their numbers; all without. */
  targets?: ReadonlySet<number> | undefined;
  /** Other bands than those of the targets. */
  bands?: readonly (readonly [number, number])[];
  /** Weights of the targets among each other; 1 each without. */
  weights?: readonly number[];
  /** Numbers that stay where they are, by their places. */
  held?: ReadonlySet<number>;
  /** Derivatives at the start, if they are known: they are then updated from step to step (Broyden 1965) instead of measured. */
  slopes?: number[][] | undefined;
  /** Steps at most. */
  most?: number;
}

/** The step of a coordinate for derivatives; a wider one is tried where the narrow one changes nothing that is missed. */
const STEPS = [0.01, 0.08] as const;
/** The first radius of trust, and the smallest. */
const RADIUS = 0.6;
const LEAST_RADIUS = 1e-5;
/** Shares of the predicted decrease that a step must bring to be taken, and to widen the radius. */
const TAKEN = 0.1;
const WIDENED = 0.7;
/** A predicted decrease that isn't worth a step. */
const NEGLIGIBLE = 1e-10;

/** Derivatives of all values at a point, by central differences, one-sided at the end of a range; 0 where a value is missing. */
export function slopesAt(problem: FitProblem, point: readonly number[], held?: ReadonlySet<number>, step: number = STEPS[0]): number[][] {
  const here = problem.at(point);
  const columns = point.map((place, k) => {
    if (held?.has(k)) return here.values.map(() => 0);
    const [low, high] = [Math.max(problem.low[k] as number, place - step), Math.min(problem.high[k] as number, place + step)];
    const [below, above] = [low, high].map((at) => (at === place ? here : problem.at(point.with(k, at))));
    return here.values.map((value, i) => {
      const [from, to] = [below?.values[i] as number, above?.values[i] as number];
      if (Number.isFinite(from) && Number.isFinite(to)) return (to - from) / (high - low);
      if (Number.isFinite(from) && low < place) return (value - from) / (place - low) || 0;
      return (Number.isFinite(to) && high > place && (to - value) / (high - place)) || 0;
    });
  });
  return here.values.map((_, i) => columns.map((column) => column[i] as number));
}

/** Adds to derivatives what a step has shown: J + (Δz − J d) dᵀ / dᵀd. */
function updated(
  slopes: readonly (readonly number[])[],
  d: readonly number[],
  before: readonly number[],
  after: readonly number[],
): number[][] {
  const square = d.reduce((sum, value) => sum + value * value, 0);
  return slopes.map((row, i) => {
    const expected = row.reduce((sum, slope, k) => sum + slope * (d[k] as number), 0);
    const error = (after[i] as number) - (before[i] as number) - expected;
    return Number.isFinite(error) && square > 0 ? row.map((slope, k) => slope + (error * (d[k] as number)) / square) : [...row];
  });
}

/**
 * Descends from a point to a local minimum of ½ |x − c|² + ½ w · missed(x): Gauss–Newton steps with a radius of trust (Levenberg 1944, Marquardt
 * 1963, with the step limited in place of damped), each from the linear problem of `leastChange`.
 */
export function descend(problem: FitProblem, start: readonly number[], options: DescentOptions): Descended {
  const { centre, weight, targets, held, most = 20 } = options;
  const counted = problem.targets.map((_, i) => i).filter((i) => !targets || targets.has(i));
  const bands = (options.bands ?? problem.bands).map(withMargin);
  const costAt = (point: readonly number[], measured: Measured) =>
    0.5 * point.reduce((sum, place, k) => sum + (place - (centre[k] as number)) ** 2, 0) +
    0.5 * weight * problem.missed(measured, bands, targets, options.weights);
  const root = (i: number) => Math.sqrt(options.weights?.[i] ?? 1);
  let point = [...start];
  let measured = problem.at(point);
  let cost = costAt(point, measured);
  let radius = RADIUS;
  let slopes = options.slopes;
  let isFresh = false;
  const isFlat = (rows: readonly (readonly number[])[]) =>
    counted.every(
      (i) => outside(measured.values[i] as number, bands[i] as [number, number]) === 0 || rows[i]?.every((slope) => slope === 0),
    );
  for (let step = 0; step < most && radius > LEAST_RADIUS; step++) {
    if (!slopes) {
      slopes = slopesAt(problem, point, held);
      if (isFlat(slopes)) slopes = slopesAt(problem, point, held, STEPS[1]);
      isFresh = true;
    }
    const known = slopes;
    const rows = counted.filter((i) => Number.isFinite(measured.values[i]));
    const linear = {
      centre: point.map((place, k) => (centre[k] as number) - place),
      low: point.map((place, k) => (held?.has(k) ? 0 : Math.max(-radius, (problem.low[k] as number) - place))),
      high: point.map((place, k) => (held?.has(k) ? 0 : Math.min(radius, (problem.high[k] as number) - place))),
      values: rows.map((i) => root(i) * (measured.values[i] as number)),
      slopes: rows.map((i) => (known[i] as number[]).map((slope) => root(i) * slope)),
      bands: rows.map((i) => bands[i]?.map((end) => root(i) * end) as [number, number]),
      weight,
    };
    const d = leastChange(linear);
    const predicted =
      costOf(
        linear,
        d.map(() => 0),
      ) - costOf(linear, d);
    if (predicted < NEGLIGIBLE) {
      if (isFresh) break;
      slopes = undefined;
      continue;
    }
    const next = point.map((place, k) => place + (d[k] as number));
    const there = problem.at(next);
    const nextCost = costAt(next, there);
    const brought = (cost - nextCost) / predicted;
    slopes = options.slopes ? updated(known, d, measured.values, there.values) : undefined;
    const length = Math.max(...d.map(Math.abs));
    if (brought > TAKEN) {
      if (brought > WIDENED) radius = Math.max(radius, 2 * length);
      [point, measured, cost, isFresh] = [next, there, nextCost, false];
    } else {
      radius = Math.min(radius, length) / 3;
      // The derivatives here stay right: only the step was too long.
      if (!options.slopes) slopes = known;
    }
  }
  return { point, measured, cost };
}
