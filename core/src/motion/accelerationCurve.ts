import { exp, log } from '../math/functions.ts';
import { monotoneCubic } from '../math/monotoneCubic.ts';

/**
 * A factor on the acceleration over the fraction s of the wanted speed: ds/dt = k·f(s).
 *
 * f is the monotone piecewise cubic through the given points, sampled at SEGMENTS + 1 places and linear between them. A linear f has
 * a closed-form flow, so that the curve, too, can be followed through a tick exactly, at any tick rate.
 */
export interface AccelerationCurve {
  /** f at s = i / SEGMENTS; at least FLOOR, because at 0 the body would never start. */
  readonly samples: Float64Array;
}

const SEGMENTS = 64;
const FLOOR = 0.01;

export function prepareCurve(points: readonly (readonly [number, number])[]): AccelerationCurve {
  const f = monotoneCubic(points);
  return { samples: Float64Array.from({ length: SEGMENTS + 1 }, (_, i) => Math.max(FLOOR, f(i / SEGMENTS))) };
}

/** f(s); s below 0 counts as 0, above 1 as 1. */
export function factorAt(curve: AccelerationCurve, s: number): number {
  const place = s <= 0 ? 0 : s >= 1 ? SEGMENTS : s * SEGMENTS;
  const i = place >= SEGMENTS ? SEGMENTS - 1 : Math.floor(place);
  const low = curve.samples[i] as number;
  return low + ((curve.samples[i + 1] as number) - low) * (place - i);
}

/** (e^z − 1) / z, by its series near 0. */
function phi1(z: number): number {
  return z > 0.5 || z < -0.5 ? (exp(z) - 1) / z : 1 + z * phi2(z);
}

/** (e^z − 1 − z) / z², by its series near 0. */
function phi2(z: number): number {
  if (z > 0.5 || z < -0.5) return (exp(z) - 1 - z) / (z * z);
  let sum = 0;
  let term = 0.5;
  for (let n = 3; n <= 16; n++) {
    sum += term;
    term *= z / n;
  }
  return sum;
}

/** ln(1 + z) / z, by its series near 0; z > −1. */
function logOver(z: number): number {
  if (z > 0.05 || z < -0.05) return log(1 + z) / z;
  let sum = 0;
  for (let n = 12; n >= 1; n--) sum = 1 / n - z * sum;
  return sum;
}

/** Results of `flow`: the fraction reached, the integral of s over the time, the time used. */
export interface Flow {
  s: number;
  integral: number;
  time: number;
}

/** Follows ds/dt = k·f(s) from `flow.s` for at most `dt` seconds or until s = 1; k > 0 in 1/s. Adds to integral and time. */
export function followCurve(curve: AccelerationCurve, k: number, dt: number, flow: Flow): void {
  let left = dt;
  // Each round crosses one segment; below 0 (turning round) f is f(0).
  for (let round = 0; round <= SEGMENTS + 1 && left > 0 && flow.s < 1; round++) {
    const below = flow.s < 0;
    const i = below ? 0 : Math.min(SEGMENTS - 1, Math.floor(flow.s * SEGMENTS));
    const end = below ? 0 : (i + 1) / SEGMENTS;
    const f0 = factorAt(curve, flow.s);
    const slope = below ? 0 : ((curve.samples[i + 1] as number) - (curve.samples[i] as number)) * SEGMENTS;
    const room = end - flow.s;
    const whole = (room / (k * f0)) * logOver((slope * room) / f0);
    const time = whole < left ? whole : left;
    const z = k * slope * time;
    flow.integral += flow.s * time + f0 * k * time * time * phi2(z);
    flow.s = whole <= left ? end : flow.s + f0 * k * time * phi1(z);
    flow.time += time;
    left -= time;
  }
}
