import { easeRound } from '../collision/cornerAssist.ts';
import { addPlane, leadAlong } from '../collision/planes.ts';
import type { Probe } from '../collision/probe.ts';
import { gather, sweep } from '../collision/sweep.ts';
import { GRAZE } from '../collision/tolerance.ts';
import { shareAlong } from '../math/segment.ts';
import type { Own } from './body.ts';
import { BOTTOM_SIDE, BY_DRIVE, LEFT_SIDE, RIGHT_SIDE, TOP_SIDE } from './codes.ts';
import type { ContactPlan } from './contactPlan.ts';

/** Part of a tick's displacement that counts as none, in slops, so that a body at rest in a corner stays there, to the bit. */
const STILL = 1 / 1024;

/**
 * Moves to the first contact, then along the touched planes, and so on, until the displacement is used up or a corner closes. In a corner of walls
 * and edges, everything that the wanted direction presses against counts as met, whichever of them rounding put first.
 */
export function slide(body: Own<'contact'>, p: ContactPlan, moved: boolean): void {
  const hasEdges = isNearEdge(body, p);
  slideOn(body, p, moved, hasEdges);
  if (hasEdges) meetAllPressed(body, p);
}

/** Records the edges, and a wall if none was met, that the body touches and presses at the end. */
function meetAllPressed(body: Own<'contact'>, p: ContactPlan): void {
  const { contactX: x, contactY: y, velocityDx: dx, velocityDy: dy } = body;
  const reach = Math.sqrt(dx * dx + dy * dy);
  const least = GRAZE * reach;
  const { probe } = p;
  const { slop } = probe;
  if (x < p.left + slop && dx < -least) body.contactSides |= LEFT_SIDE;
  if (x > p.right - slop && dx > least) body.contactSides |= RIGHT_SIDE;
  if (y < p.top + slop && dy < -least) body.contactSides |= TOP_SIDE;
  if (y > p.bottom - slop && dy > least) body.contactSides |= BOTTOM_SIDE;
  if (body.contactSides === 0 || body.contactCount > 0) return;
  probe.x = x + p.centreX;
  probe.y = y + p.centreY;
  probe.dx = dx;
  probe.dy = dy;
  probe.reach = reach;
  gather(probe);
  if (!sweep(probe) || probe.time * reach > slop) return;
  note(body, p);
  body.contactCount = 1;
}

function slideOn(body: Own<'contact'>, p: ContactPlan, moved: boolean, hasEdges: boolean): void {
  const { probe, planes } = p;
  probe.room = -1;
  probe.x = body.contactX + p.centreX;
  probe.y = body.contactY + p.centreY;
  probe.dx = body.velocityDx;
  probe.dy = body.velocityDy;
  planes.count = 0;
  probe.rest = 1;
  // Walls slid along, and four sides of the frame; one more round takes the rest of the displacement.
  for (let round = 0; round < p.most + 6; round++) {
    const reach = Math.sqrt(probe.dx * probe.dx + probe.dy * probe.dy);
    probe.reach = reach;
    gather(probe);
    // A body that slides along the only wall near by meets no other, and a wall grown by a body is convex.
    const meetsWall = round > 0 && probe.count === 1 && planes.count === 1 && planes.isWall[0] === 1 ? meetNone(probe) : sweep(probe);
    const side = hasEdges ? meetEdge(p) : 0;
    if (!meetsWall && side === 0) {
      if (round === 0 && !moved) {
        body.contactX = body.velocityToX;
        body.contactY = body.velocityToY;
      } else {
        body.contactX = probe.x + probe.dx - p.centreX;
        body.contactY = probe.y + probe.dy - p.centreY;
      }
      if (hasEdges) holdRounding(body, p);
      return;
    }
    if (probe.time * reach > STILL * probe.slop) {
      probe.x += probe.dx * probe.time;
      probe.y += probe.dy * probe.time;
      planes.count = 0;
      probe.rest *= 1 - probe.time;
    }
    body.contactX = probe.x - p.centreX;
    body.contactY = probe.y - p.centreY;
    if (hasEdges) holdRounding(body, p);
    const isNew = addPlane(planes, probe, side === 0);
    if (side !== 0) body.contactSides |= side;
    else if (isNew || body.contactCount === 0) {
      if (body.contactCount === 0) note(body, p);
      body.contactCount++;
    }
    if (side === 0 && !p.slides) {
      stop(body);
      return;
    }
    if (p.cornerAssist > 0 && side === 0 && easeAside(body, p)) continue;
    const goesOn = body.contactCount <= p.most && leadOn(body, p);
    if (body.contactCount > p.most || !leadVelocity(body, p)) stop(body);
    if (!goesOn || body.contactStops === 1) return;
  }
}

/** True if the tick may meet an edge, wherever walls lead the body; a corner assist adds to its displacement. */
function isNearEdge(body: Own<'contact'>, p: ContactPlan): boolean {
  const { contactX: x, contactY: y, velocityDx: dx, velocityDy: dy } = body;
  const reach = 2 * Math.sqrt(dx * dx + dy * dy) + p.cornerAssist + p.probe.slop;
  return x - reach < p.left || x + reach > p.right || y - reach < p.top || y + reach > p.bottom;
}

