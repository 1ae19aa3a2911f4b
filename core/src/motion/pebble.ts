import type { WallIndex } from '../ground/wallIndex.ts';
import { cos, DEGREE, sin } from '../math/functions.ts';

/** The straight flight of a pebble: its start, its direction (unit vector), and its length. */
interface Flight {
  x: number;
  y: number;
  dx: number;
  dy: number;
  /** Distance to the wall that it hits, or to the end of its range. */
  length: number;
  /** True if a wall ends it. */
  hits: boolean;
}

/** Distance (unit) after which a pebble that hits nothing is gone. */
const LOST = 1200;

/**
 * A pebble thrown from (x, y) along a facing given in degrees, until the first wall. It has no size, so that it shows the
 * aim and nothing else.
 */
export function throwPebble(walls: WallIndex, x: number, y: number, facing: number): Flight {
  const dx = cos(facing * DEGREE);
  const dy = sin(facing * DEGREE);
  const [toX, toY] = [x + dx * LOST, y + dy * LOST];
  walls.near(Math.min(x, toX), Math.min(y, toY), Math.max(x, toX), Math.max(y, toY));
  let length = LOST;
  for (let i = 0; i < walls.count; i++) length = Math.min(length, hitAt(walls.segments, walls.found[i] as number, x, y, dx, dy));
  return { x, y, dx, dy, length, hits: length < LOST };
}

/** Distance along a ray to a segment; Infinity if it misses. */
function hitAt(segments: Float64Array, index: number, x: number, y: number, dx: number, dy: number): number {
  const i = index * 4;
  const ax = (segments[i] as number) - x;
  const ay = (segments[i + 1] as number) - y;
  const ex = (segments[i + 2] as number) - x - ax;
  const ey = (segments[i + 3] as number) - y - ay;
  const cross = dx * ey - dy * ex;
  if (cross === 0) return Infinity;
  const along = (ax * ey - ay * ex) / cross;
  const share = (ax * dy - ay * dx) / cross;
  return along >= 0 && share >= 0 && share <= 1 ? along : Infinity;
}
