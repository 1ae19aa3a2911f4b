import type { Ground } from '../ground/ground.ts';
import { solidTester } from '../ground/outlines.ts';
import { squareTo, type WallIndex } from '../ground/wallIndex.ts';

/** Room at evenly spaced places: the radius of the largest circle that fits there, 0 in a wall, at most `most`. */
export interface Clearance {
  /** Distance between places, unit; the first lies half of it from the ground's corner. */
  step: number;
  columns: number;
  rows: number;
  most: number;
  values: Float32Array;
}

/** Maximum number of places. */
const PLACES = 120_000;

/** Distance from a place to the nearest wall, at most `most`; 0 inside of one. */
export function clearanceAt(isSolid: (x: number, y: number) => boolean, walls: WallIndex, x: number, y: number, most: number): number {
  if (isSolid(x, y)) return 0;
  walls.near(x - most, y - most, x + most, y + most);
  let least = most * most;
  for (let k = 0; k < walls.count; k++) least = Math.min(least, squareTo(walls.buckets, walls.found[k] as number, x, y));
  return Math.sqrt(least);
}

/** The room all over a ground, up to `most` (unit). */
export function clearanceField(ground: Ground, walls: WallIndex, most: number): Clearance {
  const { width, height } = ground.size;
  const step = Math.max(most / 8, Math.sqrt((width * height) / PLACES));
  const columns = Math.max(1, Math.ceil(width / step));
  const rows = Math.max(1, Math.ceil(height / step));
  const isSolid = solidTester(ground);
  const values = new Float32Array(columns * rows);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++)
      values[row * columns + column] = clearanceAt(isSolid, walls, (column + 0.5) * step, (row + 0.5) * step, most);
  return { step, columns, rows, most, values };
}
