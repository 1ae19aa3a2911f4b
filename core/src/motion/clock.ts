import type { Own } from './body.ts';

/** Begins a tick of `dt` seconds, in which nothing has happened yet. */
export function beginTick(body: Own<'clock'>, dt: number): void {
  body.clockDt = dt;
  body.happened = 0;
}

/** Ends a tick whose length is that of the frame. */
export function endFrame(body: Own<'clock'>): void {
  body.clockTick++;
  body.clockTime += body.clockDt;
}

/** Ends a tick at a fixed rate: the time is a quotient, not a sum, so that it does not drift. */
export function endTick(body: Own<'clock'>, hz: number): void {
  const tick = body.clockTick + 1;
  body.clockTick = tick;
  body.clockTime = body.clockEpochTime + (tick - body.clockEpochTick) / hz;
}

/** Counts fixed ticks from here on. */
export function beginEpoch(body: Own<'clock'>): void {
  body.clockEpochTick = body.clockTick;
  body.clockEpochTime = body.clockTime;
}
