import { type Ground, OPEN, SOLID } from '../ground/ground.ts';
import { isSolidAt } from '../ground/outlines.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { cos, length, sin } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { ContactState, Motion } from './slices.ts';
import { type Hit, SLOP, sweepBox, sweepCircle } from './sweep.ts';

export interface ContactParameters {
  walls: WallIndex;
  ground: Ground;
  /** Whether the ground has surfaces that change the speed. */
  surfaced: boolean;
  /** False where walls are not felt at all. */
  felt: boolean;
  slides: boolean;
  keepSpeed: boolean;
  friction: number;
  maxSlides: number;
  circle: boolean;
  /** Half sides of the body with the skin; for a circle both are the radius. */
  halfWidth: number;
  halfHeight: number;
  /** From the body's origin to its centre. */
  centreX: number;
  centreY: number;
}

export function prepareContact({ contact, body }: Parameters, ground: Ground, walls: WallIndex): ContactParameters {
  const circle = body.shape === 'circle';
  const width = circle ? 2 * body.radius : body.width;
  const height = circle ? 2 * body.radius : body.height;
  return {
    walls,
    ground,
    surfaced: ground.cells.length > 0 && Object.keys(ground.surfaces).length > 0,
    felt: contact.response !== 'none' && walls.segments.length > 0,
    slides: contact.response === 'slide',
    keepSpeed: contact.keepSpeed,
    friction: contact.wallFriction,
    maxSlides: contact.maxSlides,
    circle,
    halfWidth: width / 2 + contact.skin,
    halfHeight: height / 2 + contact.skin,
    centreX: (0.5 - body.originX) * width,
    centreY: (0.5 - body.originY) * height,
  };
}

/** Times that a body which overlaps walls is pushed out in one tick. */
const PUSHES = 4;

const hit: Hit = { time: 1, normalX: 0, normalY: 0 };

/**
 * Moves the body by its displacement: to the first contact, less the skin; then, sliding, on with the part along the wall.
 * Friction takes its share of the speed into the wall from the speed along it; two walls that close a corner stop the body.
 */
export function stepContact(state: ContactState, p: ContactParameters, motion: Motion): void {
  state.count = 0;
  if (!p.felt) {
    motion.x += motion.dx;
    motion.y += motion.dy;
    state.surface = p.surfaced ? surfaceAt(p.ground, motion.x + p.centreX, motion.y + p.centreY) : 1;
    return;
  }
  let x = motion.x + p.centreX;
  let y = motion.y + p.centreY;
  let dx = motion.dx;
  let dy = motion.dy;
  gather(p, x, y, dx, dy);
  const pushed = separate(p, x, y);
  x = pushed ? out.x : x;
  y = pushed ? out.y : y;

  let lastX = 0;
  let lastY = 0;
  // The way left, slide by slide; what is still left after the last one is not gone.
  for (let slide = 0; slide <= p.maxSlides && (dx !== 0 || dy !== 0); slide++) {
    sweep(p, x, y, dx, dy);
    x += dx * hit.time;
    y += dy * hit.time;
    if (hit.time >= 1 && hit.normalX === 0 && hit.normalY === 0) break;
    state.count++;
    state.normalX = hit.normalX;
    state.normalY = hit.normalY;
    if (!p.slides || slide === p.maxSlides) {
      motion.vx = 0;
      motion.vy = 0;
      break;
    }
    const left = 1 - hit.time;
    along(dx * left, dy * left, p);
    dx = out.x;
    dy = out.y;
    along(motion.vx, motion.vy, p);
    motion.vx = out.x;
    motion.vy = out.y;
    if (slide > 0 && (dx * lastX + dy * lastY < -SLOP * length(dx, dy) || motion.vx * lastX + motion.vy * lastY < 0)) {
      motion.vx = 0;
      motion.vy = 0;
      break;
    }
    lastX = hit.normalX;
    lastY = hit.normalY;
  }
  motion.x = x - p.centreX;
  motion.y = y - p.centreY;
  state.surface = p.surfaced ? surfaceAt(p.ground, x, y) : 1;
}

/** A pair of numbers that a helper hands back. */
const out = { x: 0, y: 0 };

/** The part of a vector along the wall that was hit, less what friction takes of it; with `keepSpeed` of full size. */
function along(x: number, y: number, p: ContactParameters): void {
  const into = x * hit.normalX + y * hit.normalY;
  out.x = x;
  out.y = y;
  if (into >= 0) return;
  const tx = x - hit.normalX * into;
  const ty = y - hit.normalY * into;
  const size = length(tx, ty);
  const kept = size === 0 ? 0 : p.keepSpeed ? length(x, y) / size : Math.max(0, 1 + (p.friction * into) / size);
  out.x = tx * kept;
  out.y = ty * kept;
}

