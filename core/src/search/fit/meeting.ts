import { type Descended, descend } from './descent.ts';
import type { FitProblem } from './problem.ts';
import type { FitReport } from './report.ts';

/** A search on its way: tunings measured, and the square of what is missed so far. */
export interface FitProgress {
  measurements: number;
  missed: number;
  /** The result as far as it is known: first without the ranges that numbers are held in. */
  report?: FitReport;
}

interface MeetingOptions {
  /** Points to begin at, one after the other, until one leads to the targets. */
  starts?: readonly (readonly number[])[];
  /** The targets that count, by their numbers; all without. */
  targets?: ReadonlySet<number> | undefined;
  /** Numbers that stay where the start has them. */
  held?: ReadonlySet<number>;
  /** Points spread over the ranges that are measured when the starts fail. */
  samples?: number;
}

/** The weight of the targets against the change, and of the last steps, which only return to the targets. */
const WEIGHT = 1e4;
const RETURN = 1e9;
/** The sampled points that are descended from. */
const BEST = 4;
/** The first and the last step of the search without derivatives. */
const [WIDE, NARROW] = [0.25, 0.008];

const primes = [2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37] as const;

/** The radical inverse of a number, from 0 to 1 (Halton, “On the efficiency of certain quasi-random sequences of points”, 1960). */
function radicalInverse(index: number, base: number): number {
  let [sum, part] = [0, 1 / base];
  for (let rest = index; rest > 0; rest = Math.floor(rest / base), part /= base) sum += (rest % base) * part;
  return sum;
}

/** True if a point meets the targets that count. */
export const meets = ({ measured }: Descended, targets?: ReadonlySet<number>): boolean =>
  targets ? [...targets].every((i) => measured.judged[i]?.ok === true) : measured.isMet;

/**
 * Looks for a minimum of the cost among steps along single numbers, up and down, halved when none of them is better (compass search: Kolda, Lewis,
 * Torczon, “Optimization by direct search”, 2003): for counts and other outcomes that change in jumps.
 */
function compass(problem: FitProblem, from: Descended, costAt: (point: readonly number[]) => number, held?: ReadonlySet<number>): number[] {
  let point = from.point;
  let cost = costAt(point);
  for (let step: number = WIDE; step > NARROW; ) {
    let isBetter = false;
    for (const k of point.keys())
      for (const sign of held?.has(k) ? [] : [1, -1]) {
        const place = Math.min(problem.high[k] as number, Math.max(problem.low[k] as number, (point[k] as number) + sign * step));
        const next = point.with(k, place);
        const nextCost = costAt(next);
        if (nextCost >= cost) continue;
        [point, cost, isBetter] = [next, nextCost, true];
        break;
      }
    if (!isBetter) step /= 2;
  }
  return point;
}

/** Searches the point with the smallest change that meets the targets, or else the best compromise. Deterministic. */
export function* meet(problem: FitProblem, options: MeetingOptions = {}): Generator<FitProgress, Descended> {
  const { numbers } = problem;
  const { targets, held, samples = 60 } = options;
  const centre = numbers.map(() => 0);
  const missedAt = (point: readonly number[]) => problem.missed(problem.at(point), problem.bands, targets);
  let best: Descended | null = null;
  const isBetter = (one: Descended) => {
    if (!best) return true;
    const [met, bestMet] = [meets(one, targets), meets(best, targets)];
    if (met !== bestMet) return met;
    return met ? changeOf(one.point) < changeOf(best.point) : missedAt(one.point) < missedAt(best.point);
  };
  const from = (start: readonly number[]) => {
    let found = descend(problem, start, { centre, weight: WEIGHT, targets, ...(held ? { held } : {}) });
    if (!meets(found, targets))
      found = descend(problem, found.point, { centre: found.point, weight: RETURN, targets, ...(held ? { held } : {}), most: 12 });
    if (isBetter(found)) best = found;
    return meets(found, targets);
  };
  const progress = (): FitProgress => ({
    measurements: problem.measurements,
    missed: best ? missedAt(best.point) : Number.POSITIVE_INFINITY,
  });
  const { starts = [centre] } = options;
  for (const start of starts) {
    const isMet = from(start);
    yield progress();
    if (isMet) return best as unknown as Descended;
  }
  if (samples === 0) return best as unknown as Descended;
  const costAt = (point: readonly number[]) => changeOf(point) / WEIGHT + missedAt(point);
  const tried = compass(problem, best as unknown as Descended, costAt, held);
  yield progress();
  if (from(tried)) return best as unknown as Descended;
  const start = starts[0] as readonly number[];
  const points: { point: number[]; cost: number }[] = [];
  for (let i = 1; i <= samples; i++) {
    const point = start.map((place, k) => {
      const [low, high] = [problem.low[k] as number, problem.high[k] as number];
      return held?.has(k) ? place : low + (high - low) * radicalInverse(i, primes[k % primes.length] as number);
    });
    points.push({ point, cost: costAt(point) });
    yield progress();
  }
  for (const { point } of points.toSorted((a, b) => a.cost - b.cost).slice(0, BEST)) {
    const isMet = from(point);
    yield progress();
    if (isMet) break;
  }
  return best as unknown as Descended;
}

/** The size of a change: the sum of the squares of the coordinates. */
const changeOf = (point: readonly number[]): number => point.reduce((sum, place) => sum + place * place, 0);
