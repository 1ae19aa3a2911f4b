import { significant } from '../../math/significant.ts';
import { metricKey, metricSpecOf } from '../../measure/metricSpecs.ts';
import { axisLabel } from '../../sweeps/axis.ts';
import type { Target } from '../../targets/targets.ts';
import { unitOf } from '../../tuning/catalogue/catalogue.ts';
import { slopesAt } from './descent.ts';
import { type FitProgress, meet, meets } from './meeting.ts';
import type { FitProblem } from './problem.ts';
import type { Conflict } from './report.ts';

/** Conflicts that are looked for at most. */
const MOST = 5;
/** Points that are tried to meet a part of the targets. */
const SAMPLES = 24;
/** The share of the largest derivative from which on a number counts as moving a target. */
const MOVES = 0.05;

/** A target in words: “Stops within 4 to 9 px”. */
function targetWords({ metric, at, min, max }: Target, length: string): string {
  const { words, quantity } = metricSpecOf(metricKey(metric, at));
  const unit = unitOf(quantity, length);
  const ends = [min, max].filter((end) => end !== undefined).map((end) => significant(end));
  const band =
    min === undefined
      ? `at most ${ends[0]}`
      : max === undefined
        ? `at least ${ends[0]}`
        : ends[0] === ends[1]
          ? ends[0]
          : ends.join(' to ');
  return `${words} ${band}${unit && ` ${unit}`}`;
}

const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/**
 * The smallest sets of targets that can’t be met together, with the numbers that they meet in. A set is found by leaving out targets one by one
 * for as long as the rest can’t be met (deletion filter: Chinneck and Dravnieks, “Locating minimal infeasible constraint sets in linear programs”,
 * 1991); the next one without the targets of those before.
 */
export function* conflictsAt(problem: FitProblem, point: readonly number[]): Generator<FitProgress, Conflict[]> {
  const { judged } = problem.at(point);
  const centre = problem.numbers.map(() => 0);
  const canMeet = function* (targets: ReadonlySet<number>): Generator<FitProgress, boolean> {
    return meets(yield* meet(problem, { starts: [centre, point], targets, samples: SAMPLES }), targets);
  };
  // Those that are met stand last in line: they are left out first.
  let rest = problem.targets.map((_, i) => i).toSorted((a, b) => Number(judged[b]?.ok === false) - Number(judged[a]?.ok === false));
  const conflicts: Conflict[] = [];
  const slopes = slopesAt(problem, point);
  while (conflicts.length < MOST && rest.length > 0) {
    if (conflicts.length > 0 && (yield* canMeet(new Set(rest)))) break;
    let set = [...rest];
    for (const target of rest.toReversed()) {
      const others = set.filter((other) => other !== target);
      if (others.length > 0 && !(yield* canMeet(new Set(others)))) set = others;
    }
    conflicts.push(conflictOf(problem, set, slopes));
    rest = rest.filter((target) => !set.includes(target));
  }
  return conflicts;
}

function conflictOf({ targets, numbers, tuning }: FitProblem, set: readonly number[], slopes: readonly (readonly number[])[]): Conflict {
  const movers = set.map((i) => {
    const row = slopes[i] as number[];
    const most = Math.max(...row.map(Math.abs));
    return numbers.filter((_, k) => most > 0 && Math.abs(row[k] as number) >= MOVES * most).map(({ path }) => path);
  });
  const shared = numbers
    .map(({ path }) => path)
    .filter((path) => movers.filter((paths) => paths.includes(path)).length > (set.length > 1 ? 1 : 0));
  const words = listed(set.map((i) => targetWords(targets[i] as Target, tuning.file.unit)));
  const labels = listed(shared.map(axisLabel));
  const why =
    set.length > 1
      ? `${words} conflict${labels && ` through ${labels}`}`
      : `${words} can’t be met ${labels ? `within the range of ${labels}` : 'by the numbers that may move'}`;
  return { targets: set.map((i) => metricKey(targets[i]?.metric as string, targets[i]?.at)), through: shared, why };
}
