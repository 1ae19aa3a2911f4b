import { length } from '../math/functions.ts';
import type { Navigator, Route } from '../route/navigator.ts';
import { PLANT, POINTER } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { ARRIVED, NEAREST_TAKEN, PLANTED, REPLANNED, ROUTE_CANCELLED, ROUTE_SET, STUCK, UNREACHABLE } from './events.ts';
import type { ClockState, GaitState, IntentState, Motion, RouteState } from './slices.ts';

export interface RouteParameters {
  enabled: boolean;
  navigator: Navigator;
  waypointRadius: number;
  arriveRadius: number;
  exact: boolean;
  brake: boolean;
  decelerate: number;
  tapTime: number;
  restarts: boolean;
  stuckAfter: number;
  replanEvery: number;
  resumes: boolean;
}

export function prepareRoute({ route, ramp, scheme }: Parameters, navigator: Navigator): RouteParameters {
  return {
    enabled: route.enabled && scheme !== 'step',
    navigator,
    waypointRadius: route.waypointRadius,
    arriveRadius: route.arriveRadius,
    exact: route.arrival === 'exact',
    brake: route.brake,
    decelerate: ramp.decelerate,
    tapTime: route.tapTime,
    restarts: route.reclick === 'restart',
    stuckAfter: route.stuckAfter,
    replanEvery: route.replanEvery,
    resumes: route.afterPlant === 'resume',
  };
}

/** Under this share of the way that was to be expected the body is stuck. */
const HEADWAY = 0.1;

/** What the hands want, or the way to where they clicked. */
export function stepRoute(
  state: RouteState,
  p: RouteParameters,
  motion: Motion,
  intent: IntentState,
  gait: GaitState,
  hands: Hands,
  clock: ClockState,
): void {
  state.happened = 0;
  state.limit = Infinity;
  const plants = hands.held[PLANT] !== 0;
  if (!plants && state.planted === 1) letGo(state, p, motion);
  // A click in the tick in which the feet are planted or let go counts: it is where they go on to.
  if (p.enabled && state.planted === 0) hearPointer(state, p, motion, hands, clock.dt);
  if (plants) hold(state);
  if (state.active !== 0 && intent.amount > 0) drop(state);
  if (state.active !== 0 && !p.enabled) drop(state);
  if (state.planted === 1) want(state, 0, 0, 0);
  else if (state.active === 0) {
    state.x = intent.x;
    state.y = intent.y;
    state.amount = intent.amount;
    state.sprintWanted = intent.sprintWanted;
    return;
  } else if (state.active === 2) followPointer(state, p, motion, hands);
  else {
    watch(state, p, motion, gait, clock.dt);
    if (state.active === 1) goOn(state, p, motion);
  }
  state.sprintWanted = state.amount > 0 ? intent.sprintOn : 0;
}

function want(state: RouteState, x: number, y: number, amount: number): void {
  state.x = x;
  state.y = y;
  state.amount = amount;
}

/** Ends what leads the feet, and says so. */
function drop(state: RouteState, event = ROUTE_CANCELLED): void {
  state.active = 0;
  state.toGo = 0;
  state.off = 0;
  state.happened |= event;
}

/** A press goes to the point at once; held longer than a tap, the body follows the pointer until it is let go. */
function hearPointer(state: RouteState, p: RouteParameters, motion: Motion, hands: Hands, dt: number): void {
  const down = hands.held[POINTER] !== 0;
  if (hands.pressed & (1 << POINTER)) {
    state.pressedFor = 0;
    if (setOut(state, p, motion, hands.pointX, hands.pointY)) {
      state.happened |= ROUTE_SET;
      state.tries = 0;
      if (p.restarts) {
        motion.vx = 0;
        motion.vy = 0;
      }
    } else state.happened |= UNREACHABLE;
  }
  if (down) {
    state.pressedFor += dt;
    if (state.pressedFor > p.tapTime) state.active = 2;
  } else {
    state.pressedFor = 0;
    if (state.active === 2) drop(state);
  }
}

/** Plans from where the body is; false where no way is given, and then what was under way goes on. */
function setOut(state: RouteState, p: RouteParameters, motion: Motion, toX: number, toY: number): boolean {
  const route = p.navigator.plan(motion.x, motion.y, toX, toY);
  if (!route) return false;
  state.active = 1;
  state.fromX = motion.x;
  state.fromY = motion.y;
  state.toX = toX;
  state.toY = toY;
  state.leg = 1;
  state.sincePlan = 0;
  state.expected = 0;
  state.gone = 0;
  state.watched = 0;
  state.lastX = motion.x;
  state.lastY = motion.y;
  if (!route.reached) state.happened |= NEAREST_TAKEN;
  return true;
}

/** Plans the rest of the way anew: the tuning or the ground has changed, or it is time to. */
export function planAgain(state: RouteState, p: RouteParameters, motion: Motion): void {
  if (state.active === 1 && !setOut(state, p, motion, state.toX, state.toY)) drop(state, UNREACHABLE);
}

/** The feet are planted, and the body stands. */
function hold(state: RouteState): void {
  if (state.planted === 0) state.happened |= PLANTED;
  state.planted = 1;
  state.pressedFor = 0;
}

/** The feet are let go: the body forgets its destination or goes on to it. */
function letGo(state: RouteState, p: RouteParameters, motion: Motion): void {
  state.planted = 0;
  if (state.active === 0) return;
  if (p.resumes && state.active === 1) planAgain(state, p, motion);
  else drop(state);
}

