import { type Control, controls, RIGHT, wentDown } from './controls.ts';
import { applyEvent, beginTick, type Hands, type HandsEvent, newHands } from './hands.ts';
import { type HeldHands, holdingOf } from './held.ts';
import type { Tape, TapeEvent } from './tape.ts';

function isWay(control: Control): boolean {
  return controls.indexOf(control) <= RIGHT;
}

/**
 * The one way from devices to hands: events wait in a queue and are applied at the start of the next tick, and the same
 * events make the tape. So a recording and its replay cannot differ.
 */
export class Recorder {
  readonly hands: Hands = newHands();
  readonly #queue: HandsEvent[] = [];
  readonly #events: TapeEvent[] = [];
  /** The hands as they were held when the tape began; null where they were at rest. */
  #held: HeldHands | null = null;
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
    let applied = 0;
    let tapped = false;
    for (const event of this.#queue) {
      // Two ways tapped one after the other are two ticks' work, however late the device told of them: neither is lost.
      if (tapped && 'press' in event && isWay(event.press)) break;
      applyEvent(this.hands, event);
      if (recording) this.#events.push({ at: this.#tick - 1, ...event });
      if ('release' in event && isWay(event.release) && wentDown(this.hands, controls.indexOf(event.release))) tapped = true;
      applied++;
    }
    this.#queue.splice(0, applied);
    if (!recording && this.#cutAt === 0) this.#cutAt = this.#tick - 1;
    return this.hands;
  }

  /** Begins the tape anew, with the hands as they are held: nothing of what they hold is pressed again. */
  restart(): void {
    this.#held = holdingOf(this.hands);
    this.#events.length = 0;
    this.#tick = 0;
    this.#cutAt = 0;
  }

  /** What was recorded since the start. */
  tape(name: string, hz: number): Tape {
    return {
      format: 'zygopod/tape',
      version: 2,
      name,
      hz,
      ticks: Math.max(1, this.#cutAt || this.#tick),
      ...(this.#held ? { snapshot: { hands: this.#held } } : {}),
      events: [...this.#events],
    };
  }
}
