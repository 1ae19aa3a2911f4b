import { length } from '../math/functions.ts';

/** The first contact of a swept body: the part of the way until it, in [0, 1], and the wall's normal, which points at the body. */
export interface Hit {
  time: number;
  normalX: number;
  normalY: number;
}

/**
 * Depth (unit) by which a body counts as touching, not as inside. Bodies are swept a little slimmer than they are and laid
 * down at their full size, so that rounding never makes a wall along which a body slides one that it runs into.
 */
export const SLOP = 1e-6;

/** A motion slower than this part of its length towards a wall runs along it. */
const GRAZE = 1e-12;

/** Takes a contact if it comes before what `hit` holds: the body is laid down at its full size before the wall. */
function take(hit: Hit, time: number, normalX: number, normalY: number, approach: number): void {
  const moved = time + SLOP / approach;
  const held = moved < 0 ? 0 : moved;
  if (held >= hit.time) return;
  hit.time = held;
  hit.normalX = normalX;
  hit.normalY = normalY;
}

/** Circle of radius `r` at (x, y) moving by (dx, dy), against the point (px, py). */
function sweepPoint(x: number, y: number, dx: number, dy: number, r: number, px: number, py: number, hit: Hit): void {
  const fx = x - px;
  const fy = y - py;
  const a = dx * dx + dy * dy;
  const b = fx * dx + fy * dy;
  if (b >= 0) return;
  const c = fx * fx + fy * fy - r * r;
  const discriminant = b * b - a * c;
  if (discriminant < 0) return;
  const time = c <= 0 ? 0 : (-b - Math.sqrt(discriminant)) / a;
  if (time > 1) return;
  const nx = fx + dx * time;
  const ny = fy + dy * time;
  const size = length(nx, ny);
  if (size === 0) return;
  const approach = (dx * nx + dy * ny) / size;
  if (approach < -GRAZE * Math.sqrt(a)) take(hit, time, nx / size, ny / size, approach);
}

/**
 * A circle swept against a segment: a point swept against the capsule around it (Ericson, Real-Time Collision Detection,
 * 2005, section 5.5). Felt from both sides. `hit.time` has to be set to the largest time of interest before.
 */
export function sweepCircle(
  x: number,
  y: number,
  dx: number,
  dy: number,
  radius: number,
  segments: Float64Array,
  index: number,
  hit: Hit,
): void {
  const i = index * 4;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const bx = segments[i + 2] as number;
  const by = segments[i + 3] as number;
  const size = length(bx - ax, by - ay);
  const ux = (bx - ax) / size;
  const uy = (by - ay) / size;
  const r = radius - SLOP;
  // The normal on the body's side.
  const side = (x - ax) * -uy + (y - ay) * ux < 0 ? -1 : 1;
  const nx = -uy * side;
  const ny = ux * side;
  const away = (x - ax) * nx + (y - ay) * ny;
  const approach = dx * nx + dy * ny;
  if (approach < -GRAZE * length(dx, dy)) {
    const time = away <= r ? 0 : (away - r) / -approach;
    const foot = (x + dx * time - ax) * ux + (y + dy * time - ay) * uy;
    if (time <= 1 && foot >= 0 && foot <= size) take(hit, time, nx, ny, approach);
  }
  sweepPoint(x, y, dx, dy, r, ax, ay, hit);
  sweepPoint(x, y, dx, dy, r, bx, by, hit);
}

/** Times between which a moving value is within [low, high]; the caller's `window` is narrowed. */
interface Window {
  enter: number;
  exit: number;
  axis: number;
}

const window: Window = { enter: 0, exit: 0, axis: 0 };

function narrow(value: number, speed: number, low: number, high: number, axis: number): void {
  if (speed === 0) {
    if (value <= low || value >= high) window.exit = -Infinity;
    return;
  }
  const a = (low - value) / speed;
  const b = (high - value) / speed;
  const first = a < b ? a : b;
  const last = a < b ? b : a;
  if (first > window.enter) {
    window.enter = first;
    window.axis = axis;
  }
  if (last < window.exit) window.exit = last;
}

/** Whether a body that overlaps a segment moves away from it along an axis: that is never held back. */
function isLeaving(
  axis: number,
  along: number,
  x: number,
  y: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  nx: number,
  ny: number,
): boolean {
  const away =
    axis === 1
      ? outside(x, ax < bx ? ax : bx, ax < bx ? bx : ax)
      : axis === 2
        ? outside(y, ay < by ? ay : by, ay < by ? by : ay)
        : (x - ax) * nx + (y - ay) * ny;
  return along * away > 0;
}

/** How far a value lies beyond an interval; 0 inside. */
function outside(value: number, low: number, high: number): number {
  return value < low ? value - low : value > high ? value - high : 0;
}

/**
 * A level box with half sides (halfWidth, halfHeight) swept against a segment, by separating axes: the box's two and the
 * segment's normal (Ericson 2005, section 5.5.8). Felt from both sides.
 */
export function sweepBox(
  x: number,
  y: number,
  dx: number,
  dy: number,
  halfWidth: number,
  halfHeight: number,
  segments: Float64Array,
  index: number,
  hit: Hit,
): void {
  const i = index * 4;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const bx = segments[i + 2] as number;
  const by = segments[i + 3] as number;
  const w = halfWidth - SLOP;
  const h = halfHeight - SLOP;
  const size = length(bx - ax, by - ay);
  const nx = -(by - ay) / size;
  const ny = (bx - ax) / size;
  const reach = w * (nx < 0 ? -nx : nx) + h * (ny < 0 ? -ny : ny);
  window.enter = -Infinity;
  window.exit = Infinity;
  window.axis = 0;
  narrow(x, dx, (ax < bx ? ax : bx) - w, (ax < bx ? bx : ax) + w, 1);
  narrow(y, dy, (ay < by ? ay : by) - h, (ay < by ? by : ay) + h, 2);
  narrow((x - ax) * nx + (y - ay) * ny, dx * nx + dy * ny, -reach, reach, 3);
  if (window.enter > window.exit || window.enter > 1 || window.exit <= 0 || window.axis === 0) return;
  const along = window.axis === 1 ? dx : window.axis === 2 ? dy : dx * nx + dy * ny;
  if (window.enter < 0 && isLeaving(window.axis, along, x, y, ax, ay, bx, by, nx, ny)) return;
  const sign = along < 0 ? 1 : -1;
  const normalX = window.axis === 1 ? sign : window.axis === 2 ? 0 : nx * sign;
  const normalY = window.axis === 1 ? 0 : window.axis === 2 ? sign : ny * sign;
  const approach = along < 0 ? along : -along;
  if (approach < -GRAZE * length(dx, dy)) take(hit, window.enter < 0 ? 0 : window.enter, normalX, normalY, approach);
}
