import type { Column, Trace } from '../motion/trace.ts';

/** Rows ahead up to which a cursor walks; farther ones are searched for. */
const NEAR = 8;

/** Reads a trace at times that mostly rise: the next few rows are walked to, anything else is searched for. Inside a tick values lie on the line between its rows; the ends hold on. */
export class TraceCursor {
  readonly trace: Trace;
  #after: number;
  #share = 1;

  constructor(trace: Trace) {
    this.trace = trace;
    this.#after = trace.first;
  }

  /** Goes to a time, s. */
  to(time: number): this {
    const { trace } = this;
    const last = trace.end - 1;
    let after = this.#after;
    const nearest = Math.min(last, after + NEAR);
    if ((after > trace.first && trace.at('time', after - 1) >= time) || trace.at('time', nearest) < time)
      after = Math.min(trace.rowAt(time), last);
    else while (after < last && trace.at('time', after) < time) after++;
    this.#after = after;
    const [t0, t1] = [trace.at('time', Math.max(after - 1, trace.first)), trace.at('time', after)];
    this.#share = t1 > t0 ? Math.min(1, Math.max(0, (time - t0) / (t1 - t0))) : 1;
    return this;
  }

  at(column: Column): number {
    const { trace } = this;
    const before = trace.at(column, Math.max(this.#after - 1, trace.first));
    return before + (trace.at(column, this.#after) - before) * this.#share;
  }

  /** How far it is from where another one is, unit. */
  apart(other: TraceCursor): number {
    const [dx, dy] = [this.at('x') - other.at('x'), this.at('y') - other.at('y')];
    return Math.sqrt(dx * dx + dy * dy);
  }
}

/** The value of a column at a time (s), inside a tick on the line between its rows; the ends hold on. */
export const traceAt = (trace: Trace, column: Column, time: number): number => new TraceCursor(trace).to(time).at(column);
