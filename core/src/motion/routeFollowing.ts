import { isClear } from '../collision/placedBody.ts';
import { cos, length, sin, TAU } from '../math/functions.ts';
import { shareAlong } from '../math/segment.ts';
import type { Route } from '../route/navigator.ts';
import type { Own } from './body.ts';
import { BY_VECTOR, LANDS, LANDS_AT_REST, PASSES, TO_POINT } from './codes.ts';
import { ARRIVED, CIRCLED, REPLANNED, STUCK, UNREACHABLE } from './events.ts';
import { currentPath, drop, planDetour, planFrom, type RoutePlan, want } from './routePlanning.ts';

type Points = readonly (readonly [number, number])[];

/** Below this fraction of the expected distance the body is stuck. */
const HEADWAY = 0.1;
/** Cosine of the angle between motion and path below which the body is off its path, less 1. */
const ALONG = 1 - 1e-9;
/** Part of the body's half width within which it goes straight to the point, whatever its motion: no ramp can have it circle there. */
const CLOSE = 0.1;
/** Distance (unit) from the planned line at which a path that is no longer clear is planned again. */
const ASTRAY = 1;

/** Follows the planned path (directions of length 1, speeds in unit/s) unless the body makes no progress on it. */
export function followPath(body: Own<'route'>, p: RoutePlan): void {
  watch(body, p);
  if (body.routeActive !== TO_POINT) return;
  const route = currentPath(body, p);
  if (!route) {
    drop(body, UNREACHABLE);
    want(body, 0, 0, 0);
  } else goOn(body, p, route);
}

/** Aims at the next waypoint that hasn't been passed, and sets how the tick that would pass it ends. */
function goOn(body: Own<'route'>, p: RoutePlan, route: Route): void {
  const { points } = route;
  const last = points.length - 1;
  while (body.routeLeg < last && isPassed(body, p, points)) body.routeLeg++;
  const isLast = body.routeLeg === last;
  const [x, y] = points[body.routeLeg] as [number, number];
  const distance = length(x - body.x, y - body.y);
  const isThere = p.exact ? distance === 0 : distance <= p.arriveRadius;
  if (isLast && isThere) {
    drop(body, ARRIVED);
    want(body, 0, 0, 0);
    return;
  }
  body.routeOff = distanceToLeg(points, body.routeLeg, body.x, body.y);
  headFor(body, p, x, y, restAfter(route, body.routeLeg), isLast);
}

/** Aims at a place with `rest` of the path left after it, and sets how the tick that would pass it ends. */
export function headFor(body: Own<'route'>, p: RoutePlan, x: number, y: number, rest: number, isLast: boolean): void {
  const dx = x - body.x;
  const dy = y - body.y;
  const distance = length(dx, dy);
  const ux = distance > 0 ? dx / distance : 0;
  const uy = distance > 0 ? dy / distance : 0;
  const isClose = isLast && distance <= Math.max(p.arriveRadius, CLOSE * p.body.probe.halfWidth);
  body.routeCarries = isClose || isAlong(body, ux, uy) ? 1 : 0;
  body.routeFresh = 0;
  body.routeAimX = x;
  body.routeAimY = y;
  body.routeDistance = distance;
  body.routeToGo = distance + rest;
  body.routeLands = !isLast ? LANDS : p.exact ? LANDS_AT_REST : PASSES;
  want(body, ux, uy, 1);
  if (p.brake) body.routeCap = Math.sqrt(2 * p.decelerate * body.routeToGo);
  if (body.routeCarries === 0) keepInReach(body, p);
}

/** True if the motion follows the leg left behind in this tick (a new plan has none, and starts along its first leg). */
function isAlong(body: Own<'route'>, ux: number, uy: number): boolean {
  const speed = length(body.vx, body.vy);
  const aimX = body.routeFresh === 1 ? ux : body.routeWishX;
  const aimY = body.routeFresh === 1 ? uy : body.routeWishY;
  return body.vx * aimX + body.vy * aimY >= ALONG * speed;
}

/**
 * Limits the speed of a body that moves across its path to what it can bring round to the point, at distance d, without circling it: √(2·a·d) with a
 * ramp of rate a, d·ln 2/(2·halfLife) with a smooth one. Turning at a rate ω, from an angle φ off, the circle to the point has the radius d/(2 sin
 * φ), which allows ω·d/(2 sin φ).
 */
function keepInReach(body: Own<'route'>, p: RoutePlan): void {
  const { routeDistance: distance } = body;
  if (p.decay > 0) body.routePace = (p.decay * distance) / 2;
  else if (!p.sharply) body.routePace = Math.sqrt(2 * p.slowest * distance);
  if (p.turnRate === Infinity || body.velocityMode === BY_VECTOR) return;
  const across = Math.abs(cos(body.velocityHeading) * body.routeWishY - sin(body.velocityHeading) * body.routeWishX);
  if (across > 1e-6) body.routePace = Math.min(body.routePace, (p.turnRate * distance) / (2 * across));
}

