import type { Calm } from '../collision/calm.ts';
import { easeRound } from '../collision/cornerAssist.ts';
import { freePlace } from '../collision/freePlace.ts';
import { originLimits } from '../collision/limits.ts';
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
  /** Where an edge of any kind makes itself felt. */
  farLeft: number;
  farRight: number;
  farTop: number;
  farBottom: number;
  /** From the body's origin to its centre, unit. */
  centreX: number;
  centreY: number;
  /** Distance from the body's centre to its farthest point, unit. */
  half: number;
  /** Whether the ground has surfaces that change the speed. */
  surfaced: boolean;
  /** Whether a tick in which nothing is met leaves nothing to do: not on surfaces, nor stepping from cell to cell. */
  calms: boolean;
  slides: boolean;
  /** Contacts along which a body slides in one tick. */
  most: number;
  cornerAssist: number;
  swept: boolean;
}

/** Steps from cell to cell look for walls themselves, with the bare body: one as wide as its cell fits between them. */
export function prepareContact(parameters: Parameters, ground: Ground, walls: WallIndex, calm: Calm): ContactPlan {
  const { contact, scheme } = parameters;
  const steps = scheme === 'step';
  const body = placedBody(parameters, ground, walls, steps ? -contact.skin : 0);
  const { probe } = body;
  const far = originLimits(parameters, ground);
  return {
    body,
    probe,
    calm,
    planes: new Planes(contact.wallFriction, contact.keepSpeed),
    felt: body.felt && !steps,
    ...body.limits,
    farLeft: far.left,
    farRight: far.right,
    farTop: far.top,
    farBottom: far.bottom,
    centreX: body.centreX,
    centreY: body.centreY,
    half: probe.circle ? probe.halfWidth : length(probe.halfWidth, probe.halfHeight),
    surfaced: isSurfaced(ground),
    calms: !steps && !isSurfaced(ground),
    slides: contact.response === 'slide',
    most: contact.contactsPerTick,
    cornerAssist: contact.cornerAssist,
    swept: contact.swept,
  };
}

/**
 * Moves the body by its displacement among walls and edges, which are solved together: to the first contact (walls less the skin);
 * then on with what the planes that it touches leave of its way (`leadAlong`), up to `contactsPerTick` times. With response `stop` a
 * wall ends the motion. At an angle θ to a wall a share of max(0, cos θ − wallFriction·sin θ) of the velocity is kept, with
 * `keepSpeed` all of it; of the velocity across an edge nothing. What is left is the actual motion, not a new wish.
 */
export function stepContact(body: Own<'contact'>, p: ContactPlan): void {
  const { calm } = p;
  const x = body.velocityToX - calm.x;
  const y = body.velocityToY - calm.y;
  if (x * x + y * y < calm.square) {
    body.contactLooks = 0;
  } else meet(body, p);
}

/** How many ticks' travel around the body is looked over for walls at a time. */
const LOOK = 16;

