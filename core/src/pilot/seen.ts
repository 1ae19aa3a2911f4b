import { exp, wrapAngle } from '../math/functions.ts';
import type { Trace } from '../motion/trace.ts';
import type { Skills } from './skills.ts';

/** Commands that are remembered: more than can be given within a reaction. */
const REMEMBERED = 16;

/** Below this lag (s) the velocity follows at once. */
const NO_LAG = 1e-4;

/**
 * What the pilot sees of the body: its state as it was a reaction ago, carried forward by the pilot's own commands (a velocity that follows each
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

  /** Remembers a command: the velocity that it leads to, and a rate of turning. */
  command(time: number, vx: number, vy: number, turn = 0): void {
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
    this.facing = (trace.at('facing', row) * Math.PI) / 180;
    this.stamina = trace.at('stamina', row);
    let time = trace.at('time', row);
    // The command in force at that time, and those after it.
    let k = this.#count - 1;
    const oldest = Math.max(0, this.#count - REMEMBERED);
    while (k > oldest && (this.#at[k % REMEMBERED] as number) > time) k--;
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

  #advance(i: number, dt: number, drives: boolean): void {
    const { lag } = this.#skills;
    if (drives) {
      this.x += this.vx * dt;
      this.y += this.vy * dt;
      this.facing = wrapAngle(this.facing + (this.#turn[i] as number) * dt);
      return;
    }
    const [ux, uy] = [this.#vx[i] as number, this.#vy[i] as number];
    const kept = lag > NO_LAG ? exp(-dt / lag) : 0;
    const [dx, dy] = [this.vx - ux, this.vy - uy];
    this.x += ux * dt + dx * lag * (1 - kept);
    this.y += uy * dt + dy * lag * (1 - kept);
    this.vx = ux + dx * kept;
    this.vy = uy + dy * kept;
  }
}
