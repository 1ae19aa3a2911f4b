import { exp2, LN2, length } from '../math/functions.ts';
import { type AccelerationCurve, type Flow, factorAt, followCurve } from './accelerationCurve.ts';
import { type Integration, moveWith } from './integration.ts';
import type { Motion } from './slices.ts';

/** Rates of the linear ramp, unit/s². */
export interface Rates {
  accelerate: number;
  decelerate: number;
  brake: number;
  ease: number;
  /** Factor on accelerate; null for the plain linear ramp. */
  curve: AccelerationCurve | null;
}

/** The velocity aimed at, unit/s. */
export interface Target {
  x: number;
  y: number;
}

/** Part of a speed that counts as no difference, against rounding. */
const EVEN = 1e-12;
/** Below this difference (unit/s) a smooth ramp has arrived. */
const ARRIVED = 1e-9;

/** Scratch for `followCurve`: written before each use, read right after. */
const flow: Flow = { s: 0, integral: 0, time: 0 };

/** Smooth: v ← v* + (v − v*)·2^(−dt/halfLife), with its exact integral v*·dt + (v − v*)·(1 − 2^(−dt/halfLife))·halfLife/ln 2. */
export function smoothRamp(
  motion: Motion,
  { x: targetX, y: targetY }: Target,
  halfLife: number,
  dt: number,
  integration: Integration,
): void {
  const keep = exp2(-dt / halfLife);
  const ex = motion.vx - targetX;
  const ey = motion.vy - targetY;
  const arrived = ex < ARRIVED && ex > -ARRIVED && ey < ARRIVED && ey > -ARRIVED;
  const vx = arrived ? targetX : targetX + ex * keep;
  const vy = arrived ? targetY : targetY + ey * keep;
  if (integration !== 'exact') {
    moveWith(motion, vx, vy, dt, integration);
    return;
  }
  const weight = ((1 - keep) * halfLife) / LN2;
  motion.dx = targetX * dt + ex * weight;
  motion.dy = targetY * dt + ey * weight;
  motion.vx = vx;
  motion.vy = vy;
}

/** The rate that holds for velocity (vx, vy) on its way to a target of the given size. */
function rateFor(rates: Rates, vx: number, vy: number, targetX: number, targetY: number, target: number, braked: boolean): number {
  if (target === 0) return rates.decelerate;
  const along = vx * targetX + vy * targetY;
  if (along < 0 && !braked) return rates.brake;
  return length(vx, vy) > target * (1 + EVEN) ? rates.ease : rates.accelerate;
}

/** How far towards the target the velocity is: 1 − |v* − v| / |v*|; on a straight line the fraction of the speed. */
function fraction(difference: number, target: number): number {
  return 1 - difference / target;
}

/** Linear (and curve): v moves straight towards v* by at most rate·dt. */
export function linearRamp(motion: Motion, aim: Target, rates: Rates, dt: number, integration: Integration): void {
  if (integration === 'exact') {
    exactLinearRamp(motion, aim, rates, dt);
    return;
  }
  const { x: targetX, y: targetY } = aim;
  const ex = targetX - motion.vx;
  const ey = targetY - motion.vy;
  const difference = length(ex, ey);
  const target = length(targetX, targetY);
  let rate = rateFor(rates, motion.vx, motion.vy, targetX, targetY, target, false);
  if (rates.curve && rate === rates.accelerate && target > 0) rate *= factorAt(rates.curve, fraction(difference, target));
  if (rate * dt >= difference) moveWith(motion, targetX, targetY, dt, integration);
  else {
    const share = (rate * dt) / difference;
    moveWith(motion, motion.vx + ex * share, motion.vy + ey * share, dt, integration);
  }
}

/**
 * The same, split where the rate changes: at the point where braking has stopped the motion against v*, where easing
 * falls below the target's size, and where the target is reached. Within a piece the motion is ½·rate·t², exactly.
 */
function exactLinearRamp(motion: Motion, { x: targetX, y: targetY }: Target, rates: Rates, dt: number): void {
  const target = length(targetX, targetY);
  let left = dt;
  let braked = false;
  motion.dx = 0;
  motion.dy = 0;
  // Three regimes at the most follow each other; one more round takes the steady rest.
  for (let round = 0; round < 5 && left > 0; round++) {
    const ex = targetX - motion.vx;
    const ey = targetY - motion.vy;
    const difference = length(ex, ey);
    if (difference === 0) break;
    const ux = ex / difference;
    const uy = ey / difference;
    const rate = rateFor(rates, motion.vx, motion.vy, targetX, targetY, target, braked);
    const towards = motion.vx * ux + motion.vy * uy;
    // The length of the way, in speed, until this regime ends.
    let way = difference;
    if (target > 0 && !braked && motion.vx * targetX + motion.vy * targetY < 0) {
      way = -(motion.vx * targetX + motion.vy * targetY) / (ux * targetX + uy * targetY);
      braked = true;
    } else if (rate === rates.ease && -2 * towards - difference > 0) way = -2 * towards - difference;
    if (rates.curve && rate === rates.accelerate && target > 0 && way === difference) {
      left -= curvedPiece(motion, ux, uy, difference, target, rates.curve, rate, left);
      if (flow.s >= 1) arrive(motion, targetX, targetY);
      continue;
    }
    const whole = way / rate;
    const time = whole < left ? whole : left;
    motion.dx += motion.vx * time + 0.5 * rate * time * time * ux;
    motion.dy += motion.vy * time + 0.5 * rate * time * time * uy;
    if (whole <= left && way === difference) arrive(motion, targetX, targetY);
    else {
      motion.vx += rate * time * ux;
      motion.vy += rate * time * uy;
    }
    left -= time;
  }
  motion.dx += motion.vx * left;
  motion.dy += motion.vy * left;
}

function arrive(motion: Motion, targetX: number, targetY: number): void {
  motion.vx = targetX;
  motion.vy = targetY;
}

/** One accelerating piece under a curve; returns the time it took. */
function curvedPiece(
  motion: Motion,
  ux: number,
  uy: number,
  difference: number,
  target: number,
  curve: AccelerationCurve,
  rate: number,
  dt: number,
): number {
  const start = fraction(difference, target);
  flow.s = start;
  flow.integral = 0;
  flow.time = 0;
  followCurve(curve, rate / target, dt, flow);
  const gained = (flow.s - start) * target;
  const extra = (flow.integral - start * flow.time) * target;
  motion.dx += motion.vx * flow.time + extra * ux;
  motion.dy += motion.vy * flow.time + extra * uy;
  motion.vx += gained * ux;
  motion.vy += gained * uy;
  return flow.time;
}
