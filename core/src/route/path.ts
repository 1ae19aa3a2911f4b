import { length } from '../math/functions.ts';

/** Square of the angle (radians) within which a point lies on the line of an interval. */
const ALONG = 1e-20;

/** Length of a path through points. */
export function pathLength(points: readonly (readonly [number, number])[]): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]] as [[number, number], [number, number]];
    sum += length(b[0] - a[0], b[1] - a[1]);
  }
  return sum;
}

/**
 * Length of the straight path from a root (px, py) through an interval, from its left end (lx, ly) to its right one (rx, ry), to a target; if the
 * interval blocks it, round the blocking end. A target on the root's side of the interval is mirrored at it: no path through can be shorter.
 */
export function pathThrough(
  px: number,
  py: number,
  lx: number,
  ly: number,
  rx: number,
  ry: number,
  targetX: number,
  targetY: number,
): number {
  let tx = targetX;
  let ty = targetY;
  const ex = rx - lx;
  const ey = ry - ly;
  const fx = px - lx;
  const fy = py - ly;
  const size = ex * ex + ey * ey;
  const root = ex * fy - ey * fx;
  const target = ex * (ty - ly) - ey * (tx - lx);
  if (root * target > 0) {
    // Mirrored at the line of the interval.
    const twice = (2 * target) / size;
    tx += twice * ey;
    ty -= twice * ex;
  }
  if (root * root <= ALONG * size * (fx * fx + fy * fy)) {
    // The root lies on the line of the interval: past its nearer end, or through it.
    const along = fx * ex + fy * ey;
    if (along >= 0 && along <= size) return length(tx - px, ty - py);
    const nx = along < 0 ? lx : rx;
    const ny = along < 0 ? ly : ry;
    return length(nx - px, ny - py) + length(tx - nx, ty - ny);
  }
  if ((ty - py) * -fx + (tx - px) * fy > 0) return length(fx, fy) + length(tx - lx, ty - ly);
  const gx = rx - px;
  const gy = ry - py;
  if (gx * (ty - py) - gy * (tx - px) < 0) return length(gx, gy) + length(tx - rx, ty - ry);
  return length(tx - px, ty - py);
}