/** The tick of a body near something, or that was just put where it is. */
function meet(body: Own<'contact'>, p: ContactPlan): void {
  const touched = body.contactCount > 0;
  p.calm.square = -1;
  body.contactLooks = 1;
  body.contactCount = 0;
  body.contactSides = 0;
  body.contactStops = 0;
  body.contactKeeps = 0;
  body.contactX = body.x;
  body.contactY = body.y;
  body.contactVx = body.velocityX;
  body.contactVy = body.velocityY;
  const moved = !p.calm.settled && settle(body, p);
  if (!p.felt) passWalls(body, p, moved);
  else if (!p.swept) stepUnswept(body, p);
  else if (moved || touched || !isFarFromWalls(body, p)) slide(body, p, moved);
  else passWalls(body, p, false);
  if (!moved && !touched && p.calms) keepCalm(body, p);
  if (body.contactCount > 0 !== touched) body.happened |= touched ? WALL_LEFT : WALL_MET;
  body.contactSurface = p.surfaced ? surfaceAt(p.body.ground, body.contactX + p.centreX, body.contactY + p.centreY) : 1;
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

/** Where nothing was met, notes how far the body may go from where it was before it can meet a wall, or an edge of any kind. */
function keepCalm(body: Own<'contact'>, p: ContactPlan): void {
  const { calm } = p;
  if (body.contactCount > 0 || body.contactSides !== 0 || body.boundsJump !== 0) return;
  const { x, y } = body;
  const room = Math.min(p.felt ? p.probe.room : Infinity, x - p.farLeft, p.farRight - x, y - p.farTop, p.farBottom - y);
  if (!(room > 0)) return;
  calm.x = x;
  calm.y = y;
  calm.square = room * room;
}

/** Whether no wall can be met in this tick; looks out how far the body can go before one can be. */
function isFarFromWalls(body: Own<'contact'>, p: ContactPlan): boolean {
  const { probe } = p;
  probe.x = body.x + p.centreX;
  probe.y = body.y + p.centreY;
  const reach = length(body.velocityDx, body.velocityDy);
  probe.reach = Math.min(LOOK * reach, reach + p.half);
  gather(probe);
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
  probe.room = (Math.sqrt(nearest) - p.half) * (1 - 1e-9) - 1e-6;
  return probe.room > reach;
}

/** Part of a tick's way (unit) that counts as no way at all, so that a body at rest in a corner stays where it is, to the bit. */
const STILL = 1e-9;

/** To the first contact, then along what it touches, and so on, until the way is gone or a corner closes. */
function slide(body: Own<'contact'>, p: ContactPlan, moved: boolean): void {
  const { probe, planes } = p;
  probe.room = -1;
  probe.x = body.contactX + p.centreX;
  probe.y = body.contactY + p.centreY;
  probe.dx = body.velocityDx;
  probe.dy = body.velocityDy;
  planes.count = 0;
  probe.rest = 1;
  const hasEdges = isNearEdge(body, p);
  // Walls slid along, and four sides of the frame; one more round takes the rest of the way.
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
    if (probe.time * reach > STILL) {
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

/** Whether an edge may be met in this tick, wherever walls lead the body; a corner that it is eased round adds to its way. */
function isNearEdge(body: Own<'contact'>, p: ContactPlan): boolean {
  const { contactX: x, contactY: y, velocityDx: dx, velocityDy: dy } = body;
  const reach = 2 * Math.sqrt(dx * dx + dy * dy) + p.cornerAssist + 1e-6;
  return x - reach < p.left || x + reach > p.right || y - reach < p.top || y + reach > p.bottom;
}

/** As a sweep that has met nothing. */
function meetNone(probe: Probe): boolean {
  probe.time = 1;
  probe.wall = -1;
  return false;
}

/** What the planes that are touched leave of the rest of the way wanted; false where that is nothing. */
function leadOn(body: Own<'contact'>, p: ContactPlan): boolean {
  const { probe, planes } = p;
  planes.inX = body.velocityDx * probe.rest;
  planes.inY = body.velocityDy * probe.rest;
  const goesOn = leadAlong(planes);
  probe.dx = planes.outX;
  probe.dy = planes.outY;
  return goesOn;
}

/** The same of the velocity. A body without a velocity has nothing to lose. */
function leadVelocity(body: Own<'contact'>, p: ContactPlan): boolean {
  const { planes } = p;
  planes.inX = body.velocityX;
  planes.inY = body.velocityY;
  const goesOn = leadAlong(planes);
  body.contactVx = planes.outX;
  body.contactVy = planes.outY;
  body.contactKeeps = planes.keeps && goesOn && body.contactCount > 0 ? 1 : 0;
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
  if (body.contactX < p.left) body.contactX = p.left;
  else if (body.contactX > p.right) body.contactX = p.right;
  if (body.contactY < p.top) body.contactY = p.top;
  else if (body.contactY > p.bottom) body.contactY = p.bottom;
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
    addPlane(planes, probe, true);
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

/** Whether a ground has surfaces that change the speed. */
function isSurfaced({ cells, surfaces }: Ground): boolean {
  return cells.length > 0 && Object.keys(surfaces).length > 0;
}

/** Speed factor of the surface at a point; 1 off the cells and on marks without one. */
function surfaceAt(ground: Ground, x: number, y: number): number {
  const mark = ground.cells[Math.floor(y / ground.cell)]?.[Math.floor(x / ground.cell)];
  return mark === undefined || mark === OPEN || mark === SOLID ? 1 : (ground.surfaces[mark]?.speed ?? 1);
}
