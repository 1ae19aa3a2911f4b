import { easeRound } from '../collision/cornerAssist.ts';
import { out as free, type PlacedBody, placedBody, separate } from '../collision/overlap.ts';
import { SLOP } from '../collision/sweep.ts';
import { gather, hit, nearBody, sweep } from '../collision/sweptBody.ts';
import { type Ground, OPEN, SOLID } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { WALL_LEFT, WALL_MET } from './events.ts';
import type { ContactState, Motion, Wish } from './slices.ts';

export interface ContactParameters extends PlacedBody {
  /** Whether the ground has surfaces that change the speed. */
  surfaced: boolean;
  slides: boolean;
  keepSpeed: boolean;
  friction: number;
  maxSlides: number;
  cornerAssist: number;
  swept: boolean;
  halfDiagonal: number;
  calm: Calm;
}

/**
 * A disc in which the body meets no wall, worked out now and then: within it a tick need not look for any. What is known
 * of it changes no result, only the time that it takes.
 */
interface Calm {
  x: number;
  y: number;
  radius: number;
}

export function prepareContact(parameters: Parameters, ground: Ground, walls: WallIndex): ContactParameters {
  const { contact } = parameters;
  const body = placedBody(parameters, ground, walls);
  return {
    ...body,
    surfaced: ground.cells.length > 0 && Object.keys(ground.surfaces).length > 0,
    slides: contact.response === 'slide',
    keepSpeed: contact.keepSpeed,
    friction: contact.wallFriction,
    maxSlides: contact.maxSlides,
    cornerAssist: contact.cornerAssist,
    swept: contact.swept,
    halfDiagonal: length(body.halfWidth, body.halfHeight),
    calm: { x: 0, y: 0, radius: -1 },
  };
}

/**
 * Moves the body by its displacement: to the first contact, less the skin; then, sliding, on with the part along the wall.
 * Friction takes its share of the speed into the wall from the speed along it; two walls that close a corner stop the body.
 */
export function stepContact(state: ContactState, p: ContactParameters, motion: Motion, wish: Wish): void {
  const touched = state.count > 0;
  state.count = 0;
  state.happened = 0;
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
  if (isCalm(p.calm, x + dx, y + dy) && isCalm(p.calm, x, y)) {
    motion.x = x + dx - p.centreX;
    motion.y = y + dy - p.centreY;
    if (touched) state.happened = WALL_LEFT;
    state.surface = p.surfaced ? surfaceAt(p.ground, x + dx, y + dy) : 1;
    return;
  }
  if (!p.swept) {
    stepUnswept(state, p, motion, wish, x, y);
    if (state.count > 0 !== touched) state.happened = touched ? WALL_LEFT : WALL_MET;
    return;
  }
  const reach = length(dx, dy);
  const half = p.circle ? p.halfWidth : p.halfDiagonal;
  // A body in touch with a wall looks no farther than it goes; another one looks ahead, so as to be calm for a while.
  const room = touched ? reach : LOOK * reach + half;
  gather(p, x, y, room);
  const nearest = nearBody(p, x, y, reach, half, room);
  if (nearest < half - (p.circle ? 2 * SLOP : 0) && separate(p, x, y)) {
    x = free.x;
    y = free.y;
    gather(p, x, y, reach);
  } else if (!touched) {
    p.calm.x = x;
    p.calm.y = y;
    // A little less than it is, for the rounding of the roots.
    p.calm.radius = (nearest - half) * (1 - 1e-9) - 1e-6;
  }

  let lastX = 0;
  let lastY = 0;
  // The way left, slide by slide; what is still left after the last one is not gone.
  for (let slide = 0; slide <= p.maxSlides && (dx !== 0 || dy !== 0); slide++) {
    const met = sweep(p, x, y, dx, dy);
    x += dx * hit.time;
    y += dy * hit.time;
    if (!met) break;
    if (state.count === 0) note(state, p, motion, wish, x, y);
    state.count++;
    if (!p.slides || slide === p.maxSlides) {
      motion.vx = 0;
      motion.vy = 0;
      break;
    }
    const left = 1 - hit.time;
    if (p.cornerAssist > 0) {
      const eased = easeRound(p, x, y, dx * left, dy * left, p.cornerAssist);
      if (eased) {
        // Aside first, then on with what is left of the way; the velocity is kept for the way past the corner.
        x += eased.x;
        y += eased.y;
        dx *= left * eased.rest;
        dy *= left * eased.rest;
        continue;
      }
    }
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
  if (state.count > 0 !== touched) state.happened = touched ? WALL_LEFT : WALL_MET;
  state.surface = p.surfaced ? surfaceAt(p.ground, x, y) : 1;
}

/** Looks only where the tick ends, and pushes the body out of what it overlaps there: what lies on the way is not met. */
function stepUnswept(state: ContactState, p: ContactParameters, motion: Motion, wish: Wish, x: number, y: number): void {
  const [toX, toY] = [x + motion.dx, y + motion.dy];
  gather(p, toX, toY, 0);
  const overlaps = separate(p, toX, toY);
  const [px, py] = overlaps ? [free.x - toX, free.y - toY] : [0, 0];
  const depth = length(px, py);
  if (depth > 0) {
    hit.normalX = px / depth;
    hit.normalY = py / depth;
    hit.segment = p.walls.found[0] as number;
    note(state, p, motion, wish, free.x, free.y);
    state.count = 1;
    if (p.slides) along(motion.vx, motion.vy, p);
    else out.x = out.y = 0;
    motion.vx = out.x;
    motion.vy = out.y;
  }
  motion.x = toX + px - p.centreX;
  motion.y = toY + py - p.centreY;
  state.surface = p.surfaced ? surfaceAt(p.ground, toX + px, toY + py) : 1;
}

/** How many ticks' travel around the body is looked over for walls at a time. */
const LOOK = 16;

function isCalm(calm: Calm, x: number, y: number): boolean {
  const ax = x - calm.x;
  const ay = y - calm.y;
  return calm.radius > 0 && ax * ax + ay * ay < calm.radius * calm.radius;
}

/** Notes the first contact of a tick: where the body at (x, y) touches, which way it wants, and where it would have gone. */
function note(state: ContactState, p: ContactParameters, motion: Motion, wish: Wish, x: number, y: number): void {
  const { normalX, normalY } = hit;
  const { segments } = p.walls;
  const i = hit.segment * 4;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const ex = (segments[i + 2] as number) - ax;
  const ey = (segments[i + 3] as number) - ay;
  const share = Math.max(0, Math.min(1, ((x - ax) * ex + (y - ay) * ey) / (ex * ex + ey * ey)));
  state.normalX = normalX;
  state.normalY = normalY;
  state.pointX = ax + ex * share;
  state.pointY = ay + ey * share;
  // The way that is wanted, not what the ramp has made of it since the wall took its part.
  state.vx = wish.amount > 0 ? wish.x : motion.vx;
  state.vy = wish.amount > 0 ? wish.y : motion.vy;
  state.freeX = motion.x + motion.dx;
  state.freeY = motion.y + motion.dy;
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

/** Speed factor of the surface at a point; 1 off the cells and on marks without one. */
function surfaceAt(ground: Ground, x: number, y: number): number {
  const mark = ground.cells[Math.floor(y / ground.cell)]?.[Math.floor(x / ground.cell)];
  return mark === undefined || mark === OPEN || mark === SOLID ? 1 : (ground.surfaces[mark]?.speed ?? 1);
}
