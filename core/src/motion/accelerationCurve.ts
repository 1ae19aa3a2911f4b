import { exp, log } from '../math/functions.ts';

/**
 * A factor on the acceleration over the fraction s of the wanted speed: ds/dt = k·f(s).
 *
 * f is the monotone piecewise cubic through the given points (Fritsch and Carlson, "Monotone Piecewise Cubic
 * Interpolation", SIAM J. Numer. Anal. 17, 1980), sampled at SEGMENTS + 1 places and linear between them. A linear f has
 * a closed-form flow, so that the curve, too, can be followed through a tick exactly, at any tick rate.
 */
export interface AccelerationCurve {
  /** f at s = i / SEGMENTS; at least FLOOR, because at 0 the body would never start. */
  readonly samples: Float64Array;
}

const SEGMENTS = 64;
const FLOOR = 0.01;

/** Tangents of the monotone cubic at its points. */
function tangents(points: readonly (readonly [number, number])[]): number[] {
  const slopes = points.slice(1).map(([x, y], i) => {
    const [x0, y0] = points[i] as readonly [number, number];
    return (y - y0) / (x - x0);
  });
  const m = points.map((_, i) => {
    const before = slopes[i - 1] ?? slopes[i] ?? 0;
    const after = slopes[i] ?? before;
    return before * after <= 0 ? 0 : (before + after) / 2;
  });
  // Keep (α, β) inside the circle of radius 3, which is enough for monotony.
  slopes.forEach((slope, i) => {
    if (slope === 0) {
      m[i] = 0;
      m[i + 1] = 0;
      return;
    }
    const alpha = (m[i] as number) / slope;
    const beta = (m[i + 1] as number) / slope;
    const size = Math.sqrt(alpha * alpha + beta * beta);
    if (size > 3) {
      m[i] = (3 / size) * alpha * slope;
      m[i + 1] = (3 / size) * beta * slope;
    }
  });
  return m;
}

/** The monotone cubic through `points` (x rising from 0 to 1) as a function of x in [0, 1]. */
export function monotoneCubic(points: readonly (readonly [number, number])[]): (x: number) => number {
  const m = tangents(points);
  return (x) => {
    let i = 0;
    while (i < points.length - 2 && x > (points[i + 1]?.[0] ?? 1)) i++;
    const [x0, y0] = points[i] as readonly [number, number];
    const [x1, y1] = points[i + 1] as readonly [number, number];
    const h = x1 - x0;
    const t = (x - x0) / h;
    const u = 1 - t;
    return y0 * (1 + 2 * t) * u * u + y1 * t * t * (3 - 2 * t) + h * t * u * ((m[i] as number) * u - (m[i + 1] as number) * t);
  };
}

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
