import { placedBody } from '../collision/placedBody.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { DEGREE, LN2, length } from '../math/functions.ts';
import type { Navigator } from '../route/navigator.ts';
import { PLANT, POINTER, wentDown } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';
import { AFTER_POINTER, BY_HANDS, PASSES, STAYED, STEPPING, TO_POINT } from './codes.ts';
import { PLANTED, ROUTE_SET, UNREACHABLE } from './events.ts';
import { followPath, headFor } from './routeFollowing.ts';
import { drop, planAgain, planDetour, type RoutePlan, setOut, want } from './routePlanning.ts';
import { restSpeed } from './still.ts';

export function prepareRoute(parameters: Parameters, ground: Ground, walls: WallIndex, navigator: Navigator): RoutePlan {
  const { route, ramp, scheme } = parameters;
  return {
    enabled: route.enabled && scheme !== 'step',
    watches: route.enabled || scheme === 'step',
    steps: scheme === 'step',
    navigator,
    body: placedBody(parameters, ground, walls),
    waypointRadius: route.waypointRadius,
    arriveRadius: route.arriveRadius,
    rest: restSpeed(parameters.body),
    exact: route.arrival === 'exact',
    brake: route.brake,
    decelerate: ramp.decelerate,
    slowest: Math.min(ramp.accelerate, ramp.decelerate, ramp.brake, ramp.ease),
    sharply: ramp.model === 'instant',
    decay: ramp.model === 'smooth' ? LN2 / ramp.halfLife : 0,
    turnRate: ramp.turning === 'heading' && scheme !== 'turn' ? ramp.turnRate * DEGREE : Infinity,
    tapTime: route.tapTime,
    restarts: route.reclick === 'restart',
    stuckAfter: route.stuckAfter,
    replanEvery: route.replanEvery,
    resumes: route.afterPlant === 'resume',
  };
}

/**
 * Selects the requested motion: the hands or grid steps, until a click sets a destination. The path to it is passed on as a direction, a speed limit
 * (√(2·decelerate·remaining path) with `brake`) and the place where the tick that would pass it ends.
 */
export function stepRoute(body: Own<'route'>, p: RoutePlan, hands: Hands): void {
  if (p.watches || body.routeLeads === 1 || (hands.changed && hands.held[PLANT] !== 0)) lead(body, p, hands);
  else {
    body.routeWishX = body.intentX;
    body.routeWishY = body.intentY;
    body.routeWishAmount = body.intentAmount;
    body.routeWishSprint = body.intentSprintWanted;
  }
}

/** Hands alone: only they, or the steps that they began, lead the feet. */
function passOn(body: Own<'route'>, p: RoutePlan): void {
  if (p.steps) {
    want(body, body.stepWayX, body.stepWayY, body.stepPhase === STEPPING ? 1 : 0);
    body.routeWishSprint = 0;
    return;
  }
  body.routeWishX = body.intentX;
  body.routeWishY = body.intentY;
  body.routeWishAmount = body.intentAmount;
  body.routeWishSprint = body.intentSprintWanted;
}

function lead(body: Own<'route'>, p: RoutePlan, hands: Hands): void {
  body.routeCap = Infinity;
  body.routePace = Infinity;
  body.routeLands = PASSES;
  body.routeCarries = 0;
  body.routeRestarts = 0;
  const plants = hands.held[PLANT] !== 0;
  if (!plants && body.routePlanted === 1) letGo(body, p);
  // A click in the tick of planting or releasing the feet counts: it sets where they go next.
  if (p.enabled && body.routePlanted === 0) hearPointer(body, p, hands);
  if (plants) plant(body);
  if (body.routeActive !== BY_HANDS && (body.intentAmount > 0 || !p.enabled)) drop(body);
  if (body.routeActive === TO_POINT && body.boundsJump > STAYED && !planDetour(body, p)) drop(body, UNREACHABLE);
  if (body.routePlanted === 1) {
    want(body, 0, 0, 0);
    body.routeWishSprint = 0;
  } else if (body.routeActive === BY_HANDS) passOn(body, p);
  else {
    if (body.routeActive === AFTER_POINTER) followPointer(body, p, hands);
    else followPath(body, p);
    body.routeWishSprint = body.routeWishAmount > 0 ? body.intentSprintOn : 0;
  }
  body.routeLeads = body.routeActive !== BY_HANDS || body.routePlanted === 1 ? 1 : 0;
}

/** A press goes to the point at once; held longer than a tap, the body follows the pointer until it is let go. */
function hearPointer(body: Own<'route'>, p: RoutePlan, hands: Hands): void {
  // A press before any pointer was seen has no place to go to.
  const down = hands.held[POINTER] !== 0 && hands.pointed;
  if (wentDown(hands, POINTER) && hands.pointed) {
    body.routePressedFor = 0;
    if (setOut(body, p, hands.pointX, hands.pointY)) {
      body.happened |= ROUTE_SET;
      body.routeTries = 0;
      body.routeDetours = 0;
      body.routeRestarts = p.restarts ? 1 : 0;
    } else body.happened |= UNREACHABLE;
  }
  if (down) {
    body.routePressedFor += body.clockDt;
    if (body.routePressedFor > p.tapTime) body.routeActive = AFTER_POINTER;
  } else {
    body.routePressedFor = 0;
    if (body.routeActive === AFTER_POINTER) drop(body);
  }
}

/** The feet are planted, and the body stands. */
function plant(body: Own<'route'>): void {
  if (body.routePlanted === 0) body.happened |= PLANTED;
  body.routePlanted = 1;
  body.routePressedFor = 0;
}

/** The feet are released: the body drops its destination or goes on to it. */
function letGo(body: Own<'route'>, p: RoutePlan): void {
  body.routePlanted = 0;
  if (body.routeActive === BY_HANDS) return;
  if (p.resumes && body.routeActive === TO_POINT) planAgain(body, p);
  else drop(body);
}

/** Straight to the pointer while it is held: onto it with exact arrival, else into its radius. A body at rest within the radius stays. */
function followPointer(body: Own<'route'>, p: RoutePlan, hands: Hands): void {
  const distance = length(hands.pointX - body.x, hands.pointY - body.y);
  body.routeOff = 0;
  if (distance === 0 || (distance <= p.arriveRadius && (!p.exact || length(body.vx, body.vy) <= p.rest))) {
    body.routeToGo = distance;
    want(body, 0, 0, 0);
  } else headFor(body, p, hands.pointX, hands.pointY, 0, true);
}
