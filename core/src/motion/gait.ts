import { clamp } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { EMPTIED, RECOVERED, SPRINT_BEGAN, SPRINT_ENDED, SPRINT_REFUSED } from './events.ts';
import type { ClockState, GaitState, IntentState, Motion, Wish } from './slices.ts';

/** Names of the gaits; the index is what the state and the trace hold. */
export const gaits = ['stand', 'walk', 'sprint', 'spent'] as const;
export type Gait = (typeof gaits)[number];
export const STAND = 0;
export const WALK = 1;
export const SPRINTING = 2;
export const SPENT = 3;

/** Speed (unit/s) below which a body without input stands; a smooth ramp never gets to 0 in finite time. */
const STANDING_SPEED = 0.01;

export interface GaitParameters {
  walkSpeed: number;
  restoredSpeed: number;
  sprintSpeed: number;
  stamina: Parameters['stamina'];
  recoverTo: number;
  drainsHeld: boolean;
  regainsStanding: boolean;
  regainsAlways: boolean;
}

export function prepareGait({ pace, stamina }: Parameters): GaitParameters {
  return {
    walkSpeed: pace.walkSpeed,
    restoredSpeed: pace.restoredSpeed,
    sprintSpeed: pace.sprintSpeed,
    stamina,
    recoverTo: Math.min(stamina.recoverTo, stamina.max),
    drainsHeld: stamina.drainWhile === 'held',
    regainsStanding: stamina.regainWhile === 'standing',
    regainsAlways: stamina.regainWhile === 'always',
  };
}

/** Whether the body sprints, and what that does to the stamina. */
export function stepGait(state: GaitState, p: GaitParameters, intent: IntentState, wish: Wish, clock: ClockState): void {
  const was = state.sprinting;
  const { stamina } = p;
  state.happened = 0;
  state.lost = 0;
  if (stamina.enabled) {
    decideSprint(state, p, wish);
    const moving = wish.amount > 0 && clock.blocked === 0;
    const draining = p.drainsHeld ? intent.sprintOn === 1 && state.locked === 0 : state.sprinting === 1 && moving;
    if (stamina.interval > 0) stepLumps(state, p, draining, wish, clock.dt);
    else stepContinuous(state, p, draining, wish, clock.dt);
    if (state.stamina <= 0) runEmpty(state, stamina, draining);
  } else {
    state.locked = 0;
    state.refused = 0;
    state.sprinting = wish.sprintWanted;
  }
  if (was === 0 && state.sprinting === 1) state.happened |= SPRINT_BEGAN;
  if (was === 1 && state.sprinting === 0) {
    state.happened |= SPRINT_ENDED;
    state.sprinted = 1;
  }
  const walk = state.sprinted === 1 ? p.restoredSpeed : p.walkSpeed;
  state.speed = state.sprinting === 1 ? p.sprintSpeed : walk * (state.locked === 1 ? stamina.spentFactor : 1);
}

/** A sprint begins with at least `startAt`, and not between empty and `recoverTo`. */
function decideSprint(state: GaitState, p: GaitParameters, wish: Wish): void {
  const wanted = wish.sprintWanted;
  if (state.locked === 1 && state.stamina >= p.recoverTo) {
    state.locked = 0;
    state.happened |= RECOVERED;
  }
  const empty = state.stamina <= 0 && p.stamina.emptyEndsSprint;
  const may = state.locked === 0 && (state.sprinting === 1 ? !empty : state.stamina >= Math.min(p.stamina.startAt, p.stamina.max));
  state.sprinting = wanted === 1 && may ? 1 : 0;
  const refused = wanted === 1 && !may ? 1 : 0;
  if (refused === 1 && state.refused === 0) state.happened |= SPRINT_REFUSED;
  state.refused = refused;
}

/** Regain a second: none while the tuning forbids it, less while moving. */
function regainRate(state: GaitState, p: GaitParameters, wish: Wish): number {
  if (p.regainsStanding && wish.amount > 0) return 0;
  if (!p.regainsAlways && state.sprinting === 1) return 0;
  return p.stamina.regain * (wish.amount > 0 ? p.stamina.regainMovingFactor : 1);
}

/** Drain and regain at steady rates; the wait before regain, and an empty bar, are met inside the tick. */
function stepContinuous(state: GaitState, p: GaitParameters, draining: boolean, wish: Wish, dt: number): void {
  const { stamina } = p;
  if (draining) {
    // Regain that never rests runs against the drain: what counts is the net rate.
    const rate = stamina.drain - (p.regainsAlways ? regainRate(state, p, wish) : 0);
    const lasts = rate > 0 ? state.stamina / rate : dt * 2;
    state.sinceDrain = lasts < dt ? dt - lasts : 0;
    state.stamina = lasts <= dt ? 0 : Math.min(stamina.max, state.stamina - rate * dt);
    return;
  }
  const before = state.sinceDrain;
  state.sinceDrain = before + dt;
  const wait = p.regainsAlways ? 0 : stamina.regainDelay;
  const time = state.sinceDrain <= wait ? 0 : before >= wait ? dt : state.sinceDrain - wait;
  state.stamina = Math.min(stamina.max, state.stamina + regainRate(state, p, wish) * time);
}

/** The same in lumps of rate × interval on the interval's boundaries; what is left of a tick counts towards the next. */
function stepLumps(state: GaitState, p: GaitParameters, draining: boolean, wish: Wish, dt: number): void {
  const { stamina } = p;
  state.sinceDrain = draining ? 0 : state.sinceDrain + dt;
  state.lump += dt;
  const lumps = Math.floor(state.lump / stamina.interval + 1e-9);
  if (lumps === 0) return;
  state.lump = Math.max(0, state.lump - lumps * stamina.interval);
  const time = lumps * stamina.interval;
  const waited = p.regainsAlways || (!draining && state.sinceDrain >= stamina.regainDelay);
  const gained = (waited ? regainRate(state, p, wish) : 0) - (draining ? stamina.drain : 0);
  state.stamina = clamp(state.stamina + gained * time, 0, stamina.max);
}

/** Empty: the sprint is locked until recovered, and, as the tuning says, has to be asked for anew. */
function runEmpty(state: GaitState, stamina: Parameters['stamina'], draining: boolean): void {
  state.stamina = 0;
  if (!stamina.emptyEndsSprint || state.locked === 1 || !draining) return;
  state.locked = 1;
  state.sprinting = 0;
  state.lost = stamina.afterEmpty === 'cancel' ? 1 : 0;
  state.happened |= EMPTIED;
}

/** Names the gait by what the tick came to. */
export function settleGait(state: GaitState, wish: Wish, motion: Motion, clock: ClockState): void {
  const moving = wish.amount > 0 || motion.vx * motion.vx + motion.vy * motion.vy >= STANDING_SPEED * STANDING_SPEED;
  const gait = !moving ? STAND : state.sprinting === 1 ? SPRINTING : state.locked === 1 ? SPENT : WALK;
  state.since = gait === state.gait ? state.since + clock.dt : clock.dt;
  state.gait = gait;
}
