import type { Ground, TuningFile } from '@zygopod/core';
import { atom } from 'nanostores';
import { Desk, GivenUp } from '../../workers/desk.ts';
import type { DrillsApi, Judgement } from '../../workers/drills.ts';

/** Milliseconds without a change after which drills are run. */
const PAUSE = 100;
/** Seconds after which drills are given up. */
const PATIENCE = 20;

interface Order {
  file: TuningFile;
  ground: Ground | null;
}

/** Has tunings drilled in a worker: one at a time, the newest order next, so that a drag never piles up work. */
export class Judge {
  readonly $judged = atom<{ of: Order; judgement: Judgement } | null>(null);
  /** Why the last tuning could not be drilled. */
  readonly $trouble = atom<string | null>(null);
  readonly desk = new Desk<DrillsApi>(() => new Worker(new URL('../../workers/drills.ts', import.meta.url), { type: 'module' }));
  /** False for a judge whose snags nobody reads: the ground isn’t surveyed then. */
  readonly #finds: boolean;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #isBusy = false;
  #next: Order | null = null;
  #last: Order | null = null;

  constructor({ finds = true } = {}) {
    this.#finds = finds;
  }

  /** Asks for a judgement once nothing has changed for a moment. */
  ask(file: TuningFile, ground: Ground | null): void {
    this.#next = { file, ground };
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.#work(), PAUSE);
  }

  /** Runs the drills of the last order again, after they failed. */
  retry(): void {
    if (this.#last) this.ask(this.#last.file, this.#last.ground);
  }

  stop(): void {
    clearTimeout(this.#timer);
    this.#next = null;
    this.desk.stop();
  }

  async #work(): Promise<void> {
    if (this.#isBusy) return;
    this.#isBusy = true;
    for (let order = this.#next; order; order = this.#next) {
      const { file, ground } = order;
      this.#next = null;
      this.#last = order;
      try {
        const judgement = await this.desk.call((remote) => remote.judge(file, ground, this.#finds), PATIENCE);
        this.$judged.set({ of: order, judgement });
        this.$trouble.set(null);
      } catch (error) {
        this.$trouble.set(error instanceof GivenUp ? error.message : String(error));
      }
    }
    this.#isBusy = false;
  }
}
