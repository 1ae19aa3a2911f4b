import { easeRound } from '../collision/cornerAssist.ts';
import { freePlace } from '../collision/freePlace.ts';
import { overlaps, separate } from '../collision/overlap.ts';
import { isFree, type PlacedBody, placedBody } from '../collision/placedBody.ts';
import { addPlane, leadAlong, Planes } from '../collision/planes.ts';
import type { Probe } from '../collision/probe.ts';
import { gather, sweep } from '../collision/sweep.ts';
import { type Ground, OPEN, SOLID } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';
import { BOTTOM_SIDE, BY_DRIVE, LEFT_SIDE, RIGHT_SIDE, TOP_SIDE } from './codes.ts';
import { START_MOVED, WALL_LEFT, WALL_MET } from './events.ts';

/** What the contact stage needs of a tuning and a ground. */
export interface ContactPlan {
  body: PlacedBody;
  probe: Probe;
  calm: Calm;
  planes: Planes;
  felt: boolean;
  /** Where the body's origin is held by edges; infinite on a side that holds nothing back. */
  left: number;
  right: number;
  top: number;
  bottom: number;
  /** From the body's origin to its centre, unit. */
  centreX: number;
  centreY: number;
  /** Distance from the body's centre to its farthest point, unit. */
  half: number;
  /** Whether the ground has surfaces that change the speed. */
  surfaced: boolean;
  slides: boolean;
  keeps: boolean;
  friction: number;
  /** Contacts along which a body slides in one tick. */
  most: number;
  cornerAssist: number;
  swept: boolean;
}

/**
 * A disc (of the body's origin) in which it meets no wall, worked out now and then: within it a tick need not look for any. What is known
 * of it changes no result, only the time that it takes.
 */
interface Calm {
  x: number;
  y: number;
  /** Square of its radius; below 0 when nothing is known. */
  square: number;
  /** Whether the place where the body is has been looked at since it was put there. */
  settled: boolean;
}

/** Steps from cell to cell look for walls themselves, with the bare body: one as wide as its cell fits between them. */
export function prepareContact(parameters: Parameters, ground: Ground, walls: WallIndex): ContactPlan {
  const { contact, scheme } = parameters;
  const steps = scheme === 'step';
  const body = placedBody(parameters, ground, walls, steps ? -contact.skin : 0);
  const { probe } = body;
  return {
    body,
    probe,
    calm: { x: 0.5, y: 0.5, square: -0.5, settled: false },
    planes: new Planes(),
    felt: body.felt && !steps,
    ...body.limits,
    centreX: body.centreX,
    centreY: body.centreY,
    half: probe.circle ? probe.halfWidth : length(probe.halfWidth, probe.halfHeight),
    surfaced: ground.cells.length > 0 && Object.keys(ground.surfaces).length > 0,
    slides: contact.response === 'slide',
    keeps: contact.keepSpeed,
    friction: contact.wallFriction,
    most: contact.contactsPerTick,
    cornerAssist: contact.cornerAssist,
    swept: contact.swept,
  };
}

/** Has the place where the body is looked at anew: it was put there, not moved. */
export function unsettle(p: ContactPlan): void {
  p.calm.square = -1;
  p.calm.settled = false;
}

/**
 * Moves the body by its displacement among walls and edges, which are solved together: to the first contact (walls less the skin);
 * then on with what the planes that it touches leave of its way (`leadAlong`), up to `contactsPerTick` times. With response `stop` a
 * wall ends the motion. At an angle θ to a wall a share of max(0, cos θ − wallFriction·sin θ) of the velocity is kept, with
 * `keepSpeed` all of it; of the velocity across an edge nothing. What is left is the actual motion, not a new wish.
 */
export function stepContact(body: Own<'contact'>, p: ContactPlan): void {
  const x = body.velocityToX;
  const y = body.velocityToY;
  const fromX = x - p.calm.x;
  const fromY = y - p.calm.y;
  if (
    fromX * fromX + fromY * fromY < p.calm.square &&
    x >= p.left &&
    x <= p.right &&
    y >= p.top &&
    y <= p.bottom &&
    body.contactCount === 0 &&
    body.boundsJump === 0 &&
    !p.surfaced
  ) {
    body.contactX = x;
    body.contactY = y;
    body.contactVx = body.velocityX;
    body.contactVy = body.velocityY;
    body.contactSides = 0;
    body.contactStops = 0;
    body.contactKeeps = 0;
  } else meet(body, p);
}

/** How many ticks' travel around the body is looked over for walls at a time. */
const LOOK = 16;

