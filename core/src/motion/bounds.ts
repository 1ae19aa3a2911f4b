import { freePlace } from '../collision/freePlace.ts';
import { type Limits, originLimits } from '../collision/limits.ts';
import { type PlacedBody, placedBody } from '../collision/placedBody.ts';
import { gather, sweep } from '../collision/sweep.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { clamp, length } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { OwnMotion } from './body.ts';
import { BOTTOM_SIDE, BUMPING, LEFT_SIDE, RIGHT_SIDE, STAYED, TOP_SIDE, WAS_PUSHED, WAS_SENT, WENT_ROUND } from './codes.ts';
import { EDGE_LEFT, EDGE_MET, SENT, START_MOVED, WRAPPED } from './events.ts';

/** Behaviour at the limits of the body's origin. */
export interface BoundsPlan extends Limits {
  policy: Parameters['bounds']['policy'];
  push: number;
  sendToX: number;
  sendToY: number;
  /** Grid steps report their own blocking. */
  steps: boolean;
  /** The body among walls, to test places for it. */
  body: PlacedBody;
}

export function prepareBounds(parameters: Parameters, ground: Ground, walls: WallIndex): BoundsPlan {
  const { bounds, scheme, contact } = parameters;
  const steps = scheme === 'step';
  return {
    policy: bounds.policy,
    ...originLimits(parameters, ground),
    push: bounds.push,
    sendToX: bounds.sendToX,
    sendToY: bounds.sendToY,
    steps,
    body: placedBody(parameters, ground, walls, steps ? -contact.skin : 0),
  };
}

/**
 * Decides the final place and velocity: those of contact, unless the body has passed an edge that doesn't hold it. A push ends at a wall; a body that
 * re-enters or is sent goes to the free place nearest to its target.
 */
export function stepBounds(body: OwnMotion, p: BoundsPlan): void {
  if (body.contactLooks === 0) {
    body.x = body.velocityToX;
    body.y = body.velocityToY;
    body.vx = body.velocityX;
    body.vy = body.velocityY;
  } else meetEdges(body, p);
}

/** Below this fraction of the wanted displacement the body counts as blocked. */
const HEADWAY = 0.1;

/** Applies the edges that don't hold the body to the result of contact. */
function meetEdges(body: OwnMotion, p: BoundsPlan): void {
  const was = body.boundsHeld;
  const goneX = body.contactX - body.x;
  const goneY = body.contactY - body.y;
  const wanted = body.velocityDx * body.velocityDx + body.velocityDy * body.velocityDy;
  const blocked = goneX * goneX + goneY * goneY < HEADWAY * HEADWAY * wanted;
  body.boundsJump = STAYED;
  body.boundsSides = body.contactSides | sidesPassed(body, p);
  body.boundsHeld = body.contactSides !== 0 ? 1 : 0;
  if (body.boundsSides !== body.contactSides) passEdge(body, p);
  const isHeld = body.contactCount > 0 || body.boundsHeld === 1;
  body.boundsBlocked = (isHeld && blocked) || (p.steps && body.stepPhase === BUMPING) ? 1 : 0;
  if (body.boundsHeld !== was) body.happened |= body.boundsHeld ? EDGE_MET : EDGE_LEFT;
  if (body.boundsJump === STAYED) {
    body.x = body.contactX;
    body.y = body.contactY;
    body.vx = body.contactVx;
    body.vy = body.contactVy;
  }
}

/** The edges that the body has passed. */
function sidesPassed({ contactX: x, contactY: y }: OwnMotion, p: BoundsPlan): number {
  const across = x < p.left ? LEFT_SIDE : x > p.right ? RIGHT_SIDE : 0;
  return across | (y < p.top ? TOP_SIDE : y > p.bottom ? BOTTOM_SIDE : 0);
}

function passEdge(body: OwnMotion, p: BoundsPlan): void {
  const { contactX: x, contactY: y } = body;
  switch (p.policy) {
    case 'push':
      // Moved back inside with its velocity kept: the cause of trembling or popping.
      pushTo(body, p, pushed(x, p.left, p.right, p.push), pushed(y, p.top, p.bottom, p.push));
      body.boundsHeld = 1;
      return;
    case 'wrap':
      if (putTo(body, p, wrapped(x, p.left, p.right), wrapped(y, p.top, p.bottom))) {
        body.boundsJump = WENT_ROUND;
        body.happened |= WRAPPED;
        return;
      }
      // No free place at the other side: the edge holds.
      pushTo(body, p, clamp(x, p.left, p.right), clamp(y, p.top, p.bottom));
      if (x < p.left || x > p.right) body.vx = 0;
      if (y < p.top || y > p.bottom) body.vy = 0;
      body.boundsHeld = 1;
      return;
    case 'sendTo':
      putTo(body, p, clamp(p.sendToX, p.left, p.right), clamp(p.sendToY, p.top, p.bottom));
      body.vx = 0;
      body.vy = 0;
      body.boundsJump = WAS_SENT;
      body.happened |= SENT;
  }
}

/** Moves the body straight towards a place, as far as no wall is met. */
function pushTo(body: OwnMotion, { body: placed }: BoundsPlan, toX: number, toY: number): void {
  const { probe } = placed;
  probe.x = body.contactX + placed.centreX;
  probe.y = body.contactY + placed.centreY;
  probe.dx = toX - body.contactX;
  probe.dy = toY - body.contactY;
  probe.reach = length(probe.dx, probe.dy);
  gather(probe);
  const isMet = placed.felt && sweep(probe);
  body.x = isMet ? body.contactX + probe.dx * probe.time : toX;
  body.y = isMet ? body.contactY + probe.dy * probe.time : toY;
  body.vx = body.contactVx;
  body.vy = body.contactVy;
  body.boundsJump = WAS_PUSHED;
  if (isMet) body.happened |= START_MOVED;
}

/** Moves the body to a place, or to the nearest free one; returns false and leaves it if there is none. */
function putTo(body: OwnMotion, { body: placed }: BoundsPlan, x: number, y: number): boolean {
  const place = freePlace(placed, x, y);
  body.x = place ? place.x : body.contactX;
  body.y = place ? place.y : body.contactY;
  body.vx = body.contactVx;
  body.vy = body.contactVy;
  if (place && (place.x !== x || place.y !== y)) body.happened |= START_MOVED;
  return place !== null;
}

/** The place `push` inside an edge that was passed, but never past the middle. */
function pushed(value: number, low: number, high: number, push: number): number {
  const middle = (low + high) / 2;
  return value < low ? Math.min(low + push, middle) : value > high ? Math.max(high - push, middle) : value;
}

/** Wraps a value into [low, high) by whole spans. */
function wrapped(value: number, low: number, high: number): number {
  if (value >= low && value <= high) return value;
  const span = high - low;
  if (span <= 0) return low;
  const rest = value - low - Math.floor((value - low) / span) * span;
  return low + (rest < span ? rest : 0);
}
