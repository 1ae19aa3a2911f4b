import { absencesOf, metricsOf, runDrills } from '../measure/drills/run.ts';
import { metricKey, metricOfKey } from '../measure/metricSpecs.ts';
import type { FitRequest } from '../search/fit/fit.ts';
import { judgeTargets, type Target } from '../targets/targets.ts';
import type { TuningFile } from '../tuning/schema.ts';
import { numberAt, resolveTuning, type Tuning, withValue } from '../tuning/tuning.ts';
import { sequence } from './sequence.ts';
import { oneOf, sound } from './soundTuning.ts';

/** Outcomes that change steadily with the numbers, and the numbers. */
const outcomes = [
  'riseTime',
  'riseDistance',
  'stopTime',
  'stopDistance',
  'reverseTime',
  'reverseOvershoot',
  'turn90Radius',
  'sprintTime',
  'sprintDistance',
  'recoverTime',
  'cameraLag',
  'facingLag',
] as const;
const paths = [
  'pace.walkSpeed',
  'ramp.accelerate',
  'ramp.decelerate',
  'ramp.brake',
  'ramp.halfLife',
  'stamina.max',
  'stamina.drain',
  'stamina.regain',
  'camera.halfLife',
  'facing.rate',
  'facing.halfLife',
];

/** A fit whose targets come from a hidden tuning: so many targets of it, so many numbers apart. */
export interface FitCase {
  request: FitRequest;
  /** The sum of the squares of ln(hidden / now) over the moved numbers. */
  hiddenChange: number;
}

const resolved = (file: TuningFile): Tuning => {
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
};

const shuffled = <T>(next: () => number, items: readonly T[]): T[] =>
  items
    .map((item) => ({ item, at: next() }))
    .sort((a, b) => a.at - b.at)
    .map(({ item }) => item);

/** All metrics of a tuning. */
function metricsFrom({ parameters }: Tuning) {
  const results = [...runDrills(parameters)];
  return { metrics: metricsOf(results), absent: absencesOf(results) };
}

/** Judges targets by a whole report of a tuning’s file. */
export function judgedBy(file: TuningFile, targets: readonly Target[]) {
  const { metrics, absent } = metricsFrom(resolved(file));
  return judgeTargets(targets, metrics, absent);
}

/** A random fit of `count` targets by `numbers` numbers. */
export function fitCase(seed: number, count = 6, numbers = 4): FitCase {
  const next = sequence(seed * 7919);
  const tuning = sound(seed, {
    scheme: oneOf(next, 'steer', 'steer', 'turn'),
    'ramp.model': oneOf(next, 'linear', 'linear', 'smooth'),
    'stamina.enabled': true,
    'stamina.max': 20 + 100 * next(),
  });
  const now = metricsFrom(tuning).metrics;
  const moves = shuffled(next, paths)
    .slice(0, numbers)
    .map((path) => ({ path }));
  let [file, hiddenChange] = [tuning.file, 0];
  for (const { path } of moves) {
    const change = (next() * 2 - 1) * Math.LN2;
    hiddenChange += change ** 2;
    file = withValue(file, path, numberAt(tuning.parameters, path) * Math.exp(change));
  }
  const { metrics } = metricsFrom(resolved(file));
  const keys = shuffled(next, outcomes).filter((key) => (metrics[key] ?? 0) > 0 && (now[key] ?? 0) > 0);
  const targets = keys.slice(0, count).map((key): Target => {
    const value = metrics[key] as number;
    const room = 0.02 + 0.06 * next();
    return { ...metricOfKey(key), min: value * (1 - room), max: value * (1 + room) };
  });
  return { request: { tuning, targets, ground: null, moves }, hiddenChange };
}

/**
 * A fit with two targets that can’t be met together, the others from a hidden tuning: of one speed, which stays, and one deceleration, a body stops
 * after v/d and within v²/2d; one of them is to be longer and the other shorter.
 */
export function impossibleCase(seed: number): { request: FitRequest; pair: [string, string] } {
  const next = sequence(seed * 104_729);
  const planted = { scheme: 'steer', 'ramp.model': 'linear', 'stamina.enabled': true, 'stamina.max': 20 + 100 * next() };
  const tuning = sound(seed, planted);
  const moves = [
    'ramp.decelerate',
    ...shuffled(next, ['ramp.accelerate', 'ramp.brake', 'stamina.drain', 'stamina.regain']).slice(0, 3),
  ].map((path) => ({ path }));
  const file = moves.reduce((one, { path }) => withValue(one, path, numberAt(tuning.parameters, path) * (0.7 + 0.7 * next())), tuning.file);
  const { metrics } = metricsFrom(resolved(file));
  const band = (metric: string, value: number): Target => ({ metric, min: value * 0.95, max: value * 1.05 });
  const others = shuffled(next, outcomes).filter((key) => !key.startsWith('stop') && (metrics[key] ?? 0) > 0);
  const factor = next() < 0.5 ? 1.5 : 1 / 1.5;
  const targets = [
    band('stopTime', (metrics.stopTime as number) * factor),
    band('stopDistance', (metrics.stopDistance as number) / factor),
    ...others.slice(0, 4).map((key) => band(key, metrics[key] as number)),
  ];
  return {
    request: { tuning, targets: shuffled(next, targets), ground: null, moves },
    pair: [metricKey('stopTime'), metricKey('stopDistance')],
  };
}
