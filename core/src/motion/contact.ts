import { unsettle } from '../collision/calm.ts';
import { freePlace } from '../collision/freePlace.ts';
import { overlaps, separate } from '../collision/overlap.ts';
import { isFree } from '../collision/placedBody.ts';
import { addPlane } from '../collision/planes.ts';
import { gather } from '../collision/sweep.ts';
import { type Ground, OPEN, SOLID } from '../ground/ground.ts';
import { squareTo } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import type { Own } from './body.ts';
import { BOTTOM_SIDE, LEFT_SIDE, RIGHT_SIDE, STAYED, TOP_SIDE } from './codes.ts';
import type { ContactPlan } from './contactPlan.ts';
import { leadVelocity, note, slide, stop } from './contactSliding.ts';
import { START_MOVED, WALL_LEFT, WALL_MET } from './events.ts';

/**
 * Moves the body by its displacement among walls and edges, which are solved together: to the first contact (walls less the skin), then on with the
 * part of the displacement that the touched planes leave (`leadAlong`), up to `contactsPerTick` times. With response `stop` a wall ends the motion.
 * At an angle θ to a wall a fraction max(0, cos θ − wallFriction·sin θ) of the velocity is kept, with `keepSpeed` all of it; of the velocity across
 * an edge, none. The result is the actual motion, not a new wish.
 */
export function stepContact(body: Own<'contact'>, p: ContactPlan): void {
  const { calm } = p;
  // The last tick ended at a place reached by placement, not by motion.
  if (body.boundsJump !== STAYED) unsettle(calm);
  const x = body.velocityToX - calm.x;
  const y = body.velocityToY - calm.y;
  if (x * x + y * y < calm.square) {
    body.contactLooks = 0;
  } else {
    meet(body, p);
    body.contactSurface = p.surfaced ? surfaceAt(p.body.ground, body.contactX + p.centreX, body.contactY + p.centreY) : 1;
  }
}

/** Walls are collected this many ticks' travel around the body at a time. */
const LOOK = 16;

/** Advances a body near an obstacle, or one that was just placed. */
function meet(body: Own<'contact'>, p: ContactPlan): void {
  const touched = body.contactCount > 0;
  p.calm.square = -1;
  beginContact(body);
  const moved = !p.calm.settled && settle(body, p);
  if (p.felt) meetWalls(body, p, moved);
  else passWalls(body, moved);
  holdInside(body, p);
  if (!moved && !touched && p.calms) keepCalm(body, p);
  if (body.contactCount > 0 !== touched) body.happened |= touched ? WALL_LEFT : WALL_MET;
}

/** Moves the body as far as walls allow; nearby edges count as walls. */
function meetWalls(body: Own<'contact'>, p: ContactPlan, moved: boolean): void {
  if (!p.swept) stepUnswept(body, p);
  else if (moved || !isFarFromWalls(body, p)) slide(body, p, moved);
  else passWalls(body, false);
}

/** Resets contact: the body is where it was and wants its full displacement. */
function beginContact(body: Own<'contact'>): void {
  body.contactLooks = 1;
  body.contactCount = 0;
  body.contactSides = 0;
  body.contactStops = 0;
  body.contactKeeps = 0;
  body.contactX = body.x;
  body.contactY = body.y;
  body.contactVx = body.velocityX;
  body.contactVy = body.velocityY;
}

/** Ensures that a placed body is clear of walls and within its limits; returns true if it was moved. */
function settle(body: Own<'contact'>, p: ContactPlan): boolean {
  p.calm.settled = true;
  if (!p.swept || isFree(p.body, body.x, body.y)) return false;
  const place = freePlace(p.body, body.x, body.y);
  const x = place ? place.x : Math.max(p.left, Math.min(p.right, body.x));
  const y = place ? place.y : Math.max(p.top, Math.min(p.bottom, body.y));
  if (x === body.x && y === body.y) return false;
  body.contactX = x;
  body.contactY = y;
  body.happened |= START_MOVED;
  return true;
}

/** No wall is in reach: only edges can hold the body. */
function passWalls(body: Own<'contact'>, moved: boolean): void {
  if (moved) {
    body.contactX += body.velocityDx;
    body.contactY += body.velocityDy;
  } else {
    body.contactX = body.velocityToX;
    body.contactY = body.velocityToY;
  }
}

