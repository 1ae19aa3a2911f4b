import { applyEvent, beginTick, type Hands, newHands } from './hands.ts';
import type { Tape } from './tape.ts';

/** Rounding slack when a tick time of one rate is held against one of another. */
const SLACK = 1e-9;

/** The first tick at `hz` that does not start earlier than tick `at` of the tape. */
export function tickAt(at: number, tapeHz: number, hz: number): number {
  return hz === tapeHz ? at : Math.ceil((at * hz) / tapeHz - SLACK);
}

/** Plays a tape at any tick rate: `next()` gives the hands of one tick after another. */
export class Replay {
  readonly hands: Hands = newHands();
  /** Length of the tape in ticks of this replay. */
  readonly ticks: number;
  tick = 0;
  #cursor = 0;
  readonly #tape: Tape;
  readonly #hz: number;

  constructor(tape: Tape, hz: number) {
    this.#tape = tape;
    this.#hz = hz;
    this.ticks = tickAt(tape.ticks, tape.hz, hz);
  }

  /** The hands of the next tick; past the end of the tape they stay as they were. */
  next(): Hands {
    beginTick(this.hands);
    const { events, hz } = this.#tape;
    for (; this.#cursor < events.length; this.#cursor++) {
      const event = events[this.#cursor];
      if (!event || tickAt(event.at, hz, this.#hz) > this.tick) break;
      applyEvent(this.hands, event);
    }
    this.tick++;
    return this.hands;
  }
}
