import type { Trace } from '../motion/trace.ts';

/** The first row from one on in which one of some events (bits) happens; −1 if there is none. */
export function firstRowWith(trace: Trace, events: number, from = trace.first): number {
  for (let row = from; row < trace.end; row++) if (trace.at('events', row) & events) return row;
  return -1;
}

/** The rows from one to another (that one not included) in which one of some events (bits) happens. */
export function rowsWith(trace: Trace, events: number, from = trace.first, end = trace.end): number[] {
  const rows: number[] = [];
  for (let row = firstRowWith(trace, events, from); row >= 0 && row < end; row = firstRowWith(trace, events, row + 1)) rows.push(row);
  return rows;
}
