import type { Swipe as Direction } from '@zygopod/core';

/** Where and when a pointer went down: screen pixels and milliseconds. */
export interface Touch {
  x: number;
  y: number;
  time: number;
}

/** A stroke of the pointer as a swipe: its length (screen pixels), its time (s), and its direction; null if it is no swipe. */
export interface Swipe {
  length: number;
  seconds: number;
  direction: Direction | null;
}

/** The swipe from one touch to another; without a direction if it was too short or too slow. Ties go across. */
export function swipeBetween(from: Touch, to: Touch, distance: number, seconds: number): Swipe {
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const swipe = { length: Math.hypot(dx, dy), seconds: (to.time - from.time) / 1000 };
  if (swipe.length < distance || swipe.seconds > seconds) return { ...swipe, direction: null };
  if (Math.abs(dx) >= Math.abs(dy)) return { ...swipe, direction: dx > 0 ? 'right' : 'left' };
  return { ...swipe, direction: dy > 0 ? 'down' : 'up' };
}
