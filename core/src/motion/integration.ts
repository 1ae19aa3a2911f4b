import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Motion } from './slices.ts';

/** How speed becomes distance within a tick. */
export type Integration = Parameters['clock']['integration'];

/**
 * Sets the velocity to (vx, vy) and the displacement of a step of `dt` in which it went there from the old one:
 * semi-implicit Euler v′·dt, or the trapezoid ½(v + v′)·dt, which is exact for a steady acceleration.
 */
export function moveWith(motion: Motion, vx: number, vy: number, dt: number, integration: Integration): void {
  if (integration === 'semiImplicit') {
    motion.dx = vx * dt;
    motion.dy = vy * dt;
  } else {
    motion.dx = 0.5 * (motion.vx + vx) * dt;
    motion.dy = 0.5 * (motion.vy + vy) * dt;
  }
  motion.vx = vx;
  motion.vy = vy;
}
