import { descend, slopesAt } from './descent.ts';
import { meets } from './meeting.ts';
import type { FitProblem } from './problem.ts';

/** The range of a number over which all targets still hold, the other numbers fitted again; null at an end where the number’s own range ends first. */
export interface Held {
  low: number;
  high: number;
  /** True at an end that no target sets: the number’s own range ends there. */
  isLowFree: boolean;
  isHighFree: boolean;
}

/** The first step away from the fitted value, and the halvings of the last one. */
const STEP = 0.02;
const HALVINGS = 4;
const WEIGHT = 1e6;
const REFITS = 4;

/** The profile of a number from a point that meets all targets: how far it can go either way (Venzon and Moolgavkar, “A method for computing profile-likelihood-based confidence intervals”, 1988, with bands in place of a likelihood). */
export function* profileOf(problem: FitProblem, point: readonly number[], k: number): Generator<void, Held> {
  const slopes = slopesAt(problem, point);
  yield;
  const held = new Set([k]);
  /** The point with the number at a place and the others fitted again from a neighbour; null if they can’t meet the targets. */
  const refitted = (place: number, neighbour: readonly number[]): readonly number[] | null => {
    const start = neighbour.with(k, place);
    if (problem.at(start).isMet) return start;
    const found = descend(problem, start, { centre: start, weight: WEIGHT, held, slopes, most: REFITS });
    return meets(found) ? found.point : null;
  };
  const ends: { value: number; isFree: boolean }[] = [];
  for (const sign of [-1, 1]) {
    const end = (sign < 0 ? problem.low[k] : problem.high[k]) as number;
    const atEnd = refitted(end, point);
    yield;
    if (atEnd) {
      ends.push({ value: problem.valuesAt(atEnd)[k] as number, isFree: true });
      continue;
    }
    let [inside, neighbour] = [point[k] as number, point];
    let beyond = end;
    for (let step = STEP; Math.abs(end - inside) > step; step *= 2) {
      const next = refitted(inside + sign * step, neighbour);
      yield;
      if (!next) {
        beyond = inside + sign * step;
        break;
      }
      [inside, neighbour] = [next[k] as number, next];
    }
    for (let halving = 0; halving < HALVINGS; halving++) {
      const middle = (inside + beyond) / 2;
      const next = refitted(middle, neighbour);
      yield;
      if (next) [inside, neighbour] = [middle, next];
      else beyond = middle;
    }
    ends.push({ value: problem.valuesAt(point.with(k, inside))[k] as number, isFree: false });
  }
  const [low, high] = ends as [(typeof ends)[0], (typeof ends)[0]];
  return { low: low.value, high: high.value, isLowFree: low.isFree, isHighFree: high.isFree };
}