/** The tick of a body near something, or that was just put where it is. */
function meet(body: Own<'contact'>, p: ContactPlan): void {
  const touched = body.contactCount > 0;
  body.contactCount = 0;
  body.contactSides = 0;
  body.contactStops = 0;
  body.contactKeeps = 0;
  body.contactX = body.x;
  body.contactY = body.y;
  body.contactVx = body.velocityX;
  body.contactVy = body.velocityY;
  if (body.boundsJump !== 0) unsettle(p);
  const moved = !p.calm.settled && settle(body, p);
  if (!p.felt || (!touched && isCalm(body, p))) passWalls(body, p, moved);
  else if (!p.swept) stepUnswept(body, p);
  else if (moved || touched || !isFarFromWalls(body, p)) slide(body, p, moved);
  else passWalls(body, p, false);
  if (body.contactCount > 0 !== touched) body.happened |= touched ? WALL_LEFT : WALL_MET;
  body.contactSurface = p.surfaced ? surfaceAt(p.body.ground, body.contactX + p.centreX, body.contactY + p.centreY) : 1;
}

/** Whether the tick's way ends where it is known that no wall is met; it began there, too. */
function isCalm(body: Own<'contact'>, { calm }: ContactPlan): boolean {
  const x = body.velocityToX - calm.x;
  const y = body.velocityToY - calm.y;
  return x * x + y * y < calm.square;
}

/** Sees to it that a body that was put somewhere is clear of walls and within its limits; true when it had to be moved. */
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
function passWalls(body: Own<'contact'>, p: ContactPlan, moved: boolean): void {
  if (moved) {
    body.contactX += body.velocityDx;
    body.contactY += body.velocityDy;
  } else {
    body.contactX = body.velocityToX;
    body.contactY = body.velocityToY;
  }
  if (!p.felt) {
    p.calm.x = body.contactX;
    p.calm.y = body.contactY;
    p.calm.square = Infinity;
  }
  holdInside(body, p);
}

/** Holds the place within the edges; the velocity across an edge that is pressed goes to 0. */
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

/** Whether no wall can be met in this tick; looks out how far the body can go before one can be. */
function isFarFromWalls(body: Own<'contact'>, p: ContactPlan): boolean {
  const { probe } = p;
  probe.x = body.x + p.centreX;
  probe.y = body.y + p.centreY;
  const reach = length(body.velocityDx, body.velocityDy);
  gather(probe, Math.min(LOOK * reach, reach + p.half));
  const { near, count, x, y } = probe;
  const { segments, courses } = probe.index.buckets;
  // What is known of walls ends with the box that was searched.
  const edge = Math.min(x - probe.left, probe.right - x, y - probe.top, probe.bottom - y) + p.half;
  let nearest = edge * edge;
  for (let k = 0; k < count; k++) {
    const wall = near[k] as number;
    const rx = x - (segments[wall * 4] as number);
    const ry = y - (segments[wall * 4 + 1] as number);
    const ux = courses[wall * 3] as number;
    const uy = courses[wall * 3 + 1] as number;
    const size = courses[wall * 3 + 2] as number;
    const foot = rx * ux + ry * uy;
    const held = foot < 0 ? 0 : foot > size ? size : foot;
    const fx = rx - ux * held;
    const fy = ry - uy * held;
    const square = fx * fx + fy * fy;
    if (square < nearest) nearest = square;
  }
  // A little less than it is, for the rounding of the roots.
  const room = (Math.sqrt(nearest) - p.half) * (1 - 1e-9) - 1e-6;
  p.calm.x = body.x;
  p.calm.y = body.y;
  p.calm.square = room > 0 ? room * room : -1;
  return room > reach;
}

/** Part of a tick's way (unit) that counts as no way at all, so that a body at rest in a corner stays where it is, to the bit. */
const STILL = 1e-9;

