import { exp2, LN2, length } from '../math/functions.ts';
import { type AccelerationCurve, type Flow, factorAt, followCurve } from './accelerationCurve.ts';
import type { Own } from './body.ts';

/** The ramp of the velocity towards the one aimed at. Rates in unit/s². */
export interface RampPlan {
  model: 'instant' | 'linear' | 'smooth' | 'curve';
  integration: 'semiImplicit' | 'trapezoid' | 'exact';
  accelerate: number;
  decelerate: number;
  brake: number;
  ease: number;
  halfLife: number;
  /** Below this difference (unit/s) a smooth ramp has arrived. */
  arrived: number;
  /** Length of a fixed tick, s, and the fraction of a difference that a smooth ramp keeps over it. */
  dt: number;
  kept: number;
  /** Factor on accelerate; null for the plain linear ramp. */
  curve: AccelerationCurve | null;
  /** Scratch of the curve: written before each use, read right after. */
  flow: Flow;
}

/** Tolerance for rounding, as a fraction of a speed. */
const EVEN = 1e-12;

/**
 * Advances the velocity from `velocityFrom` towards the one aimed at, for dt seconds, and returns the displacement: at once (instant), by at most
 * rate·dt (linear; curve), or by 1 − 2^(−dt/halfLife) of the difference (smooth).
 */
export function stepRamp(body: Own<'velocity'>, p: RampPlan, dt: number): void {
  switch (p.model) {
    case 'instant':
      body.velocityX = body.velocityAimX;
      body.velocityY = body.velocityAimY;
      if (p.integration === 'exact') {
        body.velocityFromX = body.velocityAimX;
        body.velocityFromY = body.velocityAimY;
      }
      displace(body, p, dt);
      return;
    case 'smooth':
      smoothRamp(body, p, dt);
      return;
    case 'linear':
    case 'curve':
      if (p.integration === 'exact') exactLinearRamp(body, p, dt);
      else linearRamp(body, p, dt);
  }
}

/**
 * The displacement of a step of dt in which the velocity went from the old one to the new one: semi-implicit Euler v′·dt, or the
 * trapezoid ½(v + v′)·dt, which is exact for a steady acceleration.
 */
function displace(body: Own<'velocity'>, p: RampPlan, dt: number): void {
  if (p.integration === 'semiImplicit') {
    body.velocityDx = body.velocityX * dt;
    body.velocityDy = body.velocityY * dt;
  } else {
    body.velocityDx = 0.5 * (body.velocityFromX + body.velocityX) * dt;
    body.velocityDy = 0.5 * (body.velocityFromY + body.velocityY) * dt;
  }
}

/** Smooth: v ← v* + (v − v*)·2^(−dt/halfLife), with its exact integral v*·dt + (v − v*)·(1 − 2^(−dt/halfLife))·halfLife/ln 2. */
function smoothRamp(body: Own<'velocity'>, p: RampPlan, dt: number): void {
  const keep = dt === p.dt ? p.kept : exp2(-dt / p.halfLife);
  const ex = body.velocityFromX - body.velocityAimX;
  const ey = body.velocityFromY - body.velocityAimY;
  const arrived = ex < p.arrived && ex > -p.arrived && ey < p.arrived && ey > -p.arrived;
  body.velocityX = arrived ? body.velocityAimX : body.velocityAimX + ex * keep;
  body.velocityY = arrived ? body.velocityAimY : body.velocityAimY + ey * keep;
  if (p.integration !== 'exact') displace(body, p, dt);
  else {
    const weight = ((1 - keep) * p.halfLife) / LN2;
    body.velocityDx = body.velocityAimX * dt + ex * weight;
    body.velocityDy = body.velocityAimY * dt + ey * weight;
  }
}

/** The rate for the velocity towards the one aimed at: to rest, against the motion, down from a higher speed, or up. */
function rateFor(
  { velocityX: vx, velocityY: vy, velocityAimX: targetX, velocityAimY: targetY }: Own<'velocity'>,
  p: RampPlan,
  braked: boolean,
): number {
  if (targetX === 0 && targetY === 0) return p.decelerate;
  if (vx * targetX + vy * targetY < 0 && !braked) return p.brake;
  return vx * vx + vy * vy > (targetX * targetX + targetY * targetY) * (1 + 2 * EVEN) ? p.ease : p.accelerate;
}

