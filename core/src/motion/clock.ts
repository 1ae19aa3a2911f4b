import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';

/** Settings of the clock: ticks per second, the length of one, s, and whether all ticks have that length. */
export interface ClockPlan {
  hz: number;
  dt: number;
  fixed: boolean;
}

export function prepareClock({ clock }: Parameters): ClockPlan {
  return { hz: clock.hz, dt: 1 / clock.hz, fixed: clock.stepping === 'fixed' };
}

/**
 * Begins a tick without events, and sets the time (s) of its end: at a fixed rate t₀ + (n − n₀)/hz, a quotient, not a sum, so that it does not drift;
 * with frames t + their dt.
 */
export function stepClock(body: Own<'clock'>, p: ClockPlan): void {
  body.happened = 0;
  body.clockTick++;
  if (p.fixed) {
    body.clockDt = p.dt;
    body.clockTime = body.clockEpochTime + (body.clockTick - body.clockEpochTick) / p.hz;
  } else body.clockTime += body.clockDt;
}

/** Sets the length of the next frame, s. */
export function setFrame(body: Own<'clock'>, dt: number): void {
  body.clockDt = dt;
}

/** Counts fixed ticks from here on. */
export function beginEpoch(body: Own<'clock'>): void {
  body.clockEpochTick = body.clockTick;
  body.clockEpochTime = body.clockTime;
}
