/** Oracle for contact: distances computed wall by wall, without any of the tested code. */

/** A wall as two points: x0, y0, x1, y1. */
export type Segment = readonly [number, number, number, number];

/** A body about its centre: a circle of `halfWidth`, or a level box. */
export interface Shape {
  circle: boolean;
  halfWidth: number;
  halfHeight: number;
}

/** Distance of a point from a segment. */
function distanceTo(x: number, y: number, [ax, ay, bx, by]: Segment): number {
  const [ex, ey] = [bx - ax, by - ay];
  const share = Math.min(1, Math.max(0, ((x - ax) * ex + (y - ay) * ey) / (ex * ex + ey * ey)));
  return Math.hypot(x - ax - ex * share, y - ay - ey * share);
}

/** Overlap of two intervals; below 0 the gap between them. */
const common = (a: readonly number[], b: readonly number[]) =>
  Math.min(Math.max(...a), Math.max(...b)) - Math.max(Math.min(...a), Math.min(...b));

/** How far a body at (x, y) and a segment overlap, unit; 0 or less when they are apart. */
function overlapWith({ circle, halfWidth, halfHeight }: Shape, x: number, y: number, segment: Segment): number {
  if (circle) return halfWidth - distanceTo(x, y, segment);
  const [ax, ay, bx, by] = segment;
  const size = Math.hypot(bx - ax, by - ay);
  const corners = [-1, 1].flatMap((i) => [-1, 1].map((j) => [x + i * halfWidth, y + j * halfHeight] as const));
  // Two convex bodies are apart when they are on one of the axes across their sides.
  return Math.min(
    ...[[1, 0] as const, [0, 1] as const, [(ay - by) / size, (bx - ax) / size] as const].map(([nx, ny]) =>
      common(
        corners.map(([cx, cy]) => cx * nx + cy * ny),
        [ax * nx + ay * ny, bx * nx + by * ny],
      ),
    ),
  );
}

/** The deepest overlap with any of the walls; −Infinity without walls. */
export function deepest(shape: Shape, x: number, y: number, walls: readonly Segment[]): number {
  return walls.reduce((most, wall) => Math.max(most, overlapWith(shape, x, y, wall)), -Infinity);
}

/** Sides of a polygon, or of an open line, as segments. */
export function sidesOf(points: readonly (readonly [number, number])[], closed: boolean): Segment[] {
  return points
    .slice(closed ? 0 : 1)
    .map((point, i): Segment => [...(points[closed ? (i + points.length - 1) % points.length : i] as readonly [number, number]), ...point]);
}
