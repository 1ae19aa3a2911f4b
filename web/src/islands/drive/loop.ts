import { cutTape, type Ground, type Hands, type Parameters, Replay, Rerun, rerun, type Tape, World } from '@zygopod/core';
import { atom } from 'nanostores';

/** Ticks that are driven again at most: ten minutes at a rate of 144 Hz. */
const MOST = 86_400;

/** Ticks that are driven again at once, whatever it takes; the rest of a long tape comes with the frames, so many ms in each, a piece at a time. */
const AT_ONCE = 2000;
const SLICE = 9;
const PIECE = 250;

/** How fast a loop can play. */
export const paces = [1, 0.5, 0.25] as const;
export type Pace = (typeof paces)[number];

/**
 * A tape that plays over and over on a ground. With every change of the tuning all of it is driven again at once (the first half minute or
 * so; the rest of a longer one within the next frames), so that what is shown is always what these hands do with the numbers as they are; what they do with the other tuning (the last revision, or while that is shown
 * the present numbers) goes along as a ghost.
 */
export class Loop {
  readonly tape: Tape;
  /** The original loop: the same object as long as it is only edited. */
  readonly source: Tape;
  readonly $playing = atom(true);
  readonly $pace = atom<Pace>(1);
  /** Cost of the last replay: ticks, ghost included, and ms. */
  readonly $cost = atom<{ ticks: number; milliseconds: number }>({ ticks: 0, milliseconds: 0 });
  /** Grows with every driving again. */
  version = 0;
  readonly #ground: Ground;
  #again!: Rerun;
  #ghost: Rerun | null = null;
  /** Seconds since the tape's beginning. */
  #time = 0;
  #hands: { replay: Replay; row: number } | null = null;

  /** `from` is the loop in whose place this one comes: it goes on at the same moment. */
  constructor(tape: Tape, ground: Ground, parameters: Parameters, other: Parameters | null, known: World, from: Loop | null = null) {
    this.tape = tape;
    this.source = from?.source ?? tape;
    this.#ground = ground;
    if (from) {
      this.$playing.set(from.$playing.get());
      this.$pace.set(from.$pace.get());
      this.#time = from.#time;
      this.version = from.version;
    }
    this.run(parameters, other, known);
  }

  /** The tape as it was driven last; its trace holds all of it. */
  get world(): World {
    return this.#again.world;
  }

  /** The same hands on the other tuning, where that is another. */
  get ghost(): World | null {
    return this.#ghost?.world ?? null;
  }

  /** Replays the tape. `known` has prepared walls and paths of the ground. */
  run(parameters: Parameters, other: Parameters | null, known: World): void {
    const begun = performance.now();
    this.#again = new Rerun(this.tape, parameters, this.#ground, { known, most: MOST });
    this.#ghost = other && new Rerun(this.tape, other, this.#ground, { known, most: MOST });
    this.#again.run(AT_ONCE);
    this.#ghost?.run(AT_ONCE);
    this.#hands = null;
    this.#emitCost(performance.now() - begun);
    this.#time = Math.min(this.#time, this.length);
  }

  #emitCost(milliseconds: number): void {
    this.$cost.set({ ticks: this.#again.done + (this.#ghost?.done ?? 0), milliseconds });
    this.version++;
  }

  /** Drives on the rest of a long tape, as much as a frame has time for. */
  #goOn(): void {
    const left = () => [this.#again, this.#ghost].find((one) => one && one.done < one.ticks);
    if (!left()) return;
    const begun = performance.now();
    for (let one = left(); one && performance.now() - begun < SLICE; one = left()) one.run(PIECE);
    this.#emitCost(this.$cost.get().milliseconds + performance.now() - begun);
  }

  /** Numbers of the tape's snapshot that this core does not know: it only begins near where it did. */
  get unknown(): readonly string[] {
    return this.#again.unknown;
  }

  /** True if all of it is driven, ghost included. */
  get isWhole(): boolean {
    return [this.#again, this.#ghost].every((one) => !one || one.done === one.ticks);
  }

  /** Length of the tape, s. */
  get length(): number {
    return this.#again.ticks / this.#again.world.parameters.clock.hz;
  }

  /** Time of the trace at which the tape begins, s. */
  get begins(): number {
    return this.world.trace.at('time', 0);
  }

  /** The moment shown, as a time of the trace, s. */
  get now(): number {
    return this.begins + this.#time;
  }

  advance(elapsed: number): void {
    this.#goOn();
    if (!this.$playing.get()) return;
    this.#time += elapsed * this.$pace.get();
    if (this.#time > this.length) this.#time = this.length > 0 ? this.#time % this.length : 0;
  }

  /** The row whose tick the moment shown lies in. */
  get row(): number {
    const { trace } = this.world;
    return Math.min(trace.rowAt(this.now - 1e-9), trace.end - 1);
  }

  /** Part of that tick that has gone by. */
  get fraction(): number {
    const { trace } = this.world;
    const { row } = this;
    if (row === 0) return 1;
    const before = trace.at('time', row - 1);
    return Math.min(1, Math.max(0, (this.now - before) / (trace.at('time', row) - before)));
  }

  /** Goes to a row and stays there. */
  goTo(row: number): void {
    const { trace } = this.world;
    this.$playing.set(false);
    this.#time = trace.at('time', Math.max(0, Math.min(trace.end - 1, row))) - this.begins;
  }

  /** The hands as they are in a row. */
  handsAt(row: number): Hands {
    if (!this.#hands || this.#hands.row > row) this.#hands = { replay: new Replay(this.tape, this.world.parameters.clock.hz), row: 0 };
    const at = this.#hands;
    for (; at.row < row; at.row++) at.replay.next();
    return at.replay.hands;
  }

  /** A span of it (s) as a tape of its own, with the state that the tuning gives the body at its start; null if it holds no tick. */
  cut(name: string, span: { from: number; to: number }): Tape | null {
    const { parameters, walls } = this.world;
    // A tape of another rate than the tuning's has no ticks to be cut at.
    if (parameters.clock.hz !== this.tape.hz) return null;
    const tickAt = (time: number) => Math.min(this.tape.ticks, Math.max(0, Math.round((time - this.begins) * this.tape.hz)));
    const [from, to] = [tickAt(Math.min(span.from, span.to)), tickAt(Math.max(span.from, span.to))];
    if (to <= from) return null;
    return { ...cutTape(this.tape, from, to, new World(parameters, this.#ground, 1, walls)), name };
  }

  /** The world as it is in a row. */
  worldAt(row: number): World {
    return rerun(this.tape, this.world.parameters, this.#ground, { known: this.world, most: row });
  }
}
