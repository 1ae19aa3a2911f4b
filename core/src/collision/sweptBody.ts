import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import { type Hit, sweepBox, sweepCircle, type Way } from './sweep.ts';

/** A body among walls: its outline with the skin, as a circle or a level box about its centre. */
export interface SweptBody {
  walls: WallIndex;
  circle: boolean;
  /** Half sides with the skin; for a circle both are the radius. */
  halfWidth: number;
  halfHeight: number;
}

/** What the last `sweep` met. */
export const hit: Hit = { time: 1, normalX: 0, normalY: 0, segment: -1 };

const way: Way = { x: 0, y: 0, dx: 0, dy: 0, length: 0, halfWidth: 0, halfHeight: 0 };

/** Finds the walls within `room` of the body at (x, y); `sweep` looks at these. */
export function gather(p: SweptBody, x: number, y: number, room: number): void {
  p.walls.near(x - p.halfWidth - room, y - p.halfHeight - room, x + p.halfWidth + room, y + p.halfHeight + room);
}

/**
 * Of the walls that were found, keeps those that a body can come to whose centre (x, y) goes no farther than `reach`, and
 * gives the distance of the nearest one, or that of the body's outline plus `room` where there is none as near.
 */
export function nearBody({ walls }: SweptBody, x: number, y: number, reach: number, half: number, room: number): number {
  const { found, count } = walls;
  const { segments, courses } = walls.buckets;
  const within = (half + reach) * (half + reach) * (1 + 1e-9);
  let nearest = (half + room) * (half + room);
  let kept = 0;
  for (let k = 0; k < count; k++) {
    const index = found[k] as number;
    const rx = x - (segments[index * 4] as number);
    const ry = y - (segments[index * 4 + 1] as number);
    const ux = courses[index * 3] as number;
    const uy = courses[index * 3 + 1] as number;
    const size = courses[index * 3 + 2] as number;
    const foot = rx * ux + ry * uy;
    const held = foot < 0 ? 0 : foot > size ? size : foot;
    const fx = rx - ux * held;
    const fy = ry - uy * held;
    const distance = fx * fx + fy * fy;
    if (distance < nearest) nearest = distance;
    if (distance <= within) found[kept++] = index;
  }
  walls.count = kept;
  return Math.sqrt(nearest);
}

/** Sets `hit` to the first contact on the way, or to the whole way with no normal; true when there is a contact. */
export function sweep(p: SweptBody, x: number, y: number, dx: number, dy: number): boolean {
  hit.time = 1;
  hit.normalX = 0;
  hit.normalY = 0;
  hit.segment = -1;
  way.x = x;
  way.y = y;
  way.dx = dx;
  way.dy = dy;
  way.length = length(dx, dy);
  way.halfWidth = p.halfWidth;
  way.halfHeight = p.halfHeight;
  const { buckets, found, count } = p.walls;
  for (let i = 0; i < count; i++) {
    if (p.circle) sweepCircle(way, buckets, found[i] as number, hit);
    else sweepBox(way, buckets, found[i] as number, hit);
  }
  return hit.segment >= 0;
}
