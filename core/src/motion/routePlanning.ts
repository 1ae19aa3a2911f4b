import type { PlacedBody } from '../collision/placedBody.ts';
import type { Navigator, Route } from '../route/navigator.ts';
import type { Own } from './body.ts';
import { BY_HANDS, TO_POINT } from './codes.ts';
import { NEAREST_TAKEN, ROUTE_CANCELLED, SQUEEZED, UNREACHABLE } from './events.ts';

/** Settings of the route stage. */
export interface RoutePlan {
  enabled: boolean;
  /** True if anything but the hands may lead the feet. */
  watches: boolean;
  /** True if grid steps lead the feet when nothing else does. */
  steps: boolean;
  navigator: Navigator;
  /** The body with its skin, to test whether a line is clear. */
  body: PlacedBody;
  waypointRadius: number;
  arriveRadius: number;
  /** Speed below which a body is at rest, unit/s; as a distance, the tolerance. */
  rest: number;
  exact: boolean;
  brake: boolean;
  decelerate: number;
  /** Least rate at which a ramp of the tuning changes a speed, unit/s². */
  slowest: number;
  /** True if the velocity changes at once; the decay rate of a smooth ramp, 1/s, 0 for the others. */
  sharply: boolean;
  decay: number;
  /** Heading turning: how fast the body can turn, radians/s; else infinite. */
  turnRate: number;
  tapTime: number;
  restarts: boolean;
  stuckAfter: number;
  replanEvery: number;
  resumes: boolean;
}

export function want(body: Own<'route'>, x: number, y: number, amount: number): void {
  body.routeWishX = x;
  body.routeWishY = y;
  body.routeWishAmount = amount;
}

/** Ends the current path or pursuit, and emits the event. */
export function drop(body: Own<'route'>, event = ROUTE_CANCELLED): void {
  body.routeActive = BY_HANDS;
  body.routeToGo = 0;
  body.routeOff = 0;
  body.happened |= event;
}

/** Finds a path between two places of the body's origin; null if there is none. */
function findPath(p: RoutePlan, fromX: number, fromY: number, toX: number, toY: number): Route | null {
  return p.navigator.plan(fromX, fromY, toX, toY);
}

/** The body's current path: found again from the same ends. */
export function currentPath(body: Own<'route'>, p: RoutePlan): Route | null {
  return findPath(p, body.routeFromX, body.routeFromY, body.routeToX, body.routeToY);
}

/** Starts to watch the body's progress. A plan that only replaces another one doesn't restart the watch. */
function watchAnew(body: Own<'route'>): void {
  body.routeExpected = 0;
  body.routeGone = 0;
  body.routeWatched = 0;
  body.routeLastX = body.x;
  body.routeLastY = body.y;
  body.routeLeast = Infinity;
  body.routeSinceLeast = 0;
  body.routeVain = 0;
}

/** Sets out for a place; returns false without a path, and the current one goes on. */
export function setOut(body: Own<'route'>, p: RoutePlan, toX: number, toY: number): boolean {
  const isGiven = planFrom(body, p, toX, toY);
  if (isGiven) watchAnew(body);
  return isGiven;
}

/** Plans from the body's place; returns false without a path, and the current one goes on. */
export function planFrom(body: Own<'route'>, p: RoutePlan, toX: number, toY: number): boolean {
  const route = findPath(p, body.x, body.y, toX, toY);
  if (!route) return false;
  body.routeActive = TO_POINT;
  body.routeFromX = body.x;
  body.routeFromY = body.y;
  body.routeToX = toX;
  body.routeToY = toY;
  body.routeLeg = 1;
  body.routeFresh = 1;
  body.routeSincePlan = 0;
  if (!route.reached) body.happened |= NEAREST_TAKEN;
  if (route.squeezed) body.happened |= SQUEEZED;
  return true;
}

/** Number of plans on one path after being carried off that get the full time. */
const DETOURS = 8;

/** Plans the rest of the path from where the body was carried to; returns false without one. Later plans without progress don't extend the time. */
export function planDetour(body: Own<'route'>, p: RoutePlan): boolean {
  if (!planFrom(body, p, body.routeToX, body.routeToY)) return false;
  if (body.routeDetours < DETOURS) watchAnew(body);
  body.routeDetours++;
  return true;
}

/** Replans the rest of the path: the tuning, the ground or the body's place has changed, or the interval is over. */
export function planAgain(body: Own<'route'>, p: RoutePlan): void {
  if (body.routeActive === TO_POINT && !setOut(body, p, body.routeToX, body.routeToY)) drop(body, UNREACHABLE);
}
