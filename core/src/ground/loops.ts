import { cellMask, solidAt } from './cellMask.ts';
import type { Ground, Wall } from './ground.ts';

/**
 * A closed outline: x, y, x, y, … The solid lies to the left of each side in a frame whose y grows upwards (to its right on screens), so that the
 * area is positive; holes run in the other direction.
 */
export type Loop = readonly number[];

/**
 * The walls of a ground as loops: outlines of merged cells with their holes, closed walls, and open walls as loops that run
 * there and back. A closed wall that crosses itself is given side by side.
 */
export function wallLoops(ground: Ground): Loop[] {
  const loops: Loop[] = cellLoops(ground);
  for (const wall of ground.walls) if (wall.solid !== false) loops.push(...loopsOf(wall));
  return loops;
}

/** Twice the area of a loop, positive where it runs counter-clockwise with y upwards. */
export function doubleArea(loop: Loop): number {
  let sum = 0;
  for (let i = 0, j = loop.length - 2; i < loop.length; j = i, i += 2)
    sum += (loop[j] as number) * (loop[i + 1] as number) - (loop[i] as number) * (loop[j + 1] as number);
  return sum;
}

function loopsOf({ points, closed }: Wall): Loop[] {
  // Points that repeat the one before say nothing.
  const own = points.filter(([x, y], i) => i === 0 || x !== points[i - 1]?.[0] || y !== points[i - 1]?.[1]);
  if (closed && own.length > 1 && own[0]?.[0] === own.at(-1)?.[0] && own[0]?.[1] === own.at(-1)?.[1]) own.pop();
  if (own.length < 2) return [];
  if (!closed || own.length === 2) return [[...own, ...own.slice(1, -1).reverse()].flat()];
  if (selfCrossing(own)) return own.map((point, i) => [...point, ...(own[(i + 1) % own.length] as [number, number])]);
  const loop = own.flat();
  return [doubleArea(loop) > 0 ? loop : [...own].reverse().flat()];
}

/** The first point in which two sides of a polygon cross or touch, other than neighbours at their corner; null if none do. */
export function selfCrossing(points: readonly (readonly [number, number])[]): [number, number] | null {
  const n = points.length;
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      const neighbours = j === i + 1 || (i === 0 && j === n - 1);
      const [a, b, c, d] = [points[i], points[(i + 1) % n], points[j], points[(j + 1) % n]] as [number, number][];
      const at = crossing(a as [number, number], b as [number, number], c as [number, number], d as [number, number], neighbours);
      if (at) return at;
    }
  return null;
}

type Point = readonly [number, number];

const turn = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

function crossing(a: Point, b: Point, c: Point, d: Point, neighbours: boolean): [number, number] | null {
  const [t1, t2, t3, t4] = [turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)];
  if (neighbours) {
    // Neighbours share a corner; they are at fault only where one runs back over the other.
    const folds = t1 === 0 && t2 === 0 && (b[0] - a[0]) * (d[0] - c[0]) + (b[1] - a[1]) * (d[1] - c[1]) < 0;
    return folds ? [c[0], c[1]] : null;
  }
  if (t1 > 0 === t2 > 0 && t1 !== 0 && t2 !== 0) return null;
  if (t3 > 0 === t4 > 0 && t3 !== 0 && t4 !== 0) return null;
  if (t1 === 0 && t2 === 0) {
    const axis = a[0] === b[0] ? 1 : 0;
    const apart = Math.max(a[axis], b[axis]) < Math.min(c[axis], d[axis]) || Math.max(c[axis], d[axis]) < Math.min(a[axis], b[axis]);
    return apart ? null : [c[0], c[1]];
  }
  const share = t3 / (t3 - t4);
  return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
}

/** Direction numbers of a walk along cell borders, and their steps. */
const STEPS = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
] as const;

/**
 * Walks round every region of solid cells and every hole in one, cell side by cell side with the solid cell to the left (y
 * upwards), and keeps the corners. Where two cells touch at a corner only, the walk keeps to its own cell, so loops are simple.
 */
function cellLoops(ground: Ground): Loop[] {
  const mask = cellMask(ground);
  const { columns, rows } = mask;
  const { cell } = ground;
  const width = columns + 1;
  const seen = new Uint8Array(width * (rows + 1) * 4);
  // Going along a border, the cell on the left with y upwards is the one with the larger y here for a step to the right.
  const isBorder = (x: number, y: number, direction: number): boolean => {
    switch (direction) {
      case 0:
        return solidAt(mask, x, y) === 1 && solidAt(mask, x, y - 1) === 0;
      case 1:
        return solidAt(mask, x - 1, y) === 1 && solidAt(mask, x, y) === 0;
      case 2:
        return solidAt(mask, x - 1, y - 1) === 1 && solidAt(mask, x - 1, y) === 0;
      default:
        return solidAt(mask, x, y - 1) === 1 && solidAt(mask, x - 1, y - 1) === 0;
    }
  };
  const loops: Loop[] = [];
  for (let y = 0; y <= rows; y++)
    for (let x = 0; x <= columns; x++) {
      if (seen[(y * width + x) * 4] || !isBorder(x, y, 0)) continue;
      const loop: number[] = [];
      let [cx, cy, direction] = [x, y, 0];
      do {
        seen[(cy * width + cx) * 4 + direction] = 1;
        cx += (STEPS[direction] as readonly [number, number])[0];
        cy += (STEPS[direction] as readonly [number, number])[1];
        // Turn towards the solid first, then go straight on, then away from it.
        const towards = (direction + 1) % 4;
        const next = isBorder(cx, cy, towards) ? towards : isBorder(cx, cy, direction) ? direction : (direction + 3) % 4;
        if (next !== direction) loop.push(cx * cell, cy * cell);
        direction = next;
      } while (cx !== x || cy !== y || direction !== 0);
      loops.push(loop);
    }
  return loops;
}
