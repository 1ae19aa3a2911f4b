import { shareAlong } from '../math/segment.ts';
import { type Ground, OPEN, type Wall } from './ground.ts';
import { isInside } from './outlines.ts';

/** Changes to a ground: each gives a new ground and leaves the old one as it was. */

/** Cell column and row of a place; they may lie outside of the ground. */
export function cellAt({ cell }: Ground, x: number, y: number): [number, number] {
  return [Math.floor(x / cell), Math.floor(y / cell)];
}

/** Columns and rows of cells that the ground's size has room for. */
function gridSize({ size, cell }: Ground): { columns: number; rows: number } {
  return { columns: Math.max(1, Math.ceil(size.width / cell - 1e-9)), rows: Math.max(1, Math.ceil(size.height / cell - 1e-9)) };
}

/** The cells with everything that they leave out. */
function fullCells(ground: Ground): string[][] {
  const { columns, rows } = gridSize(ground);
  return Array.from({ length: rows }, (_, y) => Array.from({ length: columns }, (__, x) => ground.cells[y]?.[x] ?? OPEN));
}

/** The smallest list of rows that holds all marks; a ground without marks has no cells. */
function trimmed(rows: string[][]): string[] {
  const cells = rows.map((row) => row.join(''));
  return cells.every((row) => [...row].every((mark) => mark === OPEN)) ? [] : cells;
}

/** Sets the mark of cells, given as [column, row]; those outside of the ground are passed over. */
export function paintCells(ground: Ground, places: Iterable<readonly [number, number]>, mark: string): Ground {
  const cells = fullCells(ground);
  for (const [column, row] of places) {
    const line = cells[row];
    if (line && column >= 0 && column < line.length) line[column] = mark;
  }
  return { ...ground, cells: trimmed(cells) };
}

/** All cells of the rectangle between two cells, both included. */
export function cellsBetween([x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): [number, number][] {
  const [left, right, top, bottom] = [Math.min(x0, x1), Math.max(x0, x1), Math.min(y0, y1), Math.max(y0, y1)];
  return Array.from({ length: (right - left + 1) * (bottom - top + 1) }, (_, i) => [
    left + (i % (right - left + 1)),
    top + Math.floor(i / (right - left + 1)),
  ]);
}

/** The cells that a straight stroke from one cell to another passes (Bresenham's line). */
export function cellsAlong([x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): [number, number][] {
  const steps = Math.max(Math.abs(x1 - x0), Math.abs(y1 - y0), 1);
  return Array.from({ length: steps + 1 }, (_, i) => [Math.round(x0 + ((x1 - x0) * i) / steps), Math.round(y0 + ((y1 - y0) * i) / steps)]);
}

/** The connected cells (by their sides) of the same mark as the one given. */
export function cellsLike(ground: Ground, [column, row]: readonly [number, number]): [number, number][] {
  const cells = fullCells(ground);
  const wanted = cells[row]?.[column];
  if (wanted === undefined) return [];
  const found: [number, number][] = [];
  const stack: [number, number][] = [[column, row]];
  while (stack.length > 0) {
    const [x, y] = stack.pop() as [number, number];
    const line = cells[y];
    if (line?.[x] !== wanted) continue;
    line[x] = '';
    found.push([x, y]);
    stack.push([x + 1, y], [x - 1, y], [x, y + 1], [x, y - 1]);
  }
  return found;
}

export function addWall(ground: Ground, wall: Wall): Ground {
  return { ...ground, walls: [...ground.walls, wall] };
}

export function removeWall(ground: Ground, index: number): Ground {
  return { ...ground, walls: ground.walls.filter((_, i) => i !== index) };
}

export function changeWall(ground: Ground, index: number, change: (wall: Wall) => Wall): Ground {
  return { ...ground, walls: ground.walls.map((wall, i) => (i === index ? change(wall) : wall)) };
}

export function moveWall(ground: Ground, index: number, dx: number, dy: number): Ground {
  return changeWall(ground, index, (wall) => ({ ...wall, points: wall.points.map(([x, y]) => [x + dx, y + dy] as [number, number]) }));
}

export function movePoint(ground: Ground, index: number, point: number, x: number, y: number): Ground {
  return changeWall(ground, index, (wall) => ({ ...wall, points: wall.points.map((at, i) => (i === point ? [x, y] : at)) }));
}

/** Puts a new point into a wall, before the one of that number. */
export function insertPoint(ground: Ground, index: number, before: number, x: number, y: number): Ground {
  return changeWall(ground, index, (wall) => ({ ...wall, points: wall.points.toSpliced(before, 0, [x, y]) }));
}

/** Changes size or cell; cells beyond the new size are cut off, objects beyond it are moved inside. */
export function resizeGround(ground: Ground, width: number, height: number, cell: number): Ground {
  const sized = { ...ground, size: { width, height }, cell };
  const held = <T extends { x: number; y: number }>(place: T): T => ({
    ...place,
    x: Math.min(width, Math.max(0, place.x)),
    y: Math.min(height, Math.max(0, place.y)),
  });
  return {
    ...sized,
    cells: trimmed(fullCells(sized)),
    start: held(ground.start),
    ...(ground.goal ? { goal: held(ground.goal) } : {}),
  };
}

/** The part of a ground near a place, within `reach`: a point of a wall first, then a side. */
type Found =
  | { kind: 'point'; wall: number; point: number }
  | { kind: 'side'; wall: number; side: number }
  | { kind: 'inside'; wall: number };

export function wallNear(ground: Ground, x: number, y: number, reach: number): Found | null {
  let least = reach;
  let found: Found | null = null;
  ground.walls.forEach(({ points }, wall) => {
    points.forEach(([px, py], point) => {
      const distance = Math.hypot(px - x, py - y);
      if (distance < least) {
        least = distance;
        found = { kind: 'point', wall, point };
      }
    });
  });
  if (found) return found;
  ground.walls.forEach(({ points, closed }, wall) => {
    const sides = closed ? points.length : points.length - 1;
    for (let side = 0; side < sides; side++) {
      const [a, b] = [points[side], points[(side + 1) % points.length]] as [[number, number], [number, number]];
      const [ex, ey] = [b[0] - a[0], b[1] - a[1]];
      const share = shareAlong(x - a[0], y - a[1], ex, ey);
      const distance = Math.hypot(a[0] + ex * share - x, a[1] + ey * share - y);
      if (distance < least) {
        least = distance;
        found = { kind: 'side', wall, side };
      }
    }
  });
  if (found) return found;
  const inside = ground.walls.findLastIndex(({ points, closed }) => closed === true && isInside(points, x, y));
  return inside < 0 ? null : { kind: 'inside', wall: inside };
}
