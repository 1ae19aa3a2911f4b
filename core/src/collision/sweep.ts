import type { WallBuckets } from '../ground/wallIndex.ts';

/** The first contact of a swept body: the part of the way until it, in [0, 1], and the wall's normal, which points at the body. */
export interface Hit {
  time: number;
  normalX: number;
  normalY: number;
  /** Number of the segment that is touched; −1 while there is none. */
  segment: number;
}

/**
 * A body on its way: its centre (x, y), the displacement (dx, dy) with its length, and half of its sides (for a circle both
 * are the radius). One object for all that a sweep reads, because numbers in an object cost nothing to hand on.
 */
export interface Way {
  x: number;
  y: number;
  dx: number;
  dy: number;
  length: number;
  halfWidth: number;
  halfHeight: number;
}

/**
 * Depth (unit) by which a body counts as touching, not as inside. Bodies are swept a little slimmer than they are and laid
 * down at their full size, so that rounding never makes a wall along which a body slides one that it runs into.
 */
export const SLOP = 1e-6;

/** A motion slower than this part of its length towards a wall runs along it. */
const GRAZE = 1e-12;

/** Takes a contact if it comes before what `hit` holds: the body is laid down at its full size before the wall. */
function take(hit: Hit, segment: number, time: number, normalX: number, normalY: number, approach: number): void {
  const moved = time + SLOP / approach;
  const held = moved < 0 ? 0 : moved;
  if (held >= hit.time) return;
  hit.time = held;
  hit.normalX = normalX;
  hit.normalY = normalY;
  hit.segment = segment;
}

/** The circle against an end of a segment. */
function sweepPoint(way: Way, px: number, py: number, segment: number, hit: Hit): void {
  const { dx, dy } = way;
  const fx = way.x - px;
  const fy = way.y - py;
  const b = fx * dx + fy * dy;
  if (b >= 0) return;
  const r = way.halfWidth - SLOP;
  const a = way.length * way.length;
  const c = fx * fx + fy * fy - r * r;
  const discriminant = b * b - a * c;
  if (discriminant < 0) return;
  const time = c <= 0 ? 0 : (-b - Math.sqrt(discriminant)) / a;
  if (time > 1) return;
  const nx = fx + dx * time;
  const ny = fy + dy * time;
  const size = Math.sqrt(nx * nx + ny * ny);
  if (size === 0) return;
  const approach = (dx * nx + dy * ny) / size;
  if (approach < -GRAZE * way.length) take(hit, segment, time, nx / size, ny / size, approach);
}

/**
 * A circle swept against a segment: a point swept against the capsule around it (Ericson, Real-Time Collision Detection,
 * 2005, section 5.5). A capsule is convex, so there is one place where the way enters it: on its side where the way comes
 * within the radius beside the segment, else on the round end that lies there. Felt from both sides. `hit.time` has to be
 * set to the largest time of interest before.
 */
export function sweepCircle(way: Way, { segments, courses }: WallBuckets, index: number, hit: Hit): void {
  const i = index * 4;
  const c = index * 3;
  const ux = courses[c] as number;
  const uy = courses[c + 1] as number;
  const rx = way.x - (segments[i] as number);
  const ry = way.y - (segments[i + 1] as number);
  const beside = rx * -uy + ry * ux;
  const side = beside < 0 ? -1 : 1;
  const approach = (way.dx * -uy + way.dy * ux) * side;
  const r = way.halfWidth - SLOP;
  const out = beside * side - r;
  const nears = approach < -GRAZE * way.length;
  let foot = rx * ux + ry * uy;
  let time = 0;
  if (out > 0) {
    if (!nears) return;
    time = out / -approach;
    if (time > 1) return;
    foot += (way.dx * ux + way.dy * uy) * time;
  }
  if (foot < 0) sweepPoint(way, segments[i] as number, segments[i + 1] as number, index, hit);
  else if (foot > (courses[c + 2] as number)) sweepPoint(way, segments[i + 2] as number, segments[i + 3] as number, index, hit);
  else if (nears) take(hit, index, time, -uy * side, ux * side, approach);
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

/** How far a value lies beyond an interval; 0 inside. */
function outside(value: number, low: number, high: number): number {
  return value < low ? value - low : value > high ? value - high : 0;
}

/**
 * A level box swept against a segment, by separating axes: the box's two and the segment's normal (Ericson 2005, section
 * 5.5.8). Felt from both sides.
 */
export function sweepBox(way: Way, { segments, courses }: WallBuckets, index: number, hit: Hit): void {
  const { x, y, dx, dy } = way;
  const i = index * 4;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const bx = segments[i + 2] as number;
  const by = segments[i + 3] as number;
  const [left, right] = ax < bx ? [ax, bx] : [bx, ax];
  const [top, bottom] = ay < by ? [ay, by] : [by, ay];
  const w = way.halfWidth - SLOP;
  const h = way.halfHeight - SLOP;
  const nx = -(courses[index * 3 + 1] as number);
  const ny = courses[index * 3] as number;
  const beside = (x - ax) * nx + (y - ay) * ny;
  const across = dx * nx + dy * ny;
  const reach = w * (nx < 0 ? -nx : nx) + h * (ny < 0 ? -ny : ny);
  window.enter = -Infinity;
  window.exit = Infinity;
  window.axis = 0;
  narrow(x, dx, left - w, right + w, 1);
  narrow(y, dy, top - h, bottom + h, 2);
  narrow(beside, across, -reach, reach, 3);
  const { enter, exit, axis } = window;
  if (enter > exit || enter > 1 || exit <= 0 || axis === 0) return;
  const along = axis === 1 ? dx : axis === 2 ? dy : across;
  // A body that overlaps the segment and moves away from it on this axis is not held back.
  const away = axis === 1 ? outside(x, left, right) : axis === 2 ? outside(y, top, bottom) : beside;
  if (enter < 0 && along * away > 0) return;
  const sign = along < 0 ? 1 : -1;
  const normalX = axis === 1 ? sign : axis === 2 ? 0 : nx * sign;
  const normalY = axis === 1 ? 0 : axis === 2 ? sign : ny * sign;
  const approach = along < 0 ? along : -along;
  if (approach < -GRAZE * way.length) take(hit, index, enter < 0 ? 0 : enter, normalX, normalY, approach);
}
