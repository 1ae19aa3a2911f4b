import type { Way } from '@zygopod/core';

/** Where and when a pointer went down: screen pixels and milliseconds. */
export interface Touch {
  x: number;
  y: number;
  time: number;
}

/** The way of a swipe from one touch to another, or null when it was too short or too slow. Ties go across. */
export function swipeBetween(from: Touch, to: Touch, distance: number, seconds: number): Way | null {
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  if (Math.hypot(dx, dy) < distance || to.time - from.time > seconds * 1000) return null;
  if (Math.abs(dx) >= Math.abs(dy)) return dx > 0 ? 'right' : 'left';
  return dy > 0 ? 'down' : 'up';
}
