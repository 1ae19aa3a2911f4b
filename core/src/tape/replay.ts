import { applyEvent, beginTick, type Hands, newHands } from './hands.ts';
import { hold } from './held.ts';
import type { Tape, TapeEvent } from './tape.ts';

/** Rounding slack when a tick time of one rate is compared with one of another. */
const SLACK = 1e-9;

/** The first tick at `hz` that does not start earlier than tick `at` of the tape. */
function tickAt(at: number, tapeHz: number, hz: number): number {
  return hz === tapeHz ? at : Math.ceil((at * hz) / tapeHz - SLACK);
}

/** Plays a tape at any tick rate: `next()` returns the hands of one tick after another. */
export class Replay {
  readonly hands: Hands = newHands();
  /** Length of the tape in ticks of this replay. */
  readonly ticks: number;
  tick = 0;
  #cursor = 0;
  readonly #events: readonly TapeEvent[];
  readonly #tapeHz: number;
  readonly #hz: number;
  /** The tick at whose start the next event is due: until then there is nothing to do. */
  #due: number;

  constructor(tape: Tape, hz: number) {
    this.#events = tape.events;
    this.#tapeHz = tape.hz;
    this.#hz = hz;
    this.ticks = tickAt(tape.ticks, tape.hz, hz);
    if (tape.snapshot) hold(this.hands, tape.snapshot.hands);
    this.#due = this.#nextDue();
  }

  /** The hands of the next tick; past the end of the tape they stay as they were. */
  next(): Hands {
    beginTick(this.hands);
    if (this.tick++ >= this.#due) this.#applyDue();
    return this.hands;
  }

  /** The tick that the next event makes a difference to: from now on the hands stay as they are until then; Infinity after the last one. */
  get nextEvent(): number {
    return this.#due;
  }

  /** The hands of a tick that starts at `time` (s), where ticks have no even length. */
  at(time: number): Hands {
    beginTick(this.hands);
    const events = this.#events;
    for (; this.#cursor < events.length; this.#cursor++) {
      const event = events[this.#cursor] as TapeEvent;
      if (event.at / this.#tapeHz > time + SLACK) break;
      applyEvent(this.hands, event);
    }
    return this.hands;
  }

  #applyDue(): void {
    while (this.#due < this.tick) {
      applyEvent(this.hands, this.#events[this.#cursor++] as TapeEvent);
      this.#due = this.#nextDue();
    }
  }

  #nextDue(): number {
    const event = this.#events[this.#cursor];
    return event ? tickAt(event.at, this.#tapeHz, this.#hz) : Infinity;
  }
}