/** Linear (and curve): v moves straight towards v* by at most rate·dt. */
function linearRamp(body: Own<'velocity'>, p: RampPlan, dt: number): void {
  const vx = body.velocityFromX;
  const vy = body.velocityFromY;
  const targetX = body.velocityAimX;
  const targetY = body.velocityAimY;
  const ex = targetX - vx;
  const ey = targetY - vy;
  const difference = Math.sqrt(ex * ex + ey * ey);
  body.velocityX = vx;
  body.velocityY = vy;
  let rate = rateFor(body, p, false);
  const target = p.curve ? length(targetX, targetY) : 0;
  if (p.curve && rate === p.accelerate && target > 0) rate *= factorAt(p.curve, 1 - difference / target);
  const gained = rate * dt;
  if (gained >= difference) {
    body.velocityX = targetX;
    body.velocityY = targetY;
  } else {
    body.velocityX = vx + (ex * gained) / difference;
    body.velocityY = vy + (ey * gained) / difference;
  }
  displace(body, p, dt);
}

/**
 * The same, split where the rate changes: at the point where braking has stopped the motion against v*, where easing
 * falls below the target's size before it is reached, and where it is reached. Within a piece the motion is ½·rate·t², exactly.
 */
function exactLinearRamp(body: Own<'velocity'>, p: RampPlan, dt: number): void {
  const { velocityAimX: targetX, velocityAimY: targetY } = body;
  const target = length(targetX, targetY);
  let left = dt;
  let braked = false;
  body.velocityX = body.velocityFromX;
  body.velocityY = body.velocityFromY;
  body.velocityDx = 0;
  body.velocityDy = 0;
  // At most three regimes follow each other; one more round takes the steady rest.
  for (let round = 0; round < 5 && left > 0; round++) {
    const { velocityX: vx, velocityY: vy } = body;
    const ex = targetX - vx;
    const ey = targetY - vy;
    const difference = length(ex, ey);
    if (difference === 0) break;
    const ux = ex / difference;
    const uy = ey / difference;
    const rate = rateFor(body, p, braked);
    // Change of velocity until this regime ends: on the line to v* the size is that of v* at its end, and at `even`.
    let turn = difference;
    const even = -2 * (vx * ux + vy * uy) - difference;
    if (target > 0 && !braked && vx * targetX + vy * targetY < 0) {
      turn = -(vx * targetX + vy * targetY) / (ux * targetX + uy * targetY);
      braked = true;
    } else if (rate === p.ease && even > 0 && even < difference) turn = even;
    if (p.curve && rate === p.accelerate && target > 0 && turn === difference) {
      left -= curvedPiece(body, p, p.curve, ux, uy, difference, target, left);
      if (p.flow.s >= 1) arrive(body);
      continue;
    }
    const whole = turn / rate;
    const time = whole < left ? whole : left;
    body.velocityDx += vx * time + 0.5 * rate * time * time * ux;
    body.velocityDy += vy * time + 0.5 * rate * time * time * uy;
    if (whole <= left && turn === difference) arrive(body);
    else {
      body.velocityX += rate * time * ux;
      body.velocityY += rate * time * uy;
    }
    left -= time;
  }
  body.velocityDx += body.velocityX * left;
  body.velocityDy += body.velocityY * left;
}

function arrive(body: Own<'velocity'>): void {
  body.velocityX = body.velocityAimX;
  body.velocityY = body.velocityAimY;
}

/** One accelerating piece under a curve, over the fraction 1 − |v* − v|/|v*| of the speed; returns the time it took. */
function curvedPiece(
  body: Own<'velocity'>,
  { flow, accelerate }: RampPlan,
  curve: AccelerationCurve,
  ux: number,
  uy: number,
  difference: number,
  target: number,
  dt: number,
): number {
  const start = 1 - difference / target;
  flow.s = start;
  flow.integral = 0;
  flow.time = 0;
  followCurve(curve, accelerate / target, dt, flow);
  const gained = (flow.s - start) * target;
  const extra = (flow.integral - start * flow.time) * target;
  body.velocityDx += body.velocityX * flow.time + extra * ux;
  body.velocityDy += body.velocityY * flow.time + extra * uy;
  body.velocityX += gained * ux;
  body.velocityY += gained * uy;
  return flow.time;
}
