import type { Trace } from '@zygopod/core';
import type { Span } from '../tuning/context.ts';

/** What calipers read between two times: the duration, the way along the path, the mean speed. */
interface Reading {
  seconds: number;
  travelled: number;
  meanSpeed: number;
}

/** Values at a time, between two rows. */
function placeAt(trace: Trace, time: number): { x: number; y: number } {
  const after = Math.min(trace.rowAt(time), trace.end - 1);
  const before = Math.max(after - 1, trace.first);
  const t0 = trace.at('time', before);
  const t1 = trace.at('time', after);
  const share = t1 > t0 ? Math.min(1, Math.max(0, (time - t0) / (t1 - t0))) : 1;
  const between = (column: 'x' | 'y') => trace.at(column, before) + (trace.at(column, after) - trace.at(column, before)) * share;
  return { x: between('x'), y: between('y') };
}

/** Measures the trace between two times; the ends are interpolated inside their ticks. */
export function measure(trace: Trace, span: Span): Reading {
  const from = Math.min(span.from, span.to);
  const to = Math.max(span.from, span.to);
  let last = placeAt(trace, from);
  let travelled = 0;
  for (let row = trace.rowAt(from); row < trace.end && trace.at('time', row) < to; row++) {
    const here = { x: trace.at('x', row), y: trace.at('y', row) };
    travelled += Math.hypot(here.x - last.x, here.y - last.y);
    last = here;
  }
  const end = placeAt(trace, to);
  travelled += Math.hypot(end.x - last.x, end.y - last.y);
  const seconds = to - from;
  return { seconds, travelled, meanSpeed: seconds > 0 ? travelled / seconds : 0 };
}
