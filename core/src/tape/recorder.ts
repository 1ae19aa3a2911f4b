import { controls } from './controls.ts';
import { applyEvent, beginTick, type Hands, type HandsEvent, newHands } from './hands.ts';
import type { Tape, TapeEvent } from './tape.ts';

/**
 * The one way from devices to hands: events wait in a queue and are applied at the start of the next tick, and the same
 * events make the tape. So a recording and its replay cannot differ.
 */
export class Recorder {
  readonly hands: Hands = newHands();
  readonly #queue: HandsEvent[] = [];
  readonly #events: TapeEvent[] = [];
  #tick = 0;
  readonly #limit: number;

  /** The tick at which the limit was met; 0 before. */
  #cutAt = 0;

  /** After `limit` events the hands still follow, but the tape ends: a long drive takes no more memory. */
  constructor(limit = 200_000) {
    this.#limit = limit;
  }

  /** What a device says; seen at the start of the next tick. */
  push(event: HandsEvent): void {
    this.#queue.push(event);
  }

  /** The hands of the next tick. */
  next(): Hands {
    beginTick(this.hands);
    this.#tick++;
    if (this.#queue.length === 0) return this.hands;
    const recording = this.#events.length < this.#limit;
    for (const event of this.#queue) {
      applyEvent(this.hands, event);
      if (recording) this.#events.push({ at: this.#tick - 1, ...event });
    }
    this.#queue.length = 0;
    if (!recording && this.#cutAt === 0) this.#cutAt = this.#tick - 1;
    return this.hands;
  }

  /** Begins the tape anew with the hands as they are: what is held counts as pressed at its first tick. */
  restart(): void {
    const { held, stickX, stickY, pointX, pointY } = this.hands;
    this.#events.length = 0;
    this.#tick = 0;
    this.#cutAt = 0;
    const order = controls
      .filter((_, i) => held[i] !== 0)
      .sort((a, b) => (held[controls.indexOf(a)] as number) - (held[controls.indexOf(b)] as number));
    for (const press of order) this.#events.push({ at: 0, press });
    if (stickX !== 0 || stickY !== 0) this.#events.push({ at: 0, stick: [stickX, stickY] });
    if (pointX !== 0 || pointY !== 0) this.#events.push({ at: 0, point: [pointX, pointY] });
  }

  /** What was recorded since the start. */
  tape(name: string, hz: number): Tape {
    return { format: 'zygopod/tape', version: 1, name, hz, ticks: Math.max(1, this.#cutAt || this.#tick), events: [...this.#events] };
  }
}
