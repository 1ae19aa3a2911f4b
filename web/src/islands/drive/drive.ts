import { FrameClock, type FramePattern, type Ground, gaits, type Parameters, Recorder, type WallBuckets, World } from '@zygopod/core';
import { atom } from 'nanostores';

/** Seconds of trace that the bench keeps at 60 ticks a second: ten minutes. */
const KEPT = 60 * 600;
/** A stalled page does not catch up more than this (s), so that it cannot spiral. */
const LONGEST_FRAME = 0.1;
/** Stillness (s) after which time stops running on. */
const REST_AFTER = 0.4;

/**
 * The world under the driver's hands. `advance` runs whole ticks for the time that a frame brought; what is left over
 * (0…1 of a tick) tells the drawing how far to go from the last state but one to the last.
 */
export class Drive {
  readonly world: World;
  readonly recorder = new Recorder();
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
  /** Grows with every change of the ground: what is drawn from it is then drawn anew. */
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
    this.world = new World(parameters, ground, KEPT);
  }

  /** Part of a tick that has gone by since the last one; a per-frame tick is whole when it is drawn. */
  get fraction(): number {
    return this.#perFrame ? 1 : this.#left / this.world.dt;
  }

  get #perFrame(): boolean {
    return this.world.parameters.clock.stepping === 'perFrame';
  }

  /** The row to show: the newest, or the one looked back at. */
  get row(): number {
    const back = this.$lookBack.get();
    return back === null ? this.world.trace.end - 1 : Math.min(Math.max(back, this.world.trace.first), this.world.trace.end - 1);
  }

  /** A device has said something: time runs, and the view comes back to the present. */
  wake(): void {
    this.#still = 0;
    if (this.$lookBack.get() !== null) this.$lookBack.set(null);
    if (!this.$running.get()) this.$running.set(true);
  }

  /** Runs the ticks of `elapsed` seconds, in frames of the display or of the chosen pattern. */
  advance(elapsed: number): void {
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
    this.#still = this.#atRest() ? this.#still + elapsed : 0;
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
      if (seconds > 0) this.world.tickFrame(this.recorder.next(), seconds);
      return;
    }
    this.#left += seconds;
    for (const { dt } = this.world; this.#left >= dt; this.#left -= dt) this.world.tick(this.recorder.next());
  }

  /** The tuning has changed: time runs on if something is not at rest any more. */
  refresh(): void {
    this.#still = 0;
    if (!this.$running.get() && !this.#atRest()) this.$running.set(true);
  }

  /** Nothing would change: no hands, no speed, the bar full. */
  #atRest(): boolean {
    const { body, parameters } = this.world;
    const { hands } = this.recorder;
    return (
      gaits[body.gaitIndex] === 'stand' &&
      hands.held.every((order) => order === 0) &&
      hands.stickX === 0 &&
      hands.stickY === 0 &&
      (!parameters.stamina.enabled || body.gaitStamina >= parameters.stamina.max) &&
      body.facingAngle === body.facingGoal &&
      this.#cameraAtRest() &&
      body.intentAmount === 0 &&
      body.routeActive === 0 &&
      body.stepPhase === 0
    );
  }

  /** Whether the view has come to rest: within a hundredth of a unit of where it was a tick ago. */
  #cameraAtRest(): boolean {
    const { trace } = this.world;
    const row = trace.end - 1;
    if (row <= trace.first) return true;
    const moved = (column: 'cameraX' | 'cameraY') => Math.abs(trace.at(column, row) - trace.at(column, row - 1));
    return moved('cameraX') < 0.01 && moved('cameraY') < 0.01;
  }

  /** Back to the start; the trace and the tape begin again. */
  restart(): void {
    const start = this.$start.get();
    const { ground } = this.world;
    this.groundVersion++;
    if (start) this.world.setGround({ ...ground, start: { ...ground.start, ...start } });
    else this.world.restart();
    this.recorder.restart();
    this.#left = 0;
    this.wake();
  }

  /** The ground is changed under the body; its walls have been sorted before. */
  changeGround(ground: Ground, walls: WallBuckets): void {
    this.#ground = ground;
    this.groundVersion++;
    this.world.changeGround(ground, walls);
    this.refresh();
  }

  /** From now on starts where the body is, or where the ground says. */
  startHere(here: boolean): void {
    const motion = this.world.body;
    this.$start.set(here ? { x: Number(motion.x.toFixed(2)), y: Number(motion.y.toFixed(2)) } : null);
    if (here) return;
    this.groundVersion++;
    this.world.setGround(this.#ground);
  }
}