/** Resets the probe to a sweep without contact. */
function meetNone(probe: Probe): boolean {
  probe.time = 1;
  probe.wall = -1;
  return false;
}

/** Projects the remaining displacement onto the touched planes; returns false if nothing remains. */
function leadOn(body: Own<'contact'>, p: ContactPlan): boolean {
  const { probe, planes } = p;
  planes.inX = body.velocityDx * probe.rest;
  planes.inY = body.velocityDy * probe.rest;
  const goesOn = leadAlong(planes);
  probe.dx = planes.outX;
  probe.dy = planes.outY;
  return goesOn;
}

/** The same for the velocity. A body without a velocity has nothing to lose. */
export function leadVelocity(body: Own<'contact'>, p: ContactPlan): boolean {
  const { planes } = p;
  planes.inX = body.velocityX;
  planes.inY = body.velocityY;
  const goesOn = leadAlong(planes);
  body.contactVx = planes.outX;
  body.contactVy = planes.outY;
  body.contactKeeps = planes.keeps && goesOn && body.contactCount > 0 ? 1 : 0;
  return goesOn || (body.velocityX === 0 && body.velocityY === 0);
}

export function stop(body: Own<'contact'>): void {
  body.contactVx = 0;
  body.contactVy = 0;
  body.contactStops = 1;
  body.contactKeeps = 0;
}

/** Sidesteps round a corner, then goes on with the remaining displacement; the velocity past the corner is kept. */
function easeAside(body: Own<'contact'>, p: ContactPlan): boolean {
  const { probe, planes } = p;
  const rest = 1 - probe.time;
  probe.dx *= rest;
  probe.dy *= rest;
  if (!easeRound(probe, p.cornerAssist)) return false;
  probe.x += probe.easeX;
  probe.y += probe.easeY;
  if (!isWithin(probe.x - p.centreX, probe.y - p.centreY, p)) {
    probe.x -= probe.easeX;
    probe.y -= probe.easeY;
    return false;
  }
  body.contactX = probe.x - p.centreX;
  body.contactY = probe.y - p.centreY;
  probe.dx *= probe.easeRest;
  probe.dy *= probe.easeRest;
  planes.count = 0;
  return true;
}

function isWithin(x: number, y: number, p: ContactPlan): boolean {
  return x >= p.left && x <= p.right && y >= p.top && y <= p.bottom;
}

/** True if an edge is met before the wall that the probe holds, if any; then it holds the edge instead. Gives the side, 0 for none. */
function meetEdge(p: ContactPlan): number {
  const { probe } = p;
  const x = probe.x - p.centreX;
  const y = probe.y - p.centreY;
  let side = 0;
  if (probe.dx < 0 && x + probe.dx * probe.time < p.left) {
    side = LEFT_SIDE;
    probe.time = Math.max(0, (p.left - x) / probe.dx);
  } else if (probe.dx > 0 && x + probe.dx * probe.time > p.right) {
    side = RIGHT_SIDE;
    probe.time = Math.max(0, (p.right - x) / probe.dx);
  }
  if (probe.dy < 0 && y + probe.dy * probe.time < p.top) {
    side = TOP_SIDE;
    probe.time = Math.max(0, (p.top - y) / probe.dy);
  } else if (probe.dy > 0 && y + probe.dy * probe.time > p.bottom) {
    side = BOTTOM_SIDE;
    probe.time = Math.max(0, (p.bottom - y) / probe.dy);
  }
  if (side === 0) return 0;
  probe.normalX = side === LEFT_SIDE ? 1 : side === RIGHT_SIDE ? -1 : 0;
  probe.normalY = side === TOP_SIDE ? 1 : side === BOTTOM_SIDE ? -1 : 0;
  return side;
}

/** An edge holds to the bit: what rounding has put beyond it is put on it. */
function holdRounding(body: Own<'contact'>, p: ContactPlan): void {
  if (body.contactX < p.left) body.contactX = p.left;
  else if (body.contactX > p.right) body.contactX = p.right;
  if (body.contactY < p.top) body.contactY = p.top;
  else if (body.contactY > p.bottom) body.contactY = p.bottom;
}

/** Records the first contact of a tick: the place of touch and the wanted direction. */
export function note(body: Own<'contact'>, { probe }: ContactPlan): void {
  const { segments } = probe.index;
  const i = probe.wall * 4;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const ex = (segments[i + 2] as number) - ax;
  const ey = (segments[i + 3] as number) - ay;
  const share = shareAlong(probe.x - ax, probe.y - ay, ex, ey);
  body.contactNormalX = probe.normalX;
  body.contactNormalY = probe.normalY;
  body.contactPointX = ax + ex * share;
  body.contactPointY = ay + ey * share;
  // The wanted direction, not the ramp's velocity after the wall took its part.
  const wishes = body.routeWishAmount > 0 && (body.routeWishX !== 0 || body.routeWishY !== 0) && body.velocityMode !== BY_DRIVE;
  body.contactWayX = wishes ? body.routeWishX : body.velocityX;
  body.contactWayY = wishes ? body.routeWishY : body.velocityY;
}
