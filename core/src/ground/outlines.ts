import { type Ground, SOLID } from './ground.ts';

/**
 * The walls of a ground as straight segments, four numbers each: x0, y0, x1, y1. Solid cells are merged into outlines
 * first: each run of cell sides with open ground on the same side is one segment, so that there are no inner seams.
 */
export function wallSegments(ground: Ground): Float64Array {
  const segments: number[] = [];
  addCellOutlines(ground, segments);
  for (const { points, closed, solid } of ground.walls) {
    if (solid === false) continue;
    const count = closed ? points.length : points.length - 1;
    for (let i = 0; i < count; i++) {
      const [x0, y0] = points[i] as [number, number];
      const [x1, y1] = points[(i + 1) % points.length] as [number, number];
      if (x0 !== x1 || y0 !== y1) segments.push(x0, y0, x1, y1);
    }
  }
  return Float64Array.from(segments);
}

/** Sides between a solid and an open cell, in runs: along each line between rows, then along each line between columns. */
function addCellOutlines({ cells, cell }: Ground, segments: number[]): void {
  const columns = cells[0]?.length ?? 0;
  const solid = (x: number, y: number) => cells[y]?.[x] === SOLID;
  const addRuns = (
    lines: number,
    length: number,
    side: (line: number, at: number) => number,
    add: (line: number, from: number, to: number) => void,
  ) => {
    for (let line = 0; line <= lines; line++)
      for (let at = 0; at < length; ) {
        const kind = side(line, at);
        let end = at + 1;
        while (end < length && side(line, end) === kind) end++;
        if (kind !== 0) add(line, at, end);
        at = end;
      }
  };
  const between = (a: boolean, b: boolean) => (a === b ? 0 : a ? 1 : 2);
  addRuns(
    cells.length,
    columns,
    (y, x) => between(solid(x, y - 1), solid(x, y)),
    (y, from, to) => segments.push(from * cell, y * cell, to * cell, y * cell),
  );
  addRuns(
    columns,
    cells.length,
    (x, y) => between(solid(x - 1, y), solid(x, y)),
    (x, from, to) => segments.push(x * cell, from * cell, x * cell, to * cell),
  );
}

/** Whether a point lies in a solid cell or inside a closed solid wall (even-odd rule). */
export function isSolidAt(ground: Ground, x: number, y: number): boolean {
  if (ground.cells[Math.floor(y / ground.cell)]?.[Math.floor(x / ground.cell)] === SOLID) return true;
  return ground.walls.some(({ points, closed, solid }) => closed === true && solid !== false && isInside(points, x, y));
}

function isInside(points: readonly (readonly [number, number])[], x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [xi, yi] = points[i] as [number, number];
    const [xj, yj] = points[j] as [number, number];
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}
