import { atan2, PI, wrapAngle } from '../../math/functions.ts';
import { Blocks } from './blocks.ts';
import { Driver } from './drive.ts';
import type { HandsChange } from './hands.ts';
import { kinematicsOf } from './kinematics.ts';
import type { Mover } from './mover.ts';
import type { MoverNumber } from './refine.ts';
import type { Understood } from './understand.ts';

/** A recorded motion with the mover and hands that were found in it, so that it can be driven again with other numbers. */
export interface RecordedMotion {
  times: Float64Array;
  x: Float64Array;
  y: Float64Array;
  mover: Mover;
  changes: HandsChange[];
  diagonal: number;
  /** The velocity at the first row, unit/s. */
  start: [number, number];
  /** The spread of a place, unit. */
  noise: number;
}

/** A stretch in which the recording and the model differ, in words. */
interface Misfit {
  /** s. */
  from: number;
  to: number;
  /** The largest distance between both, unit. */
  apart: number;
  words: string;
}

/** A recorded motion beside that of the model on the same hands. */
export interface Reproduction {
  /** Places of the model, in the recording’s coordinates. */
  x: Float64Array;
  y: Float64Array;
  /** Speeds of the recording and of the model, unit/s. */
  recorded: Float64Array;
  driven: Float64Array;
  /** Distances between both, unit. */
  apart: Float64Array;
  /** The root of the mean square of these along an axis, unit. */
  place: number;
  misfits: Misfit[];
}

/** Spreads of a place from which on the motions differ. */
const FAR = 3.5;
/** The share of a frame’s travel (1/60 s) that they may differ by without noise. */
const TRAVEL = 0.3;
/** Seconds that a misfit takes at least, and between two that are one. */
const LEAST = 0.1;
const TOGETHER = 0.15;
/** Misfits that are listed at most. */
const MOST = 6;
/** Shares of speed, and radians, that explain a misfit. */
const [SPEED, TURN] = [0.04, 0.08];

/** A motion as it was understood, to be driven again. */
export const motionOf = ({ recording: { times, x, y }, kinematics, mover, changes, diagonal }: Understood): RecordedMotion => ({
  times,
  x,
  y,
  mover,
  changes,
  diagonal,
  start: [kinematics.vx[0] as number, kinematics.vy[0] as number],
  noise: kinematics.noise,
});

/** Drives the hands of a recorded motion with its numbers, or with others, and compares. Each second has its own offset of the place. */
export function reproduce(motion: RecordedMotion, numbers: Partial<Record<MoverNumber, number>> = {}): Reproduction {
  const { times, x, y, changes, diagonal, start, noise } = motion;
  const mover = { ...motion.mover, ...numbers };
  const { px, py } = new Driver(times, diagonal, start).drive(mover, changes);
  const blocks = new Blocks(times);
  const weights = new Float64Array(times.length).fill(1);
  const off = (places: Float64Array, driven: Float64Array) =>
    blocks.centred(
      places.map((value, row) => value - (driven[row] as number)),
      weights,
    );
  const [dx, dy] = [off(x, px), off(y, py)];
  const apart = dx.map((value, row) => Math.sqrt(value ** 2 + (dy[row] as number) ** 2));
  const own = kinematicsOf({ times, x, y, facing: null, notes: [] });
  const other = kinematicsOf({ times, x: px, y: py, facing: null, notes: [] });
  const limit = Math.max(FAR * noise, (TRAVEL * Math.max(mover.walk, mover.sprint)) / 60);
  const misfits = stretchesOf(times, apart, limit)
    .map(([from, to]) => {
      const mean = (values: Float64Array) => values.subarray(from, to).reduce((sum, value) => sum + value, 0) / (to - from);
      const heading = ({ vx, vy }: typeof own) => atan2(mean(vy), mean(vx));
      return {
        from: times[from] as number,
        to: times[to - 1] as number,
        apart: apart.subarray(from, to).reduce((most, value) => Math.max(most, value), 0),
        words: wordsOf(mean(own.speed), mean(other.speed), wrapAngle(heading(own) - heading(other))),
      };
    })
    .toSorted((a, b) => b.apart - a.apart)
    .slice(0, MOST)
    .toSorted((a, b) => a.from - b.from);
  return {
    x: x.map((value, row) => value - (dx[row] as number)),
    y: y.map((value, row) => value - (dy[row] as number)),
    recorded: own.speed,
    driven: other.speed,
    apart,
    place: Math.sqrt(apart.reduce((sum, value) => sum + value ** 2, 0) / (2 * times.length)),
    misfits,
  };
}

/** Runs of rows that are apart by more than a limit, as the first row and the one after the last. */
function stretchesOf(times: Float64Array, apart: Float64Array, limit: number): [number, number][] {
  const stretches: [number, number][] = [];
  for (const [row, distance] of apart.entries()) {
    if (distance <= limit) continue;
    const last = stretches.at(-1);
    if (last && (times[row] as number) - (times[last[1] - 1] as number) < TOGETHER) last[1] = row + 1;
    else stretches.push([row, row + 1]);
  }
  return stretches.filter(([from, to]) => (times[to - 1] as number) - (times[from] as number) >= LEAST);
}

/** The difference of a stretch, in words, by the mean speeds and the angle from the model’s heading to the recording’s. */
function wordsOf(recorded: number, driven: number, angle: number): string {
  const share = (recorded - driven) / Math.max(recorded, driven, 1e-9);
  if (Math.abs(share) > SPEED) {
    if (recorded < 0.1 * driven) return 'it stands, the model moves';
    if (driven < 0.1 * recorded) return 'it moves, the model stands';
    return `it is ${Math.round(100 * Math.abs(share))} % ${share > 0 ? 'faster' : 'slower'} than the model`;
  }
  if (Math.abs(angle) > TURN) return `it goes ${Math.round((Math.abs(angle) * 180) / PI)}° ${angle > 0 ? 'right' : 'left'} of the model`;
  return 'it is beside the model';
}
