import { type MetricName, metricKey, metricSpecs } from '../../measure/metricSpecs.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { descend } from './descent.ts';
import { changes, type FitRequest, problemOf, withDigits } from './fit.ts';
import { type FitProgress, meet } from './meeting.ts';

/** A point of a trade-off: the values to set, and the two outcomes there. */
export interface FrontPoint {
  set: Record<string, FileValue>;
  values: [number | null, number | null];
  /** True where all other targets hold. */
  othersMet: boolean;
}

/** The values of the first outcome that are tried, and how far beyond a met band, as a logarithm. */
const LEVELS = 15;
const BEYOND = 0.7;
const WEIGHT = 1e4;
/** The weight of the first outcome’s value against the other targets. */
const IMPOSED = 1e4;
const DIGITS = 4;
/** The points that are tried to meet all targets but the first. */
const SAMPLES = 24;

/**
 * The trade-off between two targets, from the point that meets the second one best to the first one’s band, or beyond it in its better direction:
 * at each value of the first outcome the others are fitted again (the ε-constraint method: Haimes, Lasdon, Wismer, 1971).
 */
export function* tradeOff(request: FitRequest, pair: readonly [string, string]): Generator<FitProgress, FrontPoint[]> {
  const problem = problemOf(request);
  const { targets, numbers, tuning } = problem;
  const [first, second] = pair.map((key) => targets.findIndex(({ metric, at }) => metricKey(metric, at) === key)) as [number, number];
  if (first < 0 || second < 0) throw new Error(`no such targets: ${pair.join(', ')}`);
  const { bands } = problem;
  const others = new Set(targets.keys());
  others.delete(first);
  const begun = yield* meet(problem, { targets: others, samples: SAMPLES });
  const from = begun.measured.values[first] as number;
  const [low, high] = bands[first] as readonly [number, number];
  const isLowerBetter = metricSpecs[targets[first]?.metric as MetricName].better !== 'higher';
  const to = from > high ? high : from < low ? low : from + (isLowerBetter ? -BEYOND : BEYOND);
  const points: FrontPoint[] = [];
  let point: readonly number[] = begun.point;
  for (let level = 0; level < LEVELS; level++) {
    const at = from + ((to - from) * level) / (LEVELS - 1);
    const found = descend(problem, point, {
      centre: numbers.map(() => 0),
      weight: WEIGHT,
      bands: bands.with(first, [at, at]),
      weights: targets.map((_, i) => (i === first ? IMPOSED : 1)),
    });
    point = found.point;
    const written = withDigits(problem, point, DIGITS);
    const { judged } = problem.at(written);
    points.push({
      set: changes(tuning.file, problem.fileAt(written), numbers),
      values: [judged[first]?.value ?? null, judged[second]?.value ?? null],
      othersMet: judged.every(({ ok }, i) => ok === true || i === first || i === second),
    });
    yield { measurements: problem.measurements, missed: problem.missed(found.measured, bands) };
  }
  return points;
}
