import { World } from '../motion/world.ts';
import type { Hands } from '../tape/hands.ts';
import { type HeldHands, holdingOf } from '../tape/held.ts';
import type { Recorder } from '../tape/recorder.ts';
import { Replay } from '../tape/replay.ts';
import { type Tape, type TapeSnapshot, tapeOf } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { cutTape } from './cut.ts';

/** A state that one can go back to. */
interface Mark {
  /** Ticks since the recorder's start: the state is that after so many. */
  tick: number;
  snapshot: TapeSnapshot;
  /** The tuning driven from here on. */
  parameters: Parameters;
}

/** Seconds between two marks, and seconds that are kept. */
const EVERY = 5;
const KEPT = 600;
/** Maximum number of marks: a number dragged while driving sets one every tick. */
const MOST = 600;

/**
 * Records a drive all the while: the hands tick by tick in the recorder, and here the states that one can go back to, one every few
 * seconds and one at each change of the tuning. Memory is bounded: ten minutes of marks (about 200 numbers each) and the recorder's events.
 */
export class Recording {
  readonly #world: World;
  readonly #recorder: Recorder;
  #marks: Mark[] = [];

  constructor(world: World, recorder: Recorder) {
    this.#world = world;
    this.#recorder = recorder;
    this.begin();
  }

  /** Restarts: the world and the recorder have been started, or placed. */
  begin(): void {
    this.#marks = [];
    this.mark();
  }

  /** Called after every tick. */
  note(): void {
    const last = this.#marks.at(-1);
    const { hz } = this.#world.parameters.clock;
    if (last && this.#recorder.ticks - last.tick < EVERY * hz) return;
    this.mark();
    const oldest = this.#recorder.ticks - KEPT * hz;
    const kept = this.#marks.findLastIndex(({ tick }) => tick <= oldest);
    if (kept <= 0) return;
    this.#marks.splice(0, kept);
    this.#recorder.forget((this.#marks[0] as Mark).tick);
  }

  /** Marks the state as it is: called where the tuning or the ground has been changed. */
  mark(): void {
    const { ticks: tick } = this.#recorder;
    if (this.#marks.at(-1)?.tick === tick) this.#marks.pop();
    this.#marks.push({ tick, snapshot: this.#world.snapshot(this.#holding()), parameters: this.#world.parameters });
    if (this.#marks.length > MOST) this.#marks.shift();
  }

  /** The first tick that a tape can begin with. */
  get first(): number {
    return this.#marks.find(({ tick }) => tick >= this.#recorder.first)?.tick ?? this.#recorder.ticks;
  }

  /** Ticks from which another tuning was driven. */
  get changes(): number[] {
    return this.#marks.flatMap(({ tick, parameters }, i) => (i > 0 && parameters !== this.#marks[i - 1]?.parameters ? [tick] : []));
  }

  /** Ticks at which the tuning or the ground was changed or a mark was set. */
  get marks(): readonly number[] {
    return this.#marks.map(({ tick }) => tick);
  }

  /**
   * A tape of the ticks from `from` to `to` (that one not included), counted from the recorder's start, limited to the kept ones. With the tuning of
   * its first tick it replays the drive bit for bit, as long as the tuning was not changed in between. Null if there is no tick.
   */
  cut(name: string, from: number, to: number): Tape | null {
    const first = Math.max(this.first, Math.round(from));
    const end = Math.min(this.#recorder.ticks, Math.round(to));
    const mark = this.#marks.findLast(({ tick }) => tick <= first);
    if (!mark || end <= first) return null;
    const whole = this.#tapeFrom(name, mark, end);
    if (mark.tick === first) return whole;
    // Between two marks the state is found by driving there again.
    const world = new World(mark.parameters, this.#world.ground, 1, this.#world.walls);
    world.takeNavigator(this.#world.navigator);
    return cutTape(whole, first - mark.tick, end - mark.tick, world);
  }

  /** The beginning of all that is kept: its tick, the state there, and the rate. */
  get beginning(): { tick: number; snapshot: TapeSnapshot; hz: number } | null {
    const mark = this.#marks.find(({ tick }) => tick >= this.#recorder.first);
    return mark ? { tick: mark.tick, snapshot: mark.snapshot, hz: mark.parameters.clock.hz } : null;
  }

  /** The hands as they were in a tick that is kept. */
  handsAt(tick: number): Hands {
    const mark = this.#marks.findLast((one) => one.tick <= tick) ?? (this.#marks[0] as Mark);
    const replay = new Replay(this.#tapeFrom('Hands', mark, Math.max(tick, mark.tick + 1)), mark.parameters.clock.hz);
    for (let at = mark.tick; at < tick; at++) replay.next();
    return replay.hands;
  }

  #tapeFrom(name: string, mark: Mark, end: number): Tape {
    return tapeOf({
      name,
      ground: this.#world.ground.name,
      scheme: mark.parameters.scheme,
      hz: mark.parameters.clock.hz,
      ticks: end - mark.tick,
      snapshot: mark.snapshot,
      events: this.#recorder.between(mark.tick, end),
    });
  }

  #holding(): HeldHands {
    return holdingOf(this.#recorder.hands) ?? {};
  }
}
