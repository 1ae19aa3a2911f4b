/**
 * Where on a segment its nearest point to another one lies, as a share of its length in [0, 1]: clamp((p − a)·e / e·e) for the point p,
 * the segment's beginning a and its extent e; 0 for a segment without extent. `x` and `y` are p − a.
 */
export function shareAlong(x: number, y: number, ex: number, ey: number): number {
  const square = ex * ex + ey * ey;
  return square === 0 ? 0 : Math.max(0, Math.min(1, (x * ex + y * ey) / square));
}
