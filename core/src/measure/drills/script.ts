import type { Control } from '../../tape/controls.ts';
import type { HandsEvent } from '../../tape/hands.ts';
import { type Tape, tapeOf } from '../../tape/tape.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';

/** Ticks of a drill's run at the most: what takes longer ends there. */
export const MOST_TICKS = 20_000;

/** Seconds for which a click is held. */
export const CLICK = 0.05;

/** Hands written down in seconds, by what they are to do, for the scheme that reads them. */
export class Script {
  readonly #hz: number;
  readonly #scheme: Parameters['scheme'];
  readonly #events: { at: number; event: HandsEvent }[] = [];

  constructor({ clock, scheme }: Pick<Parameters, 'clock' | 'scheme'>) {
    this.#hz = clock.hz;
    this.#scheme = scheme;
  }

  /** The control that moves ahead, to the right of the ground: a body under turn and drive faces that direction. */
  get ahead(): Control {
    return this.#scheme === 'turn' ? 'up' : 'right';
  }

  get back(): Control {
    return this.#scheme === 'turn' ? 'down' : 'left';
  }

  say(at: number, ...events: HandsEvent[]): this {
    for (const event of events) this.#events.push({ at: Math.round(at * this.#hz), event });
    return this;
  }

  press(at: number, ...controls: Control[]): this {
    return this.say(at, ...controls.map((press) => ({ press })));
  }

  release(at: number, ...controls: Control[]): this {
    return this.say(at, ...controls.map((release) => ({ release })));
  }

  /** Asks for nothing any more. What was pressed once goes on in scheme latch: it is planted. */
  stop(at: number, ...held: Control[]): this {
    this.release(at, ...held);
    return this.#scheme === 'latch' ? this.press(at, 'plant').release(at + 0.1, 'plant') : this;
  }

  click(at: number, x: number, y: number): this {
    return this.say(at, { point: [x, y] }, { press: 'pointer' }).release(at + CLICK, 'pointer');
  }

  /** The tape of all that, so many seconds long, at least one tick and not over the limit. */
  tape(name: string, seconds: number): Tape {
    const ticks = Math.max(1, Math.min(MOST_TICKS, Math.round(seconds * this.#hz)));
    const events = this.#events
      .filter(({ at }) => at < ticks)
      .sort((a, b) => a.at - b.at)
      .map(({ at, event }) => ({ at, ...event }));
    return tapeOf({ name, hz: this.#hz, ticks, events });
  }
}
