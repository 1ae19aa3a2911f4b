import { turnTo } from '../math/angles.ts';
import type { Column, Trace } from '../motion/trace.ts';

/** Measurements of a span of a trace. */
export interface SpanReading {
  /** Length, s. */
  seconds: number;
  /** Distance along the path, unit. */
  travelled: number;
  /** Distance over time, unit/s. */
  meanSpeed: number;
  /** Highest speed, unit/s. */
  peakSpeed: number;
  /** Change of speed from one end to the other, over the time between them, unit/s². */
  slope: number;
  /** Sum of all turns of the facing, in either direction, degrees. */
  turned: number;
  /** How many times the body met walls or edges, and for how long, s. */
  contacts: number;
  touched: number;
}

/** A trace's values at a time: inside a tick on the line between its two rows. */
function between(trace: Trace, time: number): (column: Column) => number {
  const after = Math.min(trace.rowAt(time), trace.end - 1);
  const before = Math.max(after - 1, trace.first);
  const [t0, t1] = [trace.at('time', before), trace.at('time', after)];
  const share = t1 > t0 ? Math.min(1, Math.max(0, (time - t0) / (t1 - t0))) : 1;
  return (column) => trace.at(column, before) + (trace.at(column, after) - trace.at(column, before)) * share;
}

/** Measures a trace between two times, in whichever order; the ends are interpolated inside their ticks. */
export function measureSpan(trace: Trace, one: number, other: number): SpanReading {
  const [oldest, newest] = [trace.at('time', trace.first), trace.at('time', trace.end - 1)];
  const held = (time: number) => Math.min(newest, Math.max(oldest, time));
  const [from, to] = [held(Math.min(one, other)), held(Math.max(one, other))];
  const [start, end] = [between(trace, from), between(trace, to)];
  let [x, y, time] = [start('x'), start('y'), from];
  let facing = trace.at('facing', Math.max(trace.first, trace.rowAt(from) - 1));
  let touches = false;
  const reading = { travelled: 0, peakSpeed: Math.max(start('speed'), end('speed')), turned: 0, contacts: 0, touched: 0 };
  const go = (nextX: number, nextY: number) => {
    reading.travelled += Math.sqrt((nextX - x) ** 2 + (nextY - y) ** 2);
    [x, y] = [nextX, nextY];
  };
  for (let row = trace.rowAt(from); row < trace.end; row++) {
    // A row belongs to the tick that ends with it: the one in which the span ends counts up to there.
    const ends = trace.at('time', row);
    const isLast = ends >= to;
    if (trace.at('contacts', row) > 0) {
      if (!touches) reading.contacts++;
      reading.touched += Math.min(ends, to) - time;
    }
    touches = trace.at('contacts', row) > 0;
    if (isLast) break;
    go(trace.at('x', row), trace.at('y', row));
    reading.peakSpeed = Math.max(reading.peakSpeed, trace.at('speed', row));
    reading.turned += Math.abs(turnTo(facing, trace.at('facing', row)));
    facing = trace.at('facing', row);
    time = ends;
  }
  go(end('x'), end('y'));
  const seconds = to - from;
  return {
    seconds,
    ...reading,
    meanSpeed: seconds > 0 ? reading.travelled / seconds : 0,
    slope: seconds > 0 ? (end('speed') - start('speed')) / seconds : 0,
  };
}
