import type { SpeedLaw } from './speedLaw.ts';

/** Relative tolerance for the ratios of neighbouring ticks of an exponential decay. */
const ALIKE = 1e-6;

/**
 * The fraction of a tick, in [0, 1], after which a quantity that goes from `v0` to `v1` crosses a goal between the two; `before` is its value a tick
 * earlier, if known. A quantity that approaches a limit by the same ratio in each tick (a half-life: r₀·2^(−t/h) remains) crosses the goal by that
 * law. A steady rate cut short by the limit has the slope of the tick before. Everything else is linear.
 */
export function shareOfTick(before: number | null, v0: number, v1: number, goal: number, limit: number | null = null): number {
  if (limit !== null && before !== null) {
    const [r2, r0, r1, rest] = [limit - before, limit - v0, limit - v1, limit - goal].map(Math.abs) as [number, number, number, number];
    const fades = r1 > 0 && rest > 0 && r0 > r1 && r2 > 0 && Math.abs(r1 / r0 - r0 / r2) < ALIKE;
    if (fades) return Math.min(1, Math.max(0, Math.log(r0 / rest) / Math.log(r0 / r1)));
  }
  const sign = Math.sign(v1 - v0) || 1;
  const rate = Math.max(sign * (v1 - v0), before === null ? 0 : sign * (v0 - before));
  return rate > 0 ? Math.min(1, Math.max(0, (sign * (goal - v0)) / rate)) : 1;
}

/** A quantity over one tick of `dt` seconds: its values before and at both ends, and the value that it approaches. */
export interface TickOf {
  before: number | null;
  v0: number;
  v1: number;
  limit: number | null;
  dt: number;
}

/** True if a tick follows a law to a fraction of the change; a wall, a surface or a route changes the speed, too. */
const follows = (law: SpeedLaw, { v0, v1, limit, dt }: TickOf, alike: number): boolean =>
  limit !== null && Math.abs(law.after(v0, limit, dt) - v1) <= alike * Math.max(Math.abs(v0), Math.abs(limit));

/**
 * The share of a tick after which a speed meets a goal, and the distance until then by the law that it goes by (to a part `alike`); without one
 * the share is `shareOfTick`'s.
 */
export function meetingIn(tick: TickOf, goal: number, law: SpeedLaw, alike = ALIKE): { share: number; distance: number | null } {
  const { before, v0, v1, limit, dt } = tick;
  const met = follows(law, tick, alike) ? law.meets(v0, limit as number, goal, dt) : null;
  return met ? { share: met.seconds / dt, distance: met.distance } : { share: shareOfTick(before, v0, v1, goal, limit), distance: null };
}
