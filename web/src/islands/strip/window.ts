import type { Drive } from '../drive/drive.ts';
import type { StripWindow } from '../tuning/context.ts';

/** Room left and right of the lanes, px. */
export const LEFT = 96;
export const RIGHT = 22;

/** Shortest and longest window, s. */
export const NARROWEST = 0.25;
export const WIDEST = 600;

/** The times at the left and the right of the lanes. */
export function windowSpan(drive: Drive, window: StripWindow): [number, number] {
  const { trace } = drive.world;
  const loop = drive.$loop.get();
  if (loop && window.end === null) return [loop.begins, loop.begins + Math.max(NARROWEST, loop.length)];
  const newest = trace.at('time', trace.end - 1);
  const end = window.end ?? Math.max(newest, window.length);
  return [end - window.length, end];
}
