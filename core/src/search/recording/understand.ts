import { directionsOf, speedsToTry } from './firstGuesses.ts';
import { cruising, type Kinematics, kinematicsOf } from './kinematics.ts';
import type { Recording } from './recording.ts';
import type { MoverNumber, Refined } from './refine.ts';
import { isReproduced, MOST, type RecordingProgress, Search } from './search.ts';

/** A motion that was understood: the mover, its hands, and the directions that it goes in. */
export interface Understood extends Refined {
  recording: Recording;
  kinematics: Kinematics;
  directions: 4 | 8 | 'free';
  /** Speed on diagonals by that on straights. */
  diagonal: number;
  /** The spread of each number, relative, over other motions that are about as likely. */
  doubt: Partial<Record<MoverNumber, number>>;
}

/** Seconds of motion without which nothing can be told. */
const LEAST_MOTION = 0.4;
/** Spreads of a place in a window’s travel, and in all of the motion, from which on a motion is one. */
const CLEAR = 4;
const FAR = 10;

/** The distance between the 5 % and the 95 % quantile of values. */
function reachOf(values: Float64Array): number {
  const sorted = values.toSorted();
  return (sorted[Math.floor(0.95 * sorted.length)] as number) - (sorted[Math.floor(0.05 * sorted.length)] as number);
}

/** Understands a recording: speeds, the ramp and its rates, directions, and the hands; or returns why it can’t tell, in words. */
export function* understand(recording: Recording): Generator<RecordingProgress, Understood | string> {
  const kinematics = kinematicsOf(recording);
  const { noise, step, speed } = kinematics;
  const tries = speedsToTry(recording, kinematics);
  const top = Math.max(...tries.flat());
  const moving = speed.filter((value) => value > 0.3 * top).length * step;
  const isFar = Math.max(reachOf(recording.x), reachOf(recording.y)) > FAR * noise;
  if (!(top > 0) || !isFar || moving < LEAST_MOTION || top * Math.max(0.1, 4 * step) < CLEAR * noise)
    return 'found no motion that stands out from the noise, expected starts, cruises and stops';
  const { directions, diagonal } = directionsOf(kinematics, cruising(recording, kinematics));
  const search = new Search(recording, kinematics, diagonal);
  for (const isFree of directions === 'free' ? [true] : directions === 'any' ? [false, true] : [false])
    for (const pair of tries) {
      yield* search.tryOut(pair, isFree);
      if ((search.best && isReproduced(search.best, kinematics)) || search.attempts >= MOST) break;
    }
  yield* search.cross();
  yield* search.shake();
  yield* search.simplify();
  const best = search.best as Refined;
  return { ...best, recording, kinematics, directions: search.isFree ? 'free' : directions === 4 ? 4 : 8, diagonal, doubt: search.doubt() };
}
