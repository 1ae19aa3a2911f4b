import type { Tuning } from '@zygopod/core';
import type { Motion, Walls } from '../languages/made.ts';
import { motionOf } from '../motion.ts';
import { wallsOf } from '../walls.ts';

/** What is made of a tuning, once for all that look at it. */
function once<T>(make: (tuning: Tuning) => T): (tuning: Tuning) => T {
  const made = new Map<string, T>();
  return (tuning) => {
    const key = JSON.stringify(tuning.file);
    const known = made.get(key) ?? make(tuning);
    made.set(key, known);
    return known;
  };
}

export const motionOnce: (tuning: Tuning) => Motion = once((tuning) => motionOf(tuning));
export const wallsOnce: (tuning: Tuning) => Walls = once((tuning) => wallsOf(tuning));
