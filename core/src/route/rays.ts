import type { SideTable } from './sideTable.ts';

/** True if a point within a polygon sees another one that is within some polygon. */
export function isSeen(sides: SideTable, x: number, y: number, polygon: number, targetX: number, targetY: number): boolean {
  const first = sides.mesh.starts[polygon] as number;
  let side = first;
  do {
    if (isCrossed(sides, side, x, y, targetX - x, targetY - y)) return goThrough(sides, side, x, y, targetX, targetY);
    side = sides.after[side] as number;
  } while (side !== first);
  return true;
}

/** True if a corner of a wall sees a point; `firstSide` is the side along the wall that begins there, with the wall to the right. */
export function isSeenFrom(sides: SideTable, firstSide: number, targetX: number, targetY: number): boolean {
  const x = sides.x[firstSide] as number;
  const y = sides.y[firstSide] as number;
  for (let out = firstSide; out !== -1; out = sides.turn(out))
    for (let side = sides.after[out] as number; sides.after[side] !== out; side = sides.after[side] as number)
      if (isCrossed(sides, side, x, y, targetX - x, targetY - y)) return goThrough(sides, side, x, y, targetX, targetY);
  return false;
}

/** Goes on from polygon to polygon, out through a side of the first, until the target or a wall is reached. */
function goThrough(sides: SideTable, firstOut: number, x: number, y: number, targetX: number, targetY: number): boolean {
  const { twins, after, x: sideX, y: sideY } = sides;
  const dx = targetX - x;
  const dy = targetY - y;
  for (let out = firstOut; ; ) {
    const end = after[out] as number;
    const ax = sideX[out] as number;
    const ay = sideY[out] as number;
    // A target on this side of where the polygon is left is in it.
    if (((sideX[end] as number) - ax) * (targetY - ay) - ((sideY[end] as number) - ay) * (targetX - ax) >= 0) return true;
    const entry = twins[out] as number;
    if (entry === -1) return false;
    // From the entry's right end round to its left one: out through the first side that ends to the left of the ray.
    out = after[entry] as number;
    for (let next = after[out] as number; next !== entry; next = after[out] as number) {
      if (dx * ((sideY[next] as number) - y) - dy * ((sideX[next] as number) - x) > 0) break;
      out = next;
    }
  }
}

/** True if a ray from within a polygon leaves it through a side: from its right end, which counts, to its left one. */
function isCrossed({ x: sideX, y: sideY, after }: SideTable, side: number, x: number, y: number, dx: number, dy: number): boolean {
  const end = after[side] as number;
  return (
    dx * ((sideY[side] as number) - y) - dy * ((sideX[side] as number) - x) <= 0 &&
    dx * ((sideY[end] as number) - y) - dy * ((sideX[end] as number) - x) > 0
  );
}
