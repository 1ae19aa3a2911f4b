import type { Ground } from '../../ground/ground.ts';
import type { Target } from '../../targets/targets.ts';
import { isWhole } from '../../tuning/catalogue/specs.ts';
import { isLink } from '../../tuning/links.ts';
import { numberSpec, rawAt, type Tuning } from '../../tuning/tuning.ts';
import { candidatesOf } from '../effects/moves.ts';
import { slopesAt } from './descent.ts';
import { outside } from './leastSquares.ts';
import { type FitNumber, fitNumber } from './numbers.ts';
import { FitProblem } from './problem.ts';

/** Numbers that move without a request, at most. */
const MOST = 6;
/** The change of a missed target (in its logarithm, or its share) for a number’s own change from which on the number matters. */
const MATTERS = 0.02;
/** The step of a number that is tried. */
const STEP = 0.1;

/** Groups that a fit leaves alone unless it is asked: the size of the body and the tick rate belong to the game’s art and engine. */
const fixed = ['body.', 'clock.', 'input.', 'step.cell', 'bounds.inset'];

/**
 * The numbers to move when none are named: those that move the missed targets most, or, if all are met, the targets at all. Links, counts, the
 * body, the clock and the input stay.
 */
export function numbersFor(tuning: Tuning, targets: readonly Target[], ground: Ground | null): FitNumber[] {
  const candidates = candidatesOf(tuning).flatMap((path): FitNumber[] => {
    if (fixed.some((start) => path.startsWith(start))) return [];
    const raw = rawAt(tuning.file, path);
    if (typeof raw !== 'number' || isLink(raw) || isWhole(numberSpec(path))) return [];
    const number = fitNumber(tuning, { path });
    return typeof number === 'string' ? [] : [number];
  });
  const problem = new FitProblem(tuning, candidates, targets, ground);
  const now = candidates.map(() => 0);
  const { values, isMet } = problem.at(now);
  const slopes = slopesAt(problem, now, undefined, STEP);
  const missed = problem.targets
    .map((_, i) => i)
    .filter((i) => isMet || Number.isNaN(values[i]) || outside(values[i] as number, problem.bands[i] as readonly [number, number]) !== 0);
  const effect = (k: number) => Math.max(0, ...missed.map((i) => Math.abs(slopes[i]?.[k] ?? 0)));
  return candidates
    .map((number, k) => ({ number, effect: effect(k) }))
    .filter((one) => one.effect > MATTERS)
    .toSorted((a, b) => b.effect - a.effect)
    .slice(0, MOST)
    .map(({ number }) => number);
}
