import type { Ground } from '../../ground/ground.ts';
import { metricKey, metricSpecs } from '../../measure/metricSpecs.ts';
import { type Target, targetFaults } from '../../targets/targets.ts';
import type { FileValue, TuningFile } from '../../tuning/schema.ts';
import { rawAt, type Tuning } from '../../tuning/tuning.ts';
import { drillsFor } from '../drillsFor.ts';
import { numbersFor } from './choice.ts';
import { conflictsAt } from './conflicts.ts';
import { type FitProgress, meet } from './meeting.ts';
import { type FitNumber, fitNumber, type MoveRequest, placeOf } from './numbers.ts';
import { FitProblem } from './problem.ts';
import { profileOf } from './profile.ts';
import type { FitReport } from './report.ts';

/** A search for a tuning that meets targets. */
export interface FitRequest {
  tuning: Tuning;
  targets: readonly Target[];
  ground: Ground | null;
  /** The numbers that may move; empty: those that matter for the targets. */
  moves: readonly MoveRequest[];
}

/** The faults of a request, in words. */
export function fitFaults({ tuning, targets, ground, moves }: FitRequest): string[] {
  const faults: string[] = [];
  if (targets.length === 0) faults.push('found no target, expected one or more');
  for (const [i, fault] of targetFaults(targets).entries()) if (fault) faults.push(`target ${i + 1}: ${fault}`);
  for (const { metric, at } of targets) {
    const key = metricKey(metric, at);
    const [drill] = Object.hasOwn(metricSpecs, metric) ? drillsFor([key]) : [];
    if (Object.hasOwn(metricSpecs, metric) && !drill) faults.push(`${key}: found no drill that measures it`);
    else if (drill?.name === 'lap' && !ground?.course) faults.push(`${key}: needs a ground with a course`);
  }
  const numbers = moves.map((move) => fitNumber(tuning, move));
  faults.push(...numbers.filter((number) => typeof number === 'string'));
  const paths = moves.map(({ path }) => path.replace(/\.times$/, ''));
  const twice = paths.find((path, i) => paths.indexOf(path) !== i);
  if (twice) faults.push(`${twice}: found it twice, expected each number once`);
  return faults;
}

/** Digits that fitted numbers are rounded to, the fewest first that still meet the targets. */
const DIGITS = [3, 4, 5, 6, 8] as const;
/** Digits of a compromise. */
const COMPROMISE = 4;

/** A point with so many digits of each number that moved. */
export function withDigits(problem: FitProblem, point: readonly number[], digits: number): number[] {
  const values = problem.valuesAt(point);
  return problem.numbers.map((number, k) => {
    const value = values[k] as number;
    return value === number.now ? (point[k] as number) : placeOf(number, Number(value.toPrecision(digits)));
  });
}

/** The point whose numbers have the fewest digits and still meet the targets; four digits where these can’t be met anyway. */
function rounded(problem: FitProblem, point: readonly number[]): readonly number[] {
  if (!problem.at(point).isMet) return withDigits(problem, point, COMPROMISE);
  for (const digits of DIGITS) {
    const next = withDigits(problem, point, digits);
    if (problem.at(next).isMet) return next;
  }
  return point;
}

/** Puts numbers back that needn’t have moved, the smallest changes first. */
function withoutNeedless(problem: FitProblem, point: readonly number[]): readonly number[] {
  let left = point;
  for (const k of [...point.keys()].toSorted((a, b) => Math.abs(point[a] as number) - Math.abs(point[b] as number))) {
    const next = left.with(k, 0);
    if (left[k] !== 0 && problem.at(next).isMet) left = next;
  }
  return left;
}

/** The problem of a request without faults. */
export function problemOf({ tuning, targets, ground, moves }: FitRequest): FitProblem {
  const requested = moves.map((move) => fitNumber(tuning, move) as FitNumber);
  return new FitProblem(tuning, requested.length > 0 ? requested : numbersFor(tuning, targets, ground), targets, ground);
}

/** Fits a tuning to targets: the smallest change that meets them all, or the best compromise and what stands against what. Deterministic. */
export function* fitTargets(request: FitRequest): Generator<FitProgress, FitReport> {
  const { tuning } = request;
  const problem = problemOf(request);
  const { numbers } = problem;
  const before = problem.at(numbers.map(() => 0));
  const found = yield* meet(problem);
  const isMet = found.measured.isMet;
  const point = rounded(problem, isMet ? withoutNeedless(problem, found.point) : found.point);
  const file = problem.fileAt(point);
  const after = problem.at(point);
  const report: FitReport = {
    met: isMet,
    set: changes(tuning.file, file, numbers),
    held: {},
    free: [],
    conflicts: [],
    metrics: problem.targets.map(({ metric, at, min, max }, i) => ({
      name: metricKey(metric, at),
      before: before.judged[i]?.value ?? null,
      after: after.judged[i]?.value ?? null,
      ...(min === undefined ? {} : { min }),
      ...(max === undefined ? {} : { max }),
      ok: after.judged[i]?.ok ?? null,
    })),
  };
  const progress = (): FitProgress => ({ measurements: problem.measurements, missed: problem.missed(after, problem.bands), report });
  yield progress();
  if (!isMet) {
    for (const search = conflictsAt(problem, point); ; ) {
      const step = search.next();
      if (step.done) return { ...report, conflicts: step.value };
      yield progress();
    }
  }
  for (const [k, { path }] of numbers.entries()) {
    const profile = profileOf(problem, point, k);
    let step = profile.next();
    for (; !step.done; step = profile.next()) yield progress();
    const { low, high, isLowFree, isHighFree } = step.value;
    if (isLowFree && isHighFree) report.free.push(path);
    else report.held[path] = { low, high };
  }
  return report;
}

/** The values of moved numbers that differ between two files. */
export function changes(from: TuningFile, to: TuningFile, numbers: readonly FitNumber[]): Record<string, FileValue> {
  const paths = numbers.map(({ path }) => path.replace(/\.times$/, ''));
  return Object.fromEntries(
    paths.filter((path) => JSON.stringify(rawAt(from, path)) !== JSON.stringify(rawAt(to, path))).map((path) => [path, rawAt(to, path)]),
  );
}
