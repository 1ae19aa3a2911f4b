import { atan2, PI } from '../../math/functions.ts';
import type { Wish } from './hands.ts';
import { type Kinematics, levelsOf } from './kinematics.ts';
import type { Recording } from './recording.ts';

/** A sprint is faster than a walk by this factor at least. */
const FASTER = 1.12;
/** Degrees by which a heading may be off a direction, and the share of cruises that must not be. */
const OFF = 7;
const SHARE = 0.9;
/** The share below which directions are surely not eight: random ones have 0.31. */
const CHANCE = 0.42;
/** Directions that are tried where any is possible. */
const FREE = 36;
/** Radians by which a direction may be off those. */
export const GRAIN = 0.05;

/** The directions that cruises go in (`any`: noise hides whether they are eight), and the speed on diagonals by that on straights. */
export function directionsOf(
  { vx, vy, speed }: Kinematics,
  isCruise: readonly boolean[],
): { directions: 4 | 8 | 'free' | 'any'; diagonal: number } {
  const rows = [...isCruise.keys()].filter((i) => isCruise[i]);
  const degrees = (i: number) => (atan2(vy[i] as number, vx[i] as number) * 180) / PI;
  const near = (step: number) => rows.filter((i) => Math.abs(degrees(i) - step * Math.round(degrees(i) / step)) < OFF).length;
  if (rows.length === 0) return { directions: 8, diagonal: 1 };
  if (near(45) < SHARE * rows.length) return { directions: near(45) < CHANCE * rows.length ? 'free' : 'any', diagonal: 1 };
  const isStraight = (i: number) => Math.abs(degrees(i) - 90 * Math.round(degrees(i) / 90)) < 22;
  const [straight, slanted] = [rows.filter(isStraight), rows.filter((i) => !isStraight(i))];
  if (slanted.length < 0.02 * rows.length) return { directions: 4, diagonal: 1 };
  const top = (all: number[]) => all.map((i) => speed[i] as number).toSorted((a, b) => a - b)[Math.floor(0.5 * all.length)] as number;
  const ratio = straight.length > 3 ? top(slanted) / top(straight) : 1;
  return { directions: 8, diagonal: Math.abs(ratio - Math.SQRT2) < 0.1 ? Math.SQRT2 : 1 };
}

/** The wishes that hands can have. */
export function wishesOf(directions: 4 | 8 | 'free', hasSprint: boolean): Wish[] {
  const count = directions === 'free' ? FREE : directions;
  const angles = Array.from({ length: count }, (_, i) => (i * 2 * PI) / count);
  const gaits = hasSprint ? [false, true] : [false];
  return [{ angle: null, isSprint: false }, ...gaits.flatMap((isSprint) => angles.map((angle) => ({ angle, isSprint })))];
}

/** Rates to begin with: the steepest changes of speed, up and down. */
export function steepest({ times }: Recording, { speed, vx, vy, step }: Kinematics): { up: number; down: number } {
  const reach = Math.max(1, Math.round(0.06 / step));
  const [ups, downs]: [number[], number[]] = [[], []];
  for (let i = reach; i < speed.length - reach; i++) {
    const dt = (times[i + reach] as number) - (times[i - reach] as number);
    const change =
      Math.sqrt(
        ((vx[i + reach] as number) - (vx[i - reach] as number)) ** 2 + ((vy[i + reach] as number) - (vy[i - reach] as number)) ** 2,
      ) / dt;
    ((speed[i + reach] as number) > (speed[i - reach] as number) ? ups : downs).push(change);
  }
  const high = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(0.93 * values.length)] ?? 1000;
  return { up: Math.max(1, high(ups)), down: Math.max(1, high(downs)) };
}

/** Pairs of walk and sprint speed to begin with, the likeliest first; sprint 0: there is none. */
export function speedsToTry(recording: Recording, kinematics: Kinematics): [walk: number, sprint: number][] {
  const levels = levelsOf(recording, kinematics);
  const whole = levels.reduce((sum, { seconds }) => sum + seconds, 0);
  const major = levels.filter(({ seconds }) => seconds > 0.06 * whole);
  const sorted = [...kinematics.speed].toSorted((a, b) => a - b);
  const top = sorted[Math.floor(0.97 * sorted.length)] as number;
  const fastest = major.at(-1)?.speed ?? top;
  const slower = major.filter(({ speed }) => speed * FASTER < fastest && speed > 0.3 * fastest).toSorted((a, b) => b.seconds - a.seconds);
  const pairs: [number, number][] = slower.map(({ speed }) => [speed, fastest]);
  const first: [number, number][] = [...pairs.slice(0, 2), [fastest, 0]];
  return [...first, [top / 1.7, top], [top, 0]];
}
