import { clamp } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';
import { SPENT, SPRINTING, STAND, WALK } from './codes.ts';
import { EMPTIED, RECOVERED, SPRINT_BEGAN, SPRINT_ENDED, SPRINT_REFUSED } from './events.ts';
import { standingSpeed } from './still.ts';

/** Tolerance of time (s) and stamina for thresholds: sums of ticks round. */
const SLACK = 1e-9;
/** Fraction of a tick below which an interval counts as continuous. */
const LEAST_INTERVAL = 1e-3;

/** Settings of the gait stage. */
export interface GaitPlan {
  walkSpeed: number;
  restoredSpeed: number;
  sprintSpeed: number;
  /** Speed below which a body without input stands, unit/s. */
  standing: number;
  /** True if sprinting costs stamina. */
  costs: boolean;
  stamina: Parameters['stamina'];
  startAt: number;
  recoverTo: number;
  drainsHeld: boolean;
  regainsStanding: boolean;
  regainsAlways: boolean;
}

export function prepareGait({ body, pace, stamina }: Parameters): GaitPlan {
  return {
    walkSpeed: pace.walkSpeed,
    restoredSpeed: pace.restoredSpeed,
    sprintSpeed: pace.sprintSpeed,
    standing: standingSpeed(body),
    costs: stamina.enabled,
    stamina,
    startAt: Math.min(stamina.startAt, stamina.max) - SLACK,
    recoverTo: Math.min(stamina.recoverTo, stamina.max) - SLACK,
    drainsHeld: stamina.drainWhile === 'held',
    regainsStanding: stamina.regainWhile === 'standing',
    regainsAlways: stamina.regainWhile === 'always',
  };
}

/**
 * Decides on the sprint, drains or regains stamina, and sets the steady speed (unit/s). While it drains, stamina falls by drain·dt to 0, met inside
 * the tick; else, `regainDelay` seconds after the last drain, it grows by regain·factor·dt to max. With a tick interval, the sum of the seconds since
 * the last boundary is charged on each.
 */
export function stepGait(body: Own<'gait'>, p: GaitPlan): void {
  if (p.costs) spend(body, p);
  else if (body.routeWishSprint !== body.gaitSprinting) sprintFreely(body, p);
}

/** Starts with full stamina, at the speed of the body's gait. */
export function startGait(body: Own<'gait'>, p: GaitPlan): void {
  body.gaitStamina = p.stamina.max;
  settleGait(body, p);
}

/** Adapts a body driven with another tuning: a full bar stays full. */
export function takeOverGait(body: Own<'gait'>, p: GaitPlan, full: boolean): void {
  const { max } = p.stamina;
  settleGait(body, p);
  body.gaitStamina = full ? max : clamp(body.gaitStamina, 0, max);
}

/** The speed of the body's gait in this tuning. */
function settleGait(body: Own<'gait'>, p: GaitPlan): void {
  if (!p.costs) {
    body.gaitLocked = 0;
    body.gaitLost = 0;
    body.gaitRefused = 0;
  }
  const walk = body.gaitSprinted === 1 ? p.restoredSpeed : p.walkSpeed;
  body.gaitSpeed = body.gaitSprinting === 1 ? p.sprintSpeed : body.gaitLocked === 1 ? walk * p.stamina.spentFactor : walk;
}

/** Without stamina, every wanted sprint is given. */
function sprintFreely(body: Own<'gait'>, p: GaitPlan): void {
  const was = body.gaitSprinting;
  body.gaitSprinting = body.routeWishSprint;
  emitGaitEvents(body, was);
  settleGait(body, p);
}

function emitGaitEvents(body: Own<'gait'>, was: number): void {
  if (was === 0 && body.gaitSprinting === 1) body.happened |= SPRINT_BEGAN;
  if (was === 1 && body.gaitSprinting === 0) {
    body.happened |= SPRINT_ENDED;
    body.gaitSprinted = 1;
  }
}

function spend(body: Own<'gait'>, p: GaitPlan): void {
  const was = body.gaitSprinting;
  body.gaitLost = 0;
  decideSprint(body, p);
  const moving = body.routeWishAmount > 0 && body.boundsBlocked === 0;
  const draining = p.drainsHeld ? body.intentSprintOn === 1 && body.gaitLocked === 0 : body.gaitSprinting === 1 && moving;
  if (p.stamina.interval > LEAST_INTERVAL * body.clockDt) stepLumps(body, p, draining);
  else stepContinuous(body, p, draining);
  if (body.gaitStamina <= 0) runEmpty(body, p.stamina, draining);
  emitGaitEvents(body, was);
  settleGait(body, p);
}

