import { type Ground, gaits, type Parameters, Recorder, World } from '@zygopod/core';
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
  #left = 0;
  #still = 0;

  constructor(parameters: Parameters, ground: Ground) {
    this.world = new World(parameters, ground, KEPT);
  }

  /** Part of a tick that has gone by since the last one. */
  get fraction(): number {
    return this.#left / this.world.dt;
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

  /** Runs the ticks of `elapsed` seconds; returns how many. */
  advance(elapsed: number): number {
    if (!this.$running.get()) return 0;
    this.#left += Math.min(elapsed, LONGEST_FRAME);
    let ticks = 0;
    for (const { dt } = this.world; this.#left >= dt; this.#left -= dt) {
      this.world.tick(this.recorder.next());
      ticks++;
    }
    this.#still = this.#atRest() ? this.#still + elapsed : 0;
    if (this.#still > REST_AFTER) this.$running.set(false);
    return ticks;
  }

  /** Nothing would change: no hands, no speed, the bar full. */
  #atRest(): boolean {
    const { state, parameters } = this.world;
    const { hands } = this.recorder;
    return (
      gaits[state.gait.gait] === 'stand' &&
      hands.held.every((order) => order === 0) &&
      hands.stickX === 0 &&
      hands.stickY === 0 &&
      (!parameters.stamina.enabled || state.gait.stamina >= parameters.stamina.max) &&
      state.facing.angle === state.facing.goal
    );
  }

  /** Back to the start of the ground; the trace and the tape begin again. */
  restart(): void {
    this.world.restart();
    this.recorder.restart();
    this.#left = 0;
    this.wake();
  }
}
