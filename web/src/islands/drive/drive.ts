import {
  FrameClock,
  type FramePattern,
  type Ground,
  type Hands,
  type HandsEvent,
  type Parameters,
  Recorder,
  Recording,
  type Tape,
  type WallBuckets,
  World,
} from '@zygopod/core';
import { atom } from 'nanostores';
import type { DriveListener } from './listener.ts';
import { Loop } from './loop.ts';
import { isAtRest } from './rest.ts';

/** Seconds of trace that the bench keeps at 60 ticks a second: ten minutes. */
const KEPT = 60 * 600;
/** A stalled page does not catch up more than this (s), so that it cannot spiral. */
const LONGEST_FRAME = 0.1;
/** Name of an unnamed tape. */
export const JUST_NOW = 'Just now';
const EARLIER = 'Before the restart';
/** Stillness (s) after which time stops running on. */
const REST_AFTER = 0.4;

/**
 * The world under the driver's hands. `advance` runs whole ticks for a frame's time; the rest (0…1 of a tick) places the drawing between the last two
 * states.
 */
export class Drive {
  readonly recorder = new Recorder();
  readonly #live: World;
  listener: DriveListener | null = null;
  readonly #recording: Recording;
  /** The tape that plays instead of the hands, if one does. */
  readonly $loop = atom<Loop | null>(null);
  /** The drive that ended with the last restart, if it was one. */
  readonly $earlier = atom<Tape | null>(null);
  /** Last pointer and stick input while a tape plays. */
  #heard: HandsEvent[] = [];
  #other: Parameters | null = null;
  /** The row under look when the driver looks back, else null. */
  readonly $lookBack = atom<number | null>(null);
  /** True while time runs. */
  readonly $running = atom(true);
  /** Frames as the display gives them, or in a pattern that shows what other frame rates do. */
  readonly $frames = atom<FramePattern | 'display'>('display');
  /** Where to start instead of the ground's own start. */
  readonly $start = atom<{ x: number; y: number } | null>(null);
  /** True while the yard shows what a player would see. */
  readonly $throughCamera = atom(false);
  /** Grows with every change of the ground: drawings of it are then redrawn. */
  groundVersion = 0;
  #left = 0;
  /** Time that waits for the next frame of a pattern, s; and that frame's length. */
  #waiting = 0;
  #frame = 0;
  #pattern: FrameClock | null = null;
  #still = 0;

  #ground: Ground;

  constructor(parameters: Parameters, ground: Ground) {
    this.#ground = ground;
    this.#live = new World(parameters, ground, KEPT);
    this.#recording = new Recording(this.#live, this.recorder);
  }

  /** Where the recording begins, for whoever keeps it; null if nothing was driven. */
  get beginning(): Recording['beginning'] {
    return this.recorder.isIdle ? null : this.#recording.beginning;
  }

  /** Times of the trace (s) at which the tuning was changed. */
  get changes(): number[] {
    const { trace } = this.world;
    if (this.$loop.get()) return [];
    return this.#recording.changes
      .map((tick) => trace.end - 1 - (this.recorder.ticks - tick))
      .filter((row) => row > trace.first)
      .map((row) => trace.at('time', row));
  }

  /** The world under the hands, also while a tape plays. */
  get live(): World {
    return this.#live;
  }

  /** The world that is shown: the one under the hands, or that of the tape that plays. */
  get world(): World {
    return this.$loop.get()?.world ?? this.#live;
  }

  /** The hands that move it, at the moment shown. */
  get hands(): Hands {
    const loop = this.$loop.get();
    if (loop) return loop.handsAt(this.row);
    if (this.$lookBack.get() === null) return this.recorder.hands;
    return this.#recording.handsAt(this.recorder.ticks - (this.#live.trace.end - 1 - this.row));
  }