/** A sprint needs at least `startAt`, and can't begin between empty and `recoverTo`. */
function decideSprint(body: Own<'gait'>, p: GaitPlan): void {
  const wanted = body.routeWishSprint;
  if (body.gaitLocked === 1 && body.gaitStamina >= p.recoverTo) {
    body.gaitLocked = 0;
    body.happened |= RECOVERED;
  }
  const empty = body.gaitStamina <= 0 && p.stamina.emptyEndsSprint;
  const may = body.gaitLocked === 0 && (body.gaitSprinting === 1 ? !empty : body.gaitStamina >= p.startAt);
  body.gaitSprinting = wanted === 1 && may ? 1 : 0;
  const refused = wanted === 1 && !may ? 1 : 0;
  if (refused === 1 && body.gaitRefused === 0) body.happened |= SPRINT_REFUSED;
  body.gaitRefused = refused;
}

/** True if the body stands: no motion is requested, and it is at rest. */
function stands(body: Own<'gait'>, p: GaitPlan): boolean {
  return body.routeWishAmount === 0 && body.vx * body.vx + body.vy * body.vy < p.standing * p.standing;
}

/** Regain per second: none while the tuning forbids it, less while moving. */
function regainRate(body: Own<'gait'>, p: GaitPlan): number {
  if (p.regainsStanding && !stands(body, p)) return 0;
  if (!p.regainsAlways && body.gaitSprinting === 1) return 0;
  return p.stamina.regain * (body.routeWishAmount > 0 ? p.stamina.regainMovingFactor : 1);
}

/** The seconds out of `dt` for which regain runs: those after the delay since the last drain. Counts them. */
function regainTime(body: Own<'gait'>, p: GaitPlan, dt: number): number {
  const before = body.gaitSinceDrain;
  body.gaitSinceDrain = before + dt;
  const wait = p.regainsAlways ? 0 : p.stamina.regainDelay;
  return body.gaitSinceDrain <= wait ? 0 : before >= wait ? dt : body.gaitSinceDrain - wait;
}

/** Drain and regain at steady rates; the regain delay and an empty bar are met inside the tick. */
function stepContinuous(body: Own<'gait'>, p: GaitPlan, draining: boolean): void {
  const { stamina } = p;
  const dt = body.clockDt;
  if (!draining) {
    body.gaitStamina = Math.min(stamina.max, body.gaitStamina + regainRate(body, p) * regainTime(body, p, dt));
    return;
  }
  // A regain without pauses counters the drain: the net rate counts.
  const rate = stamina.drain - (p.regainsAlways ? regainRate(body, p) : 0);
  const lasts = rate > 0 ? body.gaitStamina / rate : dt * 2;
  body.gaitSinceDrain = lasts < dt ? dt - lasts : 0;
  body.gaitStamina = lasts <= dt + SLACK ? 0 : Math.min(stamina.max, body.gaitStamina - rate * dt);
}

/** The same, summed and applied at once on each boundary of the interval. */
function stepLumps(body: Own<'gait'>, p: GaitPlan, draining: boolean): void {
  const { stamina } = p;
  let left = body.clockDt;
  while (left > SLACK) {
    const piece = Math.min(left, stamina.interval - body.gaitLump);
    if (draining) {
      body.gaitSinceDrain = 0;
      body.gaitOwed += ((p.regainsAlways ? regainRate(body, p) : 0) - stamina.drain) * piece;
    } else body.gaitOwed += regainRate(body, p) * regainTime(body, p, piece);
    body.gaitLump += piece;
    left -= piece;
    if (body.gaitLump < stamina.interval - SLACK) continue;
    body.gaitStamina = clamp(body.gaitStamina + body.gaitOwed, 0, stamina.max);
    if (body.gaitStamina < SLACK) body.gaitStamina = 0;
    body.gaitLump = 0;
    body.gaitOwed = 0;
  }
}

/** Sets the stamina of a body from outside; one that it empties runs empty. */
export function setStamina(body: Own<'gait'>, p: GaitPlan, value: number): void {
  const isEmptied = value <= 0 && body.gaitStamina > 0;
  body.gaitStamina = clamp(value, 0, p.stamina.max);
  if (isEmptied && p.costs) runEmpty(body, p.stamina, true);
}

/** Empty: the sprint is locked until recovered, and, depending on the tuning, must be requested again. */
function runEmpty(body: Own<'gait'>, stamina: Parameters['stamina'], draining: boolean): void {
  body.gaitStamina = 0;
  if (!stamina.emptyEndsSprint || body.gaitLocked === 1 || !draining) return;
  body.gaitLocked = 1;
  body.gaitSprinting = 0;
  body.gaitLost = stamina.afterEmpty === 'cancel' ? 1 : 0;
  body.happened |= EMPTIED;
}

/** Sets the gait by the result of the tick. */
export function nameGait(body: Own<'gait'>, p: GaitPlan): void {
  if (body.routeWishAmount > 0 || body.vx * body.vx + body.vy * body.vy >= p.standing * p.standing)
    body.gaitIndex = body.gaitSprinting === 1 ? SPRINTING : body.gaitLocked === 1 ? SPENT : WALK;
  else body.gaitIndex = STAND;
}
