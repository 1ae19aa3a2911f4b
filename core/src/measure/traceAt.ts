import type { Column, Trace } from '../motion/trace.ts';

/** The value of a column at a time (s), inside a tick on the line between its rows; the ends hold on. */
export function traceAt(trace: Trace, column: Column, time: number): number {
  const after = Math.min(trace.rowAt(time), trace.end - 1);
  const before = Math.max(after - 1, trace.first);
  const [t0, t1] = [trace.at('time', before), trace.at('time', after)];
  const share = t1 > t0 ? Math.min(1, Math.max(0, (time - t0) / (t1 - t0))) : 1;
  return trace.at(column, before) + (trace.at(column, after) - trace.at(column, before)) * share;
}