/** True within the radius of a waypoint, or past it along its leg, if the line to the next one is clear. */
function isPassed(body: Own<'route'>, p: RoutePlan, points: Points): boolean {
  const leg = body.routeLeg;
  const [[ax, ay], [bx, by], [cx, cy]] = [points[leg - 1], points[leg], points[leg + 1]] as [
    [number, number],
    [number, number],
    [number, number],
  ];
  const dx = body.x - bx;
  const dy = body.y - by;
  if (dx === 0 && dy === 0) return true;
  if (length(dx, dy) > p.waypointRadius && dx * (bx - ax) + dy * (by - ay) < 0) return false;
  return isClear(p.body, body.x, body.y, cx, cy);
}

/** Checks the body's progress: stuck or astray, it plans once more; stuck again, or circling, it gives up. */
function watch(body: Own<'route'>, p: RoutePlan): void {
  const dt = body.clockDt;
  body.routeGone += length(body.x - body.routeLastX, body.y - body.routeLastY);
  const meant = length(body.velocityDx, body.velocityDy);
  body.routeExpected += meant;
  // A trembling body hardly moves, so the expected distance follows the speed aimed at.
  const aimed = body.velocityTarget * dt;
  body.routeVain += aimed > meant ? aimed : meant;
  body.routeWatched += dt;
  body.routeSincePlan += dt;
  body.routeLastX = body.x;
  body.routeLastY = body.y;
  if (isCircling(body, p)) {
    drop(body, CIRCLED);
    want(body, 0, 0, 0);
    return;
  }
  if (body.routeWatched >= p.stuckAfter) {
    const stuck = body.routeGone < HEADWAY * body.routeExpected || body.routeGone === 0;
    body.routeWatched = 0;
    body.routeGone = 0;
    body.routeExpected = 0;
    if (stuck && body.routeTries > 0) {
      drop(body, STUCK);
      want(body, 0, 0, 0);
      return;
    }
    if (stuck) {
      body.routeTries = 1;
      if (planDetour(body, p)) body.happened |= REPLANNED;
      return;
    }
  }
  // Without a path, the body keeps its current plan.
  const isDue = p.replanEvery > 0 && body.routeSincePlan >= p.replanEvery;
  const isAway = !isDue && isAstray(body, p);
  if (!isDue && !isAway) return;
  body.routeSincePlan = 0;
  if (isAway ? planDetour(body, p) : planFrom(body, p, body.routeToX, body.routeToY)) body.happened |= REPLANNED;
}

/** Windows of `stuckAfter` without progress that count as circling, in addition to the time for two reversals. */
const ROUNDS = 5;
/** Fraction of the expected travel by which the remaining path must decrease to count as progress. */
const NEARER = 0.05;
/** Maximum time for each of a reversal and two full turns, s. */
const MOST = 30;
/** Time constants of a smooth ramp until a reversal has settled: e⁻⁸ is 0.03 % of the difference. */
const SETTLED = 8;
/** Reversals at the slowest rate for which the body gets time: out and back, twice. */
const REVERSALS = 4;

/** True if the remaining path hasn't decreased for long although the body moves. */
function isCircling(body: Own<'route'>, p: RoutePlan): boolean {
  if (body.routeFresh === 1 || body.routeToGo < body.routeLeast - Math.max(p.rest, NEARER * body.routeVain)) {
    if (body.routeFresh === 0) body.routeLeast = body.routeToGo;
    body.routeSinceLeast = 0;
    body.routeVain = 0;
    return false;
  }
  body.routeSinceLeast += body.clockDt;
  const speed = length(body.vx, body.vy);
  const reversing = p.sharply ? 0 : p.decay > 0 ? SETTLED / p.decay : (REVERSALS * (body.gaitSpeed + speed)) / p.slowest;
  const turning = Math.min(MOST, reversing) + Math.min(MOST, (2 * TAU) / p.turnRate);
  return body.routeSinceLeast > ROUNDS * p.stuckAfter + turning;
}

/** True if the body has been carried off its line so far that the next waypoint is behind a wall. */
function isAstray(body: Own<'route'>, p: RoutePlan): boolean {
  if (body.routeFresh === 1 || body.routeOff <= ASTRAY || body.routeSincePlan < 0.1) return false;
  return !isClear(p.body, body.x, body.y, body.routeAimX, body.routeAimY);
}

/** Length of the path after a waypoint. */
function restAfter({ points }: Route, leg: number): number {
  let rest = 0;
  for (let i = leg + 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]] as [[number, number], [number, number]];
    rest += length(b[0] - a[0], b[1] - a[1]);
  }
  return rest;
}

/** Distance of (x, y) from the line of a leg. */
function distanceToLeg(points: Points, leg: number, x: number, y: number): number {
  const [[ax, ay], [bx, by]] = [points[leg - 1], points[leg]] as [[number, number], [number, number]];
  const [ex, ey] = [bx - ax, by - ay];
  const share = shareAlong(x - ax, y - ay, ex, ey);
  return length(x - ax - ex * share, y - ay - ey * share);
}
