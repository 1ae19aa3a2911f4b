import type { Column, Trace } from '../../motion/trace.ts';
import { meetingIn, shareOfTick } from '../crossing.ts';
import type { SpeedLaw } from '../speedLaw.ts';

/** The row whose tick begins at or after a time (s). */
export const rowFrom = (trace: Trace, time: number): number => Math.min(trace.end - 1, trace.rowAt(time - 1e-9));

const at = (trace: Trace, column: Column, row: number) => trace.at(column, Math.max(trace.first, Math.min(trace.end - 1, row)));

/** Known properties of a quantity over time. */
interface Going {
  /** The value that it approaches. */
  limit?: number | null;
  /** The law that it follows, to a part `alike`. */
  law?: SpeedLaw;
  alike?: number;
  /** The share of a row's tick after which it meets the goal, where no law of one speed says so. */
  within?: ((row: number) => number) | undefined;
}

/**
 * The time (s) at which a quantity of rows first reaches a goal from below, from row `from` on, inside its tick (by `shareOfTick`, or the known law).
 * Null if it never does.
 */
export function reaches(
  trace: Trace,
  from: number,
  goal: number,
  quantity: (row: number) => number,
  { limit = null, law, alike, within }: Going = {},
): number | null {
  for (let row = from + 1; row < trace.end; row++) {
    const [v0, v1] = [quantity(row - 1), quantity(row)];
    if (v1 < goal) continue;
    const [t0, t1] = [trace.at('time', row - 1), trace.at('time', row)];
    const before = row - 2 >= from ? quantity(row - 2) : null;
    const share = () =>
      within
        ? within(row)
        : law
          ? meetingIn({ before, v0, v1, limit, dt: t1 - t0 }, goal, law, alike).share
          : shareOfTick(before, v0, v1, goal, limit);
    return t0 + (t1 - t0) * (v0 >= goal ? 0 : share());
  }
  return null;
}

/** Distance travelled from one time (s) to another, on the lines between rows. */
export function distanceBetween(trace: Trace, from: number, to: number): number {
  let travelled = 0;
  for (let row = trace.first + 1; row < trace.end; row++) {
    const [t0, t1] = [trace.at('time', row - 1), trace.at('time', row)];
    if (t1 <= from || t0 >= to) continue;
    const [dx, dy] = [trace.at('x', row) - trace.at('x', row - 1), trace.at('y', row) - trace.at('y', row - 1)];
    const share = t1 > t0 ? (Math.min(t1, to) - Math.max(t0, from)) / (t1 - t0) : 1;
    travelled += Math.sqrt(dx * dx + dy * dy) * share;
  }
  return travelled;
}

/** Largest and least value of a column between two times, s. */
function rangeOf(trace: Trace, column: Column, from: number, to: number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (let row = rowFrom(trace, from); row < trace.end && trace.at('time', row) <= to + 1e-9; row++) {
    low = Math.min(low, trace.at(column, row));
    high = Math.max(high, trace.at(column, row));
  }
  return low <= high ? [low, high] : [at(trace, column, trace.end), at(trace, column, trace.end)];
}

/** Peak-to-peak of the place over the last seconds of a trace, along the axis that moves more. */
export function trembles(trace: Trace, seconds: number): number {
  const end = trace.at('time', trace.end - 1);
  const spread = (column: Column) => {
    const [low, high] = rangeOf(trace, column, end - seconds, end);
    return high - low;
  };
  return Math.max(spread('x'), spread('y'));
}