/** Keeps the place within the edges; the velocity against a pressed edge becomes 0. */
function holdInside(body: Own<'contact'>, p: ContactPlan): void {
  if (body.contactX < p.left) {
    body.contactX = p.left;
    hold(body, LEFT_SIDE);
  } else if (body.contactX > p.right) {
    body.contactX = p.right;
    hold(body, RIGHT_SIDE);
  }
  if (body.contactY < p.top) {
    body.contactY = p.top;
    hold(body, TOP_SIDE);
  } else if (body.contactY > p.bottom) {
    body.contactY = p.bottom;
    hold(body, BOTTOM_SIDE);
  }
}

function hold(body: Own<'contact'>, side: number): void {
  body.contactSides |= side;
  if (side === LEFT_SIDE || side === RIGHT_SIDE) body.contactVx = 0;
  else body.contactVy = 0;
  if (body.contactVx === 0 && body.contactVy === 0) body.contactStops = 1;
}

/** If nothing was met, records how far the body can go from its last place before it can meet a wall, or an edge of any kind. */
function keepCalm(body: Own<'contact'>, p: ContactPlan): void {
  const { calm } = p;
  if (body.contactCount > 0 || body.contactSides !== 0 || body.boundsJump !== STAYED) return;
  const { x, y } = body;
  const room = Math.min(p.felt ? p.probe.room : Infinity, x - p.farLeft, p.farRight - x, y - p.farTop, p.farBottom - y);
  if (!(room > 0)) return;
  calm.x = x;
  calm.y = y;
  calm.square = room * room;
}

/** True if no wall can be met in this tick; computes how far the body can go before one can be. */
function isFarFromWalls(body: Own<'contact'>, p: ContactPlan): boolean {
  const { probe } = p;
  probe.x = body.x + p.centreX;
  probe.y = body.y + p.centreY;
  const reach = length(body.velocityDx, body.velocityDy);
  probe.reach = Math.min(LOOK * reach, reach + p.half);
  gather(probe);
  const { near, count, x, y } = probe;
  const { buckets } = probe.index;
  // Knowledge of walls ends with the searched box.
  const edge = Math.min(x - probe.left, probe.right - x, y - probe.top, probe.bottom - y) + p.half;
  let nearest = edge * edge;
  for (let k = 0; k < count; k++) {
    const square = squareTo(buckets, near[k] as number, x, y);
    if (square < nearest) nearest = square;
  }
  // Slightly less, for the rounding of the roots.
  probe.room = (Math.sqrt(nearest) - p.half) * (1 - 1e-9) - probe.slop;
  return probe.room > reach;
}

/** Tests only the end of the tick and pushes the body out of its overlaps there: walls in between aren't met. */
function stepUnswept(body: Own<'contact'>, p: ContactPlan): void {
  const { probe, planes } = p;
  const toX = body.contactX + body.velocityDx;
  const toY = body.contactY + body.velocityDy;
  probe.x = toX + p.centreX;
  probe.y = toY + p.centreY;
  const [x, y] = [probe.x, probe.y];
  const moved = overlaps(probe) && separate(probe);
  body.contactX = moved ? probe.x - p.centreX : toX;
  body.contactY = moved ? probe.y - p.centreY : toY;
  const depth = length(probe.x - x, probe.y - y);
  if (moved && depth > 0) {
    probe.normalX = (probe.x - x) / depth;
    probe.normalY = (probe.y - y) / depth;
    note(body, p);
    body.contactCount = 1;
    planes.count = 0;
    addPlane(planes, probe, true);
    if (!p.slides || !leadVelocity(body, p)) stop(body);
  }
}

/** The row or column of cells that holds a coordinate; a place on the last border of the ground is in the last one. */
function cellIndex(value: number, size: number, cell: number): number {
  return value === size ? Math.ceil(size / cell) - 1 : Math.floor(value / cell);
}

/** Speed factor of the surface at a point; 1 off the cells and on marks without one. */
function surfaceAt({ cells, cell, size, surfaces }: Ground, x: number, y: number): number {
  const mark = cells[cellIndex(y, size.height, cell)]?.[cellIndex(x, size.width, cell)];
  return mark === undefined || mark === OPEN || mark === SOLID ? 1 : (surfaces[mark]?.speed ?? 1);
}
