import { guessHands, type HandsChange, type Wish } from './hands.ts';
import { cruising, type Kinematics, kinematicsOf, levelsOf } from './kinematics.ts';
import type { Mover } from './mover.ts';
import type { Recording } from './recording.ts';
import { type Refined, refine } from './refine.ts';

/** A motion that was understood: the mover, its hands, and the directions that it goes in. */
export interface Understood extends Refined {
  recording: Recording;
  kinematics: Kinematics;
  directions: 4 | 8 | 'free';
  /** Speed on diagonals by that on straights. */
  diagonal: number;
}

/** Seconds of motion without which nothing can be told. */
const LEAST_MOTION = 0.4;
/** A sprint is faster than a walk by this factor at least. */
const FASTER = 1.12;
/** Spreads of a place in a window’s travel from which on a motion is one. */
const CLEAR = 4;
/** Degrees by which a heading may be off a direction, and the share of cruises that must not be. */
const OFF = 7;
const SHARE = 0.9;
/** Directions that are tried where any is possible. */
const FREE = 36;

/** The directions that cruises go in, and the speed on diagonals by that on straights. */
function directionsOf({ vx, vy, speed }: Kinematics, isCruise: readonly boolean[]): { directions: 4 | 8 | 'free'; diagonal: number } {
  const rows = [...isCruise.keys()].filter((i) => isCruise[i]);
  const degrees = (i: number) => (Math.atan2(vy[i] as number, vx[i] as number) * 180) / Math.PI;
  const near = (step: number) => rows.filter((i) => Math.abs(degrees(i) - step * Math.round(degrees(i) / step)) < OFF).length;
  if (rows.length === 0) return { directions: 8, diagonal: 1 };
  if (near(45) < SHARE * rows.length) return { directions: 'free', diagonal: 1 };
  const isStraight = (i: number) => Math.abs(degrees(i) - 90 * Math.round(degrees(i) / 90)) < 22;
  const [straight, slanted] = [rows.filter(isStraight), rows.filter((i) => !isStraight(i))];
  if (slanted.length < 0.02 * rows.length) return { directions: 4, diagonal: 1 };
  const top = (all: number[]) => all.map((i) => speed[i] as number).toSorted((a, b) => a - b)[Math.floor(0.5 * all.length)] as number;
  const ratio = straight.length > 3 ? top(slanted) / top(straight) : 1;
  return { directions: 8, diagonal: Math.abs(ratio - Math.SQRT2) < 0.1 ? Math.SQRT2 : 1 };
}

/** The wishes that hands can have. */
function wishesOf(directions: 4 | 8 | 'free', hasSprint: boolean): Wish[] {
  const count = directions === 'free' ? FREE : directions;
  const angles = Array.from({ length: count }, (_, i) => (i * 2 * Math.PI) / count);
  const gaits = hasSprint ? [false, true] : [false];
  return [{ angle: null, isSprint: false }, ...gaits.flatMap((isSprint) => angles.map((angle) => ({ angle, isSprint })))];
}

/** Rates to begin with: the steepest changes of speed, up and down. */
function steepest({ times }: Recording, { speed, vx, vy, step }: Kinematics): { up: number; down: number } {
  const reach = Math.max(1, Math.round(0.06 / step));
  const [ups, downs]: [number[], number[]] = [[], []];
  for (let i = reach; i < speed.length - reach; i++) {
    const dt = (times[i + reach] as number) - (times[i - reach] as number);
    const change = Math.sqrt(((vx[i + reach] as number) - (vx[i - reach] as number)) ** 2 + ((vy[i + reach] as number) - (vy[i - reach] as number)) ** 2) / dt;
    ((speed[i + reach] as number) > (speed[i - reach] as number) ? ups : downs).push(change);
  }
  const high = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(0.93 * values.length)] ?? 1000;
  return { up: Math.max(1, high(ups)), down: Math.max(1, high(downs)) };
}

/** Understands a recording: speeds, the ramp and its rates, directions, and the hands; or returns why it can’t tell, in words. */
export function understand(recording: Recording): Understood | string {
  const kinematics = kinematicsOf(recording);
  const { noise, step, speed } = kinematics;
  const levels = levelsOf(recording, kinematics);
  const top = levels.at(-1)?.speed ?? 0;
  const moving = speed.filter((value) => value > 0.3 * top).length * step;
  if (top === 0 || moving < LEAST_MOTION || top * Math.max(0.1, 4 * step) < CLEAR * noise)
    return 'found no motion that stands out from the noise, expected starts, cruises and stops';
  const whole = levels.reduce((sum, { seconds }) => sum + seconds, 0);
  const major = levels.filter(({ seconds }) => seconds > 0.06 * whole);
  const fastest = (major.at(-1) ?? { speed: top }).speed;
  const slower = major.filter((level) => level.speed * FASTER < fastest).toSorted((a, b) => b.seconds - a.seconds)[0];
  const hasSprint = slower !== undefined && slower.speed > 0.3 * fastest;
  const walk = hasSprint ? slower.speed : fastest;
  const sprint = hasSprint ? fastest : 0;
  const { directions, diagonal } = directionsOf(kinematics, cruising(recording, kinematics));
  const wishes = wishesOf(directions, hasSprint);
  const { up, down } = steepest(recording, kinematics);
  const base = { walk, sprint, accelerate: up, decelerate: down, brake: 1.3 * down, ease: up, halfLife: 0.06 };
  const options = {
    diagonal,
    start: [kinematics.vx[0] as number, kinematics.vy[0] as number] as const,
    isFree: directions === 'free',
    isOutlier: kinematics.isOutlier,
    noise,
  };
  let best: Refined | null = null;
  for (const model of ['linear', 'smooth', 'instant'] as const) {
    let mover: Mover = { ...base, model };
    let found: Refined | null = null;
    for (let round = 0; round < 2; round++) {
      const changes: HandsChange[] = guessHands(recording, kinematics, mover, wishes, diagonal);
      const next = refine(recording, mover, changes, options);
      if (found && next.criterion >= found.criterion) break;
      found = next;
      mover = next.mover;
    }
    if (found && (!best || found.criterion < best.criterion)) best = found;
  }
  return { ...(best as Refined), recording, kinematics, directions, diagonal };
}
