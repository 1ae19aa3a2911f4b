import { atan2, cos, exp, PI, sin, wrapAngle } from '../math/functions.ts';
import type { Trace } from '../motion/trace.ts';
import type { Skills } from './skills.ts';

/** Commands that are remembered: more than can be given within a reaction. */
const REMEMBERED = 16;

/** Rate of turning (radians/s) above which the motion turns at once. */
const FAST_TURN = 40;

/** Fraction of the walk speed above which the motion shows the heading. */
const MOVES = 0.1;

/** Seconds, besides the lag, after which a body that was sent must move. */
const BLOCKED = 0.1;

/** Below this lag (s) the velocity follows at once. */
const NO_LAG = 1e-4;

/**
 * The pilot's view of the body: its state as it was a reaction ago, carried forward by the pilot's own commands (a velocity that follows each
 * command with a first-order lag). Lengths in the ground's unit, angles in radians. Allocates nothing per tick.
 */
export class Seen {
  x = 0;
  y = 0;
  vx = 0;
  vy = 0;
  speed = 0;
  facing = 0;
  stamina = 0;
  /** Place, velocity and time as they are seen, of a reaction ago. */
  seenX = 0;
  seenY = 0;
  seenVx = 0;
  seenVy = 0;
  seenAt = 0;
  readonly #skills: Skills;
  /** Commands by time: the velocity that each leads to, and the rate of turning. */
  readonly #at = new Float64Array(REMEMBERED);
  readonly #vx = new Float64Array(REMEMBERED);
  readonly #vy = new Float64Array(REMEMBERED);
  readonly #turn = new Float64Array(REMEMBERED);
  #count = 0;

  constructor(skills: Skills) {
    this.#skills = skills;
  }

  /** Forgets all commands. */
  begin(): void {
    this.#count = 0;
  }

  /** Remembers a command: the velocity that it leads to; in scheme turn the speed of the drive, as `vx`, and the rate of turning. */
  command(time: number, vx: number, vy: number, turn = 0): void {
    // A command takes the place of those that were to come.
    while (this.#count > 0 && (this.#at[(this.#count - 1) % REMEMBERED] as number) > time) this.#count--;
    const i = this.#count++ % REMEMBERED;
    this.#at[i] = time;
    this.#vx[i] = vx;
    this.#vy[i] = vy;
    this.#turn[i] = turn;
  }

  /** Reads the row of a reaction ago, and extrapolates it to `now` (s). With `drives` the body moves along its facing. */
  look(trace: Trace, row: number, now: number, drives: boolean): void {
    this.x = trace.at('x', row);
    this.y = trace.at('y', row);
    this.vx = trace.at('vx', row);
    this.vy = trace.at('vy', row);
    this.facing = (trace.at('facing', row) * PI) / 180;
    this.stamina = trace.at('stamina', row);
    let time = trace.at('time', row);
    this.seenX = this.x;
    this.seenY = this.y;
    this.seenVx = this.vx;
    this.seenVy = this.vy;
    this.seenAt = time;
    // The command in force at that time, and those after it.
    let k = this.#count - 1;
    const oldest = Math.max(0, this.#count - REMEMBERED);
    while (k > oldest && (this.#at[k % REMEMBERED] as number) > time) k--;
    if (drives) {
      // A body that moves shows its heading by its motion; one that stands by its facing, which lags behind it.
      if (this.vx * this.vx + this.vy * this.vy > MOVES * MOVES * this.#skills.walk * this.#skills.walk)
        this.facing = atan2(this.vy, this.vx);
      else if (k >= oldest) this.facing = wrapAngle(this.facing + (this.#turn[k % REMEMBERED] as number) * this.#skills.facingLag);
    }
    if (k >= oldest && this.#isBlocked(k % REMEMBERED, time)) {
      k++;
      time = k < this.#count ? (this.#at[k % REMEMBERED] as number) : now;
    }
    for (; k >= oldest && k < this.#count; k++) {
      const end = k + 1 < this.#count ? Math.min(now, this.#at[(k + 1) % REMEMBERED] as number) : now;
      if (end > time) this.#advance(k % REMEMBERED, end - time, drives);
      time = Math.max(time, end);
    }
    if (time < now && this.#count === 0) {
      this.x += this.vx * (now - time);
      this.y += this.vy * (now - time);
    }
    this.speed = Math.sqrt(this.vx * this.vx + this.vy * this.vy);
  }

  /** True if a body stands that should long be moving: something is in its way. */
  #isBlocked(i: number, time: number): boolean {
    const { walk, lag } = this.#skills;
    const isStill = this.vx * this.vx + this.vy * this.vy < MOVES * MOVES * walk * walk;
    const isSent = this.#vx[i] !== 0 || this.#vy[i] !== 0;
    return isStill && isSent && time - (this.#at[i] as number) > 3 * lag + BLOCKED;
  }

  #advance(i: number, dt: number, drives: boolean): void {
    if (drives) {
      this.#drive(this.#vx[i] as number, this.#turn[i] as number, dt);
      return;
    }
    const ux = this.#vx[i] as number;
    const uy = this.#vy[i] as number;
    const lag = this.#skills.lag + this.#turnTime(ux, uy);
    const kept = lag > NO_LAG ? exp(-dt / lag) : 0;
    const dx = this.vx - ux;
    const dy = this.vy - uy;
    this.x += ux * dt + dx * lag * (1 - kept);
    this.y += uy * dt + dy * lag * (1 - kept);
    this.vx = ux + dx * kept;
    this.vy = uy + dy * kept;
  }

  /** Part of the time that the motion takes to turn towards a velocity, where turning is slow. */
  #turnTime(ux: number, uy: number): number {
    const { turnRate } = this.#skills;
    if (turnRate > FAST_TURN || (ux === 0 && uy === 0) || (this.vx === 0 && this.vy === 0)) return 0;
    return Math.abs(wrapAngle(atan2(uy, ux) - atan2(this.vy, this.vx))) / (2 * turnRate);
  }

  /** Turn and drive: the heading turns at a rate, the speed along it follows the drive. */
  #drive(drive: number, turn: number, dt: number): void {
    const { lag } = this.#skills;
    const pieces = Math.max(1, Math.ceil((Math.abs(turn) * dt) / 0.25));
    const part = dt / pieces;
    const kept = lag > NO_LAG ? exp(-part / lag) : 0;
    let speed = this.vx * cos(this.facing) + this.vy * sin(this.facing);
    for (let k = 0; k < pieces; k++) {
      const middle = this.facing + (turn * part) / 2;
      const distance = drive * part + (speed - drive) * lag * (1 - kept);
      this.x += distance * cos(middle);
      this.y += distance * sin(middle);
      this.facing = wrapAngle(this.facing + turn * part);
      speed = drive + (speed - drive) * kept;
    }
    this.vx = speed * cos(this.facing);
    this.vy = speed * sin(this.facing);
  }
}
