import { applyEvent, beginTick, type Hands, newHands } from './hands.ts';
import type { Tape, TapeEvent } from './tape.ts';

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
    const hands = this.#upTo((event) => tickAt(event.at, this.#tape.hz, this.#hz) <= this.tick);
    this.tick++;
    return hands;
  }

  /** The hands of a tick that starts at `time` (s), where ticks have no even length. */
  at(time: number): Hands {
    return this.#upTo((event) => event.at / this.#tape.hz <= time + SLACK);
  }

  #upTo(isDue: (event: TapeEvent) => boolean): Hands {
    beginTick(this.hands);
    const { events } = this.#tape;
    for (; this.#cursor < events.length; this.#cursor++) {
      const event = events[this.#cursor];
      if (!event || !isDue(event)) break;
      applyEvent(this.hands, event);
    }
    return this.hands;
  }
}