/** Straight to the pointer, as long as it is held. */
function followPointer(state: RouteState, p: RouteParameters, motion: Motion, hands: Hands): void {
  const [dx, dy] = [hands.pointX - motion.x, hands.pointY - motion.y];
  const distance = length(dx, dy);
  state.toGo = distance;
  state.off = 0;
  if (distance <= p.arriveRadius) want(state, 0, 0, 0);
  else {
    want(state, dx / distance, dy / distance, 1);
    if (p.brake) state.limit = Math.sqrt(2 * p.decelerate * distance);
  }
}

/** Looks whether the body gets on; stuck, it plans once more, and then gives up. */
function watch(state: RouteState, p: RouteParameters, motion: Motion, gait: GaitState, dt: number): void {
  state.gone += length(motion.x - state.lastX, motion.y - state.lastY);
  state.expected += Math.min(gait.speed, p.brake ? Math.sqrt(2 * p.decelerate * state.toGo) : Infinity) * dt;
  state.watched += dt;
  state.sincePlan += dt;
  state.lastX = motion.x;
  state.lastY = motion.y;
  if (state.watched >= p.stuckAfter) {
    const stuck = state.gone < HEADWAY * state.expected;
    state.watched = 0;
    state.gone = 0;
    state.expected = 0;
    if (stuck && state.tries > 0) {
      drop(state, STUCK);
      want(state, 0, 0, 0);
      return;
    }
    if (stuck) {
      planAgain(state, p, motion);
      state.tries = 1;
      state.happened |= REPLANNED;
      return;
    }
  }
  if (p.replanEvery > 0 && state.sincePlan >= p.replanEvery) {
    planAgain(state, p, motion);
    state.happened |= REPLANNED;
  }
}

/** Aims at the next waypoint that is not passed; near enough to the last one, without exact arrival, that was it. */
function goOn(state: RouteState, p: RouteParameters, motion: Motion): void {
  const route = p.navigator.plan(state.fromX, state.fromY, state.toX, state.toY);
  if (!route) {
    drop(state, UNREACHABLE);
    want(state, 0, 0, 0);
    return;
  }
  const { points } = route;
  const last = points.length - 1;
  while (state.leg < last && isPassed(points, state.leg, motion, p.waypointRadius)) state.leg++;
  const [x, y] = points[state.leg] as [number, number];
  const [dx, dy] = [x - motion.x, y - motion.y];
  const distance = length(dx, dy);
  state.toGo = distance + restAfter(route, state.leg);
  state.off = distanceToLeg(points, state.leg, motion);
  const there = p.exact ? distance === 0 : distance <= p.arriveRadius;
  if (state.leg === last && there) {
    drop(state, ARRIVED);
    want(state, 0, 0, 0);
    return;
  }
  want(state, distance > 0 ? dx / distance : 0, distance > 0 ? dy / distance : 0, 1);
  if (p.brake) state.limit = Math.sqrt(2 * p.decelerate * state.toGo);
}

/** Within the radius of a waypoint, or past it along the leg that leads to it. */
function isPassed(points: readonly (readonly [number, number])[], leg: number, motion: Motion, radius: number): boolean {
  const [[ax, ay], [bx, by]] = [points[leg - 1], points[leg]] as [[number, number], [number, number]];
  const [dx, dy] = [motion.x - bx, motion.y - by];
  return length(dx, dy) <= radius || dx * (bx - ax) + dy * (by - ay) >= 0;
}

/** Length of the way after a waypoint. */
function restAfter({ points }: Route, leg: number): number {
  let rest = 0;
  for (let i = leg + 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]] as [[number, number], [number, number]];
    rest += length(b[0] - a[0], b[1] - a[1]);
  }
  return rest;
}

/** Distance of the body from the line of the leg that it is on. */
function distanceToLeg(points: readonly (readonly [number, number])[], leg: number, motion: Motion): number {
  const [[ax, ay], [bx, by]] = [points[leg - 1], points[leg]] as [[number, number], [number, number]];
  const [ex, ey] = [bx - ax, by - ay];
  const size = ex * ex + ey * ey;
  const share = size === 0 ? 0 : Math.max(0, Math.min(1, ((motion.x - ax) * ex + (motion.y - ay) * ey) / size));
  return length(motion.x - ax - ex * share, motion.y - ay - ey * share);
}

/**
 * Holds the motion of this tick to what the way allows: no faster than still stops on the point, and, with exact arrival, not
 * past it: the tick that would pass the point ends on it, at rest.
 */
export function settleRoute(state: RouteState, p: RouteParameters, motion: Motion): void {
  if (state.active === 0 || state.planted === 1) return;
  const speed = length(motion.vx, motion.vy);
  if (speed > state.limit) {
    const share = state.limit / speed;
    motion.vx *= share;
    motion.vy *= share;
    const way = length(motion.dx, motion.dy);
    motion.dx *= share;
    motion.dy *= share;
    if (way === 0) return;
  }
  if (state.active !== 1 || !p.exact) return;
  const route = p.navigator.plan(state.fromX, state.fromY, state.toX, state.toY);
  if (!route || state.leg < route.points.length - 1) return;
  const [x, y] = route.points[state.leg] as [number, number];
  const [dx, dy] = [x - motion.x, y - motion.y];
  const distance = length(dx, dy);
  const along = distance > 0 ? (motion.dx * dx + motion.dy * dy) / distance : 0;
  if (along < distance || distance === 0) return;
  motion.dx = dx;
  motion.dy = dy;
  motion.vx = 0;
  motion.vy = 0;
  drop(state, ARRIVED);
}
