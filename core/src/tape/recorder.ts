import { type Control, controls, RIGHT, wentDown } from './controls.ts';
import { applyEvent, beginTick, type Hands, type HandsEvent, newHands } from './hands.ts';
import { type HeldHands, holdingOf } from './held.ts';
import { type Tape, type TapeEvent, tapeOf } from './tape.ts';

function isDirection(control: Control): boolean {
  return controls.indexOf(control) <= RIGHT;
}

/**
 * The only path from devices to hands: events wait in a queue and are applied at the start of the next tick, and the same events make up the tape. So
 * a recording and its replay cannot differ.
 */
export class Recorder {
  readonly hands: Hands = newHands();
  readonly #queue: HandsEvent[] = [];
  readonly #events: TapeEvent[] = [];
  /** The hands as they were held when the tape began; null if they were at rest. */
  #held: HeldHands | null = null;
  #tick = 0;
  #isIdle = true;
  readonly #limit: number;
  /** The first tick of which all events are kept. */
  #first = 0;

  /** Of more than `limit` events the older half is dropped, so that a long drive takes no more memory. With 0 none is kept. */
  constructor(limit = 200_000) {
    this.#limit = limit;
  }

  /** The first tick of which all events are kept, counted from the start. */
  get first(): number {
    return this.#first;
  }

  /** True if nothing was pressed, pushed or swiped since the start; releasing an earlier press doesn't count. */
  get isIdle(): boolean {
    return this.#isIdle;
  }

  /** Queues a device's event; it is applied at the start of the next tick. */
  push(event: HandsEvent): void {
    this.#queue.push(event);
  }

  /** The hands of the next tick. */
  next(): Hands {
    beginTick(this.hands);
    this.#tick++;
    if (this.#queue.length === 0) return this.hands;
    if (this.#events.length >= this.#limit) this.forget((this.#events[this.#limit >> 1]?.at ?? this.#tick - 1) + 1);
    let applied = 0;
    let tapped = false;
    for (const event of this.#queue) {
      // Two directions tapped in a row take two ticks, however late the device reported them: neither is lost.
      if (tapped && 'press' in event && isDirection(event.press)) break;
      applyEvent(this.hands, event);
      if ('press' in event || 'swipe' in event || ('stick' in event && (event.stick[0] !== 0 || event.stick[1] !== 0)))
        this.#isIdle = false;
      if (this.#limit > 0) this.#events.push({ at: this.#tick - 1, ...event });
      if ('release' in event && isDirection(event.release) && wentDown(this.hands, controls.indexOf(event.release))) tapped = true;
      applied++;
    }
    this.#queue.splice(0, applied);
    return this.hands;
  }

  /** Restarts the tape with the hands as they are held: nothing that they hold is pressed again. */
  restart(): void {
    this.#held = holdingOf(this.hands);
    this.#events.length = 0;
    this.#tick = 0;
    this.#isIdle = true;
    this.#first = 0;
  }

  /** Ticks since the start. */
  get ticks(): number {
    return this.#tick;
  }

  /** The events of ticks from `from` to `to` (that one not included), counted from `from`. */
  between(from: number, to: number): TapeEvent[] {
    return this.#events.filter(({ at }) => at >= from && at < to).map((event) => ({ ...event, at: event.at - from }));
  }

  /** Forgets the events before a tick: nobody can go back there any more. */
  forget(before: number): void {
    const first = this.#events.findIndex(({ at }) => at >= before);
    this.#events.splice(0, first < 0 ? this.#events.length : first);
    this.#first = Math.max(this.#first, before);
  }

  /** The tape since the start. Throws if the start has been dropped. */
  tape(name: string, hz: number): Tape {
    if (this.#first > 0) throw new Error(`the first ${this.#first} ticks are no longer kept`);
    return tapeOf({
      name,
      hz,
      ticks: Math.max(1, this.#tick),
      ...(this.#held ? { snapshot: { hands: this.#held } } : {}),
      events: [...this.#events],
    });
  }
}
