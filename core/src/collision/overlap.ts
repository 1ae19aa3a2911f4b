import { length } from '../math/functions.ts';
import { shareAlong } from '../math/segment.ts';
import type { Probe } from './probe.ts';
import { gather } from './sweep.ts';

/** Overlap within rounding, in slops. */
const TOUCH = 2;

/** Rounds in which a body that overlaps several walls is pushed out of them. */
const PUSHES = 4;

/** True if the body overlaps a wall by more than rounding. */
export function overlaps(p: Probe): boolean {
  p.reach = 0;
  gather(p);
  for (let k = 0; k < p.count; k++) if (depthOf(p, (p.near[k] as number) * 4) > TOUCH * p.slop) return true;
  return false;
}

/**
 * Depth of a body's overlap with a segment, by separating axes (Ericson 2005, section 4.4): the least overlap over all axes, 0 or less if one of them
 * separates the two. The move along that axis that separates them is left in the probe's `ease` fields.
 */
function depthOf(p: Probe, i: number): number {
  const { segments } = p.index;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const bx = segments[i + 2] as number;
  const by = segments[i + 3] as number;
  return p.circle ? circleDepth(p, ax, ay, bx - ax, by - ay) : boxDepth(p, ax, ay, bx, by);
}

/** For a circle the axis from the nearest point of the segment suffices. */
function circleDepth(p: Probe, ax: number, ay: number, ex: number, ey: number): number {
  const share = shareAlong(p.x - ax, p.y - ay, ex, ey);
  let fx = p.x - ax - ex * share;
  let fy = p.y - ay - ey * share;
  let distance = length(fx, fy);
  const depth = p.halfWidth - distance;
  if (distance === 0) {
    // On the wall itself: both sides are equally near.
    fx = -ey;
    fy = ex;
    distance = Math.sqrt(ex * ex + ey * ey);
  }
  p.easeX = (fx / distance) * depth;
  p.easeY = (fy / distance) * depth;
  return depth;
}

function boxDepth(p: Probe, ax: number, ay: number, bx: number, by: number): number {
  const toLeft = Math.max(ax, bx) + p.halfWidth - p.x;
  const toRight = p.x - Math.min(ax, bx) + p.halfWidth;
  const toTop = Math.max(ay, by) + p.halfHeight - p.y;
  const toBottom = p.y - Math.min(ay, by) + p.halfHeight;
  const across = Math.min(toLeft, toRight);
  const down = Math.min(toTop, toBottom);
  const size = length(bx - ax, by - ay);
  const [nx, ny] = [(ay - by) / size, (bx - ax) / size];
  const beside = (p.x - ax) * nx + (p.y - ay) * ny;
  const aside = p.halfWidth * Math.abs(nx) + p.halfHeight * Math.abs(ny) - Math.abs(beside);
  const depth = Math.min(across, down, aside);
  const sign = beside < 0 ? -1 : 1;
  // The axis of least overlap, the box's own ones first.
  p.easeX = depth === across ? (toLeft <= toRight ? toLeft : -toRight) : depth === down ? 0 : nx * sign * aside;
  p.easeY = depth === across ? 0 : depth === down ? (toTop <= toBottom ? toTop : -toBottom) : ny * sign * aside;
  return depth;
}

/** True if the box around a body at (x, y) meets the one around a wall. All such walls are known, whichever others are. */
function isBy(p: Probe, i: number, x: number, y: number): boolean {
  const { segments } = p.index;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const bx = segments[i + 2] as number;
  const by = segments[i + 3] as number;
  const across = x + p.halfWidth >= Math.min(ax, bx) && x - p.halfWidth <= Math.max(ax, bx);
  return across && y + p.halfHeight >= Math.min(ay, by) && y - p.halfHeight <= Math.max(ay, by);
}

/**
 * Pushes a body out of the walls that it overlaps, each by the shortest direction, then out of those that it overlaps there, a few times over.
 * Returns true if it moved; the probe's wall is then the first one.
 */
export function separate(p: Probe): boolean {
  p.reach = 0;
  gather(p);
  p.wall = -1;
  let moved = false;
  for (let push = 0; push < PUSHES; push++) {
    let again = false;
    const { x, y } = p;
    for (let k = 0; k < p.count; k++) {
      const i = (p.near[k] as number) * 4;
      if (!isBy(p, i, x, y) || depthOf(p, i) <= TOUCH * p.slop) continue;
      p.x += p.easeX;
      p.y += p.easeY;
      if (p.wall < 0) p.wall = p.near[k] as number;
      again = true;
    }
    if (!again) break;
    moved = true;
    p.reach = 0;
    gather(p);
  }
  return moved;
}
