import type { Tuning } from '@zygopod/core';
import type { Motion, Walls } from '../languages/program.ts';
import { motionOf } from '../motion.ts';
import { wallsOf } from '../walls.ts';

/** Generates a tuning's result once for all its users. */
function once<T>(generate: (tuning: Tuning) => T): (tuning: Tuning) => T {
  const kept = new Map<string, T>();
  return (tuning) => {
    const key = JSON.stringify(tuning.file);
    const known = kept.get(key) ?? generate(tuning);
    kept.set(key, known);
    return known;
  };
}

export const motionOnce: (tuning: Tuning) => Motion = once((tuning) => motionOf(tuning));
export const wallsOnce: (tuning: Tuning) => Walls = once((tuning) => wallsOf(tuning));
