import { cellMask, solidAt } from './cellMask.ts';
import { type Ground, SOLID } from './ground.ts';

/**
 * The walls of a ground as straight segments, four numbers each: x0, y0, x1, y1. Solid cells are merged into outlines
 * first: each run of cell sides with open ground on the same side is one segment, so that there are no inner seams. With
 * `seams` the joints between solid cells stand out of the surface as lips.
 */
export function wallSegments(ground: Ground, seams = false): Float64Array {
  const segments: number[] = [];
  addCellOutlines(ground, segments);
  if (seams) addSeams(ground, segments);
  for (const { points, closed, solid } of ground.walls) {
    if (solid === false) continue;
    const count = closed ? points.length : points.length - 1;
    for (let i = 0; i < count; i++) {
      const [x0, y0] = points[i] as [number, number];
      const [x1, y1] = points[(i + 1) % points.length] as [number, number];
      if (x0 !== x1 || y0 !== y1) segments.push(x0, y0, x1, y1);
    }
  }
  return new Float64Array(segments);
}

/** Sides between a solid and an open cell, in runs: along each line between rows, then along each line between columns. */
function addCellOutlines(ground: Ground, segments: number[]): void {
  const { cell } = ground;
  const mask = cellMask(ground);
  const { columns, rows } = mask;
  // 0: no wall, 1: solid before the line, 2: solid after it.
  const side = (before: number, after: number) => (before === after ? 0 : before ? 1 : 2);
  for (let y = 0; y <= rows; y++)
    for (let x = 0, from = 0, kind = 0; x <= columns; x++) {
      const next = x === columns ? 0 : side(solidAt(mask, x, y - 1), solidAt(mask, x, y));
      if (next === kind) continue;
      if (kind !== 0) segments.push(from * cell, y * cell, x * cell, y * cell);
      from = x;
      kind = next;
    }
  for (let x = 0; x <= columns; x++)
    for (let y = 0, from = 0, kind = 0; y <= rows; y++) {
      const next = y === rows ? 0 : side(solidAt(mask, x - 1, y), solidAt(mask, x, y));
      if (next === kind) continue;
      if (kind !== 0) segments.push(x * cell, from * cell, x * cell, y * cell);
      from = y;
      kind = next;
    }
}

/** Height (unit) by which a joint between two cells that are not merged stands out: more than a body's skin. */
const LIP = 0.05;

/** A lip at each end of the side that two solid cells share, where the ground beyond that end is open on both sides. */
function addSeams(ground: Ground, segments: number[]): void {
  const { cell } = ground;
  const mask = cellMask(ground);
  const at = (x: number, y: number) => solidAt(mask, x, y);
  for (let y = 0; y < mask.rows; y++)
    for (let x = 0; x < mask.columns; x++) {
      if (!at(x, y)) continue;
      const [right, low] = [(x + 1) * cell, (y + 1) * cell];
      if (at(x + 1, y)) {
        if (!at(x, y - 1) && !at(x + 1, y - 1)) segments.push(right, y * cell, right, y * cell - LIP);
        if (!at(x, y + 1) && !at(x + 1, y + 1)) segments.push(right, low, right, low + LIP);
      }
      if (at(x, y + 1)) {
        if (!at(x - 1, y) && !at(x - 1, y + 1)) segments.push(x * cell, low, x * cell - LIP, low);
        if (!at(x + 1, y) && !at(x + 1, y + 1)) segments.push(right, low, right + LIP, low);
      }
    }
}

/** `isSolidAt` for many points: walls whose box does not hold the point are passed over. */
export function solidTester(ground: Ground): (x: number, y: number) => boolean {
  const closed = ground.walls
    .filter((wall) => wall.closed === true && wall.solid !== false)
    .map(({ points }) => {
      const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
      const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b));
      const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b));
      return { points, left: least(xs), right: most(xs), top: least(ys), bottom: most(ys) };
    });
  const cells = { ...ground, walls: [] };
  return (x, y) =>
    isSolidAt(cells, x, y) ||
    closed.some((wall) => x >= wall.left && x <= wall.right && y >= wall.top && y <= wall.bottom && isInside(wall.points, x, y));
}

/** True if a point lies in a solid cell or inside a closed solid wall (even-odd rule). */
export function isSolidAt(ground: Ground, x: number, y: number): boolean {
  if (ground.cells[Math.floor(y / ground.cell)]?.[Math.floor(x / ground.cell)] === SOLID) return true;
  return ground.walls.some(({ points, closed, solid }) => closed === true && solid !== false && isInside(points, x, y));
}

/** True if a point lies inside a polygon, by the even-odd rule. */
export function isInside(points: readonly (readonly [number, number])[], x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [xi, yi] = points[i] as [number, number];
    const [xj, yj] = points[j] as [number, number];
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}