/** To the first contact, then along what it touches, and so on, until the way is gone or a corner closes. */
function slide(body: Own<'contact'>, p: ContactPlan, moved: boolean): void {
  const { probe, planes } = p;
  p.calm.square = -1;
  probe.x = body.contactX + p.centreX;
  probe.y = body.contactY + p.centreY;
  probe.dx = body.velocityDx;
  probe.dy = body.velocityDy;
  planes.count = 0;
  // The part of the tick that is left.
  let left = 1;
  // Walls slid along, and four sides of the frame; one more round takes the rest of the way.
  for (let round = 0; round < p.most + 6; round++) {
    const reach = Math.sqrt(probe.dx * probe.dx + probe.dy * probe.dy);
    gather(probe, reach);
    const meetsWall = sweep(probe);
    const side = meetEdge(p);
    if (!meetsWall && side === 0) {
      if (round === 0 && !moved) {
        body.contactX = body.velocityToX;
        body.contactY = body.velocityToY;
      } else {
        body.contactX = probe.x + probe.dx - p.centreX;
        body.contactY = probe.y + probe.dy - p.centreY;
      }
      holdRounding(body, p);
      return;
    }
    if (probe.time * reach > STILL) {
      probe.x += probe.dx * probe.time;
      probe.y += probe.dy * probe.time;
      planes.count = 0;
      left *= 1 - probe.time;
    }
    body.contactX = probe.x - p.centreX;
    body.contactY = probe.y - p.centreY;
    holdRounding(body, p);
    const isNew = addPlane(planes, probe.normalX, probe.normalY, side === 0);
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
    const goesOn = body.contactCount <= p.most && leadOn(body, p, left);
    if (body.contactCount > p.most || !leadVelocity(body, p)) stop(body);
    if (!goesOn || body.contactStops === 1) return;
  }
}

/** What the planes that are touched leave of the rest of the way wanted; false where that is nothing. */
function leadOn(body: Own<'contact'>, p: ContactPlan, left: number): boolean {
  const { probe, planes } = p;
  planes.inX = body.velocityDx * left;
  planes.inY = body.velocityDy * left;
  const goesOn = leadAlong(planes, p.friction, p.keeps);
  probe.dx = planes.outX;
  probe.dy = planes.outY;
  return goesOn;
}

/** The same of the velocity. A body without a velocity has nothing to lose. */
function leadVelocity(body: Own<'contact'>, p: ContactPlan): boolean {
  const { planes } = p;
  planes.inX = body.velocityX;
  planes.inY = body.velocityY;
  const goesOn = leadAlong(planes, p.friction, p.keeps);
  body.contactVx = planes.outX;
  body.contactVy = planes.outY;
  body.contactKeeps = p.keeps && goesOn && body.contactCount > 0 ? 1 : 0;
  return goesOn || (body.velocityX === 0 && body.velocityY === 0);
}

function stop(body: Own<'contact'>): void {
  body.contactVx = 0;
  body.contactVy = 0;
  body.contactStops = 1;
  body.contactKeeps = 0;
}

/** Aside round a corner, then on with what is left of the way; the velocity is kept for the way past it. */
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

/** Whether an edge is met before the wall that the probe holds, if any; then it holds the edge instead. Gives the side, 0 for none. */
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
  body.contactX = Math.max(p.left, Math.min(p.right, body.contactX));
  body.contactY = Math.max(p.top, Math.min(p.bottom, body.contactY));
}

/** Looks only where the tick ends, and pushes the body out of what it overlaps there: what lies on the way is not met. */
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
    addPlane(planes, probe.normalX, probe.normalY, true);
    if (!p.slides || !leadVelocity(body, p)) stop(body);
  }
  holdInside(body, p);
}

/** Notes the first contact of a tick: where the body touches, and which way it wants. */
function note(body: Own<'contact'>, { probe }: ContactPlan): void {
  const { segments } = probe.index;
  const i = probe.wall * 4;
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const ex = (segments[i + 2] as number) - ax;
  const ey = (segments[i + 3] as number) - ay;
  const share = Math.max(0, Math.min(1, ((probe.x - ax) * ex + (probe.y - ay) * ey) / (ex * ex + ey * ey)));
  body.contactNormalX = probe.normalX;
  body.contactNormalY = probe.normalY;
  body.contactPointX = ax + ex * share;
  body.contactPointY = ay + ey * share;
  // The way that is wanted, not what the ramp has made of it since the wall took its part.
  const wishes = body.routeWishAmount > 0 && (body.routeWishX !== 0 || body.routeWishY !== 0) && body.velocityMode !== BY_DRIVE;
  body.contactWayX = wishes ? body.routeWishX : body.velocityX;
  body.contactWayY = wishes ? body.routeWishY : body.velocityY;
}

/** Speed factor of the surface at a point; 1 off the cells and on marks without one. */
function surfaceAt(ground: Ground, x: number, y: number): number {
  const mark = ground.cells[Math.floor(y / ground.cell)]?.[Math.floor(x / ground.cell)];
  return mark === undefined || mark === OPEN || mark === SOLID ? 1 : (ground.surfaces[mark]?.speed ?? 1);
}
