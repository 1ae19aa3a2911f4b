import type { Ground } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import type { Tape } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { defaultOptions, type PilotOptions } from './options.ts';
import { Pilot, type PilotLap } from './pilot.ts';
import { brief } from './round.ts';

/** Numbers of a lap that vary with jitter. */
const spreadOf = ['time', 'touches', 'contactTime', 'corrections', 'distance', 'sprint'] as const;
type SpreadName = (typeof spreadOf)[number];

/** Median, tenth and ninetieth percentile. */
interface Spread {
  median: number;
  p10: number;
  p90: number;
}

/** Laps of a tuning, and the tape of the first one. */
export interface DrivenLaps {
  laps: PilotLap[];
  /** Of the finished laps; empty if there is none. */
  spread: Partial<Record<SpreadName, Spread>>;
  tape: Tape;
}

/** The quantile of sorted numbers, between neighbours on a straight line. */
function quantile(sorted: readonly number[], share: number): number {
  const at = (sorted.length - 1) * share;
  const low = sorted[Math.floor(at)] as number;
  const high = sorted[Math.ceil(at)] as number;
  return low + (high - low) * (at - Math.floor(at));
}

/** The spread of the finished laps. */
function spreadIn(laps: readonly PilotLap[]): DrivenLaps['spread'] {
  const finished = laps.filter((lap) => lap.finished);
  if (finished.length === 0) return {};
  return Object.fromEntries(
    spreadOf.map((name) => {
      const sorted = finished.map((lap) => lap[name]).sort((a, b) => a - b);
      return [name, { median: quantile(sorted, 0.5), p10: quantile(sorted, 0.1), p90: quantile(sorted, 0.9) }];
    }),
  );
}

/** Has the pilot drive laps round the course of a ground; each lap has the seed after that of the one before. */
export function driveLaps(
  parameters: Parameters,
  ground: Ground,
  options: Partial<PilotOptions> = {},
  count = 1,
  walls = new WallIndex(bucketWalls(ground, parameters.contact.seams)),
): DrivenLaps {
  const own = { ...defaultOptions(parameters), ...options };
  const pilot = new Pilot(brief(parameters, ground, walls, own.line), own);
  const first = pilot.drive('Lap', own.seed);
  const others = Array.from({ length: count - 1 }, (_, i) => pilot.drive('Lap', own.seed + i + 1).lap);
  const laps = [first.lap, ...others];
  return { laps, spread: spreadIn(laps), tape: first.tape };
}

/**
 * Drives several laps, and returns the one in the middle of those that finished, by its time, with its tape and the spread of all; the first one
 * where none is finished.
 */
export function driveMedianLap(
  parameters: Parameters,
  ground: Ground,
  options: Partial<PilotOptions>,
  count: number,
): { lap: PilotLap; tape: Tape; spread: DrivenLaps['spread']; finished: number } {
  const all = driveLaps(parameters, ground, options, count);
  const finished = all.laps.filter((lap) => lap.finished).sort((a, b) => a.time - b.time);
  const middle = finished[(finished.length - 1) >> 1];
  const index = middle ? all.laps.indexOf(middle) : 0;
  // Each lap has the seed after that of the one before: driven again it is the same.
  const seed = (options.seed ?? defaultOptions(parameters).seed) + index;
  const { tape } = index === 0 ? all : driveLaps(parameters, ground, { ...options, seed });
  return { lap: all.laps[index] as PilotLap, tape, spread: all.spread, finished: finished.length };
}
