import type { Parameters } from './catalogue/catalogue.ts';

type Integration = Parameters['clock']['integration'];

/** Effects of a number on the ground, and the inverse: the formulas behind the drawings and the entries. */

/** Half-lives until 90 % of a smooth ramp is done: log2(10). */
export const HALF_LIVES_TO_90 = 3.321928094887362;

/**
 * Distance (unit) in which a linear ramp stops from `speed` (unit/s): V²/2d, or with semi-implicit ticks of `dt` seconds
 * the sum of (V − k·d·dt)·dt over the whole ticks until it stands.
 */
export function stopDistance(speed: number, rate: number, dt: number, integration: Integration): number {
  if (integration === 'exact') return (speed * speed) / (2 * rate);
  const ticks = Math.floor(speed / (rate * dt) + 1e-9);
  const sum = ticks * speed * dt - (rate * dt * dt * ticks * (ticks + 1)) / 2;
  if (integration === 'semiImplicit') return sum;
  // Each trapezoid adds half of the speed that its tick lost; down to rest that is half of V·dt in all.
  return sum + (speed * dt) / 2;
}

/** The rate (unit/s²) that stops from `speed` in `distance`; found by bisection, because ticks make steps in it. */
export function rateToStopIn(distance: number, speed: number, dt: number, integration: Integration): number {
  if (speed <= 0) return Number.NaN;
  if (distance <= 0) return speed / dt;
  let low = (speed * speed) / (2 * distance) / 1e3;
  let high = ((speed * speed) / (2 * distance)) * 2 + speed / dt;
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (stopDistance(speed, middle, dt, integration) > distance) low = middle;
    else high = middle;
  }
  return high;
}