/** Finds the walls near the whole way of the body. */
function gather(p: ContactParameters, x: number, y: number, dx: number, dy: number): void {
  // A slide may leave the straight way, but never goes farther than it is long.
  const reach = length(dx, dy);
  p.walls.near(x - p.halfWidth - reach, y - p.halfHeight - reach, x + p.halfWidth + reach, y + p.halfHeight + reach);
}

/** Sets `hit` to the first contact on the way, or to the whole way with no normal. */
function sweep(p: ContactParameters, x: number, y: number, dx: number, dy: number): void {
  hit.time = 1;
  hit.normalX = 0;
  hit.normalY = 0;
  const { segments, found, count } = p.walls;
  for (let i = 0; i < count; i++) {
    if (p.circle) sweepCircle(x, y, dx, dy, p.halfWidth, segments, found[i] as number, hit);
    else sweepBox(x, y, dx, dy, p.halfWidth, p.halfHeight, segments, found[i] as number, hit);
  }
}

/** Pushes a body that overlaps walls (it has grown, or was put there) out of them; true when it did, with the place in `out`. */
function separate(p: ContactParameters, x: number, y: number): boolean {
  out.x = x;
  out.y = y;
  const { segments, found, count } = p.walls;
  let moved = false;
  for (let push = 0; push < PUSHES; push++) {
    let again = false;
    for (let i = 0; i < count; i++) if (pushOut(p, segments, (found[i] as number) * 4)) again = true;
    if (!again) return moved;
    moved = true;
  }
  return moved;
}

/** Pushes `out` from one segment, if it overlaps it by more than rounding. */
function pushOut(p: ContactParameters, segments: Float64Array, i: number): boolean {
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const ex = (segments[i + 2] as number) - ax;
  const ey = (segments[i + 3] as number) - ay;
  const size = ex * ex + ey * ey;
  const share = Math.max(0, Math.min(1, ((out.x - ax) * ex + (out.y - ay) * ey) / size));
  const fx = out.x - ax - ex * share;
  const fy = out.y - ay - ey * share;
  if (p.circle) {
    const distance = length(fx, fy);
    if (distance >= p.halfWidth - 2 * SLOP || distance === 0) return false;
    out.x += (fx / distance) * (p.halfWidth - distance);
    out.y += (fy / distance) * (p.halfWidth - distance);
    return true;
  }
  // The box against the nearest point of the segment, out by the shorter way.
  const overX = p.halfWidth - (fx < 0 ? -fx : fx);
  const overY = p.halfHeight - (fy < 0 ? -fy : fy);
  if (overX <= 2 * SLOP || overY <= 2 * SLOP) return false;
  if (overX < overY) out.x += fx < 0 ? -overX : overX;
  else out.y += fy < 0 ? -overY : overY;
  return true;
}

/** Speed factor of the surface at a point; 1 off the cells and on marks without one. */
function surfaceAt(ground: Ground, x: number, y: number): number {
  const mark = ground.cells[Math.floor(y / ground.cell)]?.[Math.floor(x / ground.cell)];
  return mark === undefined || mark === OPEN || mark === SOLID ? 1 : (ground.surfaces[mark]?.speed ?? 1);
}

/** Rings searched for a free place, and directions on each. */
const RINGS = 400;
const SPOKES = 48;

/**
 * Where a body can start: its place, or, when that lies inside a wall or too close to one, the nearest free place of the
 * rings around it. Null where there is none within the ground's length.
 */
export function freePlace(p: ContactParameters, x: number, y: number): { x: number; y: number } | null {
  if (!p.felt || isFree(p, x, y)) return { x, y };
  const step = Math.max(p.halfWidth, p.halfHeight) / 4;
  for (let ring = 1; ring <= RINGS; ring++)
    for (let spoke = 0; spoke < SPOKES; spoke++) {
      const angle = (spoke * 2 * Math.PI) / SPOKES;
      const at = { x: x + cos(angle) * ring * step, y: y + sin(angle) * ring * step };
      const inGround = at.x >= 0 && at.y >= 0 && at.x <= p.ground.size.width && at.y <= p.ground.size.height;
      if (inGround && isFree(p, at.x, at.y)) return at;
    }
  return null;
}

function isFree(p: ContactParameters, x: number, y: number): boolean {
  const cx = x + p.centreX;
  const cy = y + p.centreY;
  if (isSolidAt(p.ground, cx, cy)) return false;
  gather(p, cx, cy, 0, 0);
  return !separate(p, cx, cy);
}
