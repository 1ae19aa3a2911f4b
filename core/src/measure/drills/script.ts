import type { Control } from '../../tape/controls.ts';
import type { HandsEvent } from '../../tape/hands.ts';
import { type Tape, tapeOf } from '../../tape/tape.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';

/** Maximum length of a drill's run in ticks; longer runs are cut there. */
export const MOST_TICKS = 20_000;

/** Seconds for which a click is held: a tick and a half at 30 Hz. */
export const CLICK = 0.05;

/** Seconds for which a key is tapped: several ticks at any tick rate. */
export const TAP = 0.1;

/** A script of hands events at times in seconds, for a control scheme. */
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

  /** Releases the held controls; in scheme latch, where motion goes on, it also taps plant. */
  stop(at: number, ...held: Control[]): this {
    this.release(at, ...held);
    return this.#scheme === 'latch' ? this.press(at, 'plant').release(at + TAP, 'plant') : this;
  }

  click(at: number, x: number, y: number): this {
    return this.say(at, { point: [x, y] }, { press: 'pointer' }).release(at + CLICK, 'pointer');
  }

  /** The script's tape, of the given length in seconds: at least one tick, at most `MOST_TICKS`. */
  tape(name: string, seconds: number): Tape {
    const ticks = Math.max(1, Math.min(MOST_TICKS, Math.round(seconds * this.#hz)));
    const events = this.#events
      .filter(({ at }) => at < ticks)
      .sort((a, b) => a.at - b.at)
      .map(({ at, event }) => ({ at, ...event }));
    return tapeOf({ name, hz: this.#hz, ticks, events });
  }
}