  /** Part of a tick that has gone by since the last one; a per-frame tick is whole when it is drawn. */
  get fraction(): number {
    const loop = this.$loop.get();
    if (loop) return loop.fraction;
    return this.#perFrame ? 1 : this.#left / this.#live.dt;
  }

  get #perFrame(): boolean {
    return this.#live.parameters.clock.stepping === 'perFrame';
  }

  /** The row to show: the newest, or the selected one. */
  get row(): number {
    const back = this.$lookBack.get();
    const newest = this.$loop.get()?.row ?? this.world.trace.end - 1;
    return back === null ? newest : Math.min(Math.max(back, this.world.trace.first), this.world.trace.end - 1);
  }

  /** A device has said something: time runs, and the view comes back to the present. */
  wake(): void {
    this.#still = 0;
    if (this.$lookBack.get() !== null) this.$lookBack.set(null);
    if (!this.$running.get()) this.$running.set(true);
  }

  /** Takes a device's input. While a tape plays, a press, a push or a swipe takes over from it. */
  say(event: HandsEvent): void {
    const loop = this.$loop.get();
    if (!loop) {
      this.recorder.push(event);
      this.wake();
      return;
    }
    const takes = 'press' in event || 'swipe' in event || ('stick' in event && (event.stick[0] !== 0 || event.stick[1] !== 0));
    if (takes) this.#takeOver(loop);
    if (takes) this.recorder.push(event);
    else {
      const kind = 'point' in event ? 'point' : 'stick' in event ? 'stick' : null;
      if (kind) this.#heard = this.#heard.filter((other) => !(kind in other));
      this.#heard.push(event);
    }
  }

  /** Plays the ticks of a span of the trace, s, or a tape, over and over; false if there is nothing to play. */
  loop(what: Tape | { from: number; to: number }): boolean {
    const tape = 'events' in what ? what : this.cut(JUST_NOW, what);
    if (!tape) return false;
    this.$lookBack.set(null);
    this.$loop.set(new Loop(tape, this.#live.ground, this.#live.parameters, this.#other, this.#live));
    this.$running.set(true);
    return true;
  }

  /** Plays an edited tape in place of the one that plays, from the same moment. */
  retape(tape: Tape): void {
    const loop = this.$loop.get();
    if (loop) this.$loop.set(new Loop(tape, this.#live.ground, this.#live.parameters, this.#other, this.#live, loop));
  }

  /** The span of the trace that is shown (s), or all that can be kept, as a tape; null if it holds no tick. */
  cut(name: string, span: { from: number; to: number } | null): Tape | null {
    const loop = this.$loop.get();
    if (loop) return span ? loop.cut(name, span) : { ...loop.tape, name };
    const { trace } = this.#live;
    const tickAt = (time: number) => this.recorder.ticks - (trace.end - 1 - Math.min(trace.rowAt(time), trace.end - 1));
    if (!span) return this.#recording.cut(name, this.#recording.first, this.recorder.ticks);
    return this.#recording.cut(name, tickAt(Math.min(span.from, span.to)), tickAt(Math.max(span.from, span.to)));
  }

  /** Back to where the hands left off. */
  drive(): void {
    if (!this.$loop.get()) return;
    this.$loop.set(null);
    this.#hear();
    this.wake();
  }

  /** The hands go on from the moment that is shown, with the body in the state that it has there. */
  #takeOver(loop: Loop): void {
    const world = loop.worldAt(this.row);
    this.$loop.set(null);
    this.#hear();
    this.recorder.next();
    this.#live.resume(world.snapshot({}));
    this.recorder.restart();
    this.#recording.begin();
    this.#left = 0;
    this.listener?.ended();
    this.wake();
  }

  #hear(): void {
    for (const event of this.#heard) this.recorder.push(event);
    this.#heard = [];
  }

  /** Another tuning, and the one that it is compared with, where that is another: what is shown follows at once. */
  retune(parameters: Parameters, other: Parameters | null): void {
    this.#other = other;
    if (parameters !== this.#live.parameters) {
      this.#live.setParameters(parameters);
      this.#recording.mark();
      this.listener?.retuned();
    }
    this.$loop.get()?.run(parameters, other, this.#live);
    this.refresh();
  }

  /** Runs the ticks of `elapsed` seconds, in frames of the display or of the chosen pattern. */
  advance(elapsed: number): void {
    const loop = this.$loop.get();
    if (loop) {
      loop.advance(Math.min(elapsed, LONGEST_FRAME));
      if (this.$running.get() !== loop.$playing.get()) this.$running.set(loop.$playing.get());
      return;
    }
    if (!this.$running.get()) return;
    const time = Math.min(elapsed, LONGEST_FRAME);
    if (this.#pattern === null) this.#runFrame(time);
    else {
      this.#waiting += time;
      while (this.#waiting >= this.#frame) {
        this.#waiting -= this.#frame;
        if (this.#frame > 0) this.#runFrame(this.#frame);
        this.#frame = this.#pattern.next();
      }
    }
    this.#still = isAtRest(this.#live, this.recorder.hands) ? this.#still + elapsed : 0;
    if (this.#still > REST_AFTER) this.$running.set(false);
  }

  /** Chooses the frames. */
  setFrames(frames: FramePattern | 'display'): void {
    this.$frames.set(frames);
    this.#pattern = frames === 'display' ? null : new FrameClock(frames);
    this.#waiting = 0;
    this.#frame = 0;
    this.wake();
  }

  /** One frame: a tick of its length, or the whole ticks that fit, with the rest kept. */
  #runFrame(seconds: number): void {
    if (this.#perFrame) {
      if (seconds > 0) this.#tick(() => this.#live.tickFrame(this.recorder.next(), seconds));
      return;
    }
    this.#left += seconds;
    for (const { dt } = this.#live; this.#left >= dt; this.#left -= dt) this.#tick(() => this.#live.tick(this.recorder.next()));
  }

  #tick(run: () => void): void {
    run();
    this.#recording.note();
    this.listener?.ticked();
  }

  /** The tuning has changed: time runs on if something is not at rest any more. */
  refresh(): void {
    this.#still = 0;
    if (this.$loop.get()) return;
    if (!this.$running.get() && !isAtRest(this.#live, this.recorder.hands)) this.$running.set(true);
  }

  /** Keeps the drive that a restart ends for a while: it can still be looped. */
  #keepEarlier(): void {
    const tape = this.recorder.isIdle ? null : this.cut(EARLIER, null);
    if (tape && tape.ticks > tape.hz) this.$earlier.set(tape);
  }

  /** Back to the start; the trace and the tape begin again. */
  restart(): void {
    const loop = this.$loop.get();
    if (loop) {
      loop.goTo(0);
      loop.$playing.set(true);
      return;
    }
    this.#keepEarlier();
    const start = this.$start.get();
    const { ground } = this.#live;
    this.groundVersion++;
    if (start) this.#live.setGround({ ...ground, start: { ...ground.start, ...start } });
    else this.#live.restart();
    this.recorder.restart();
    this.#recording.begin();
    this.#left = 0;
    if (start) this.listener?.ended();
    else this.listener?.began();
    this.wake();
  }

  /** The ground is changed under the body; its walls have been sorted before. */
  changeGround(ground: Ground, walls: WallBuckets): void {
    this.#ground = ground;
    this.groundVersion++;
    this.#live.changeGround(ground, walls);
    this.#recording.begin();
    this.listener?.ended();
    this.refresh();
  }

  /** From now on starts where the body is, or where the ground says. */
  startHere(here: boolean): void {
    const motion = this.#live.body;
    this.$start.set(here ? { x: Number(motion.x.toFixed(2)), y: Number(motion.y.toFixed(2)) } : null);
    this.listener?.ended();
    if (here) return;
    this.groundVersion++;
    this.#live.setGround(this.#ground);
  }
}
