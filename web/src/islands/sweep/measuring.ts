import type { QueuedSweep, Sweep } from '@zygopod/core';
import { atom } from 'nanostores';
import { SweepPool } from './pool.ts';
import { idle, type Progress } from './progress.ts';
import { runOnQueue } from './queue.ts';

/** The sweep that is shown; a new object with each change of its cells. */
export interface Swept {
  sweep: Sweep;
}

/** Milliseconds between pictures while cells come in. */
const PICTURE = 120;
/** Cells that a picture draws in a millisecond, about: a large one is drawn less often. */
const CELLS_A_MS = 100;

/** Measures sweeps, one at a time, by the page's workers or on the queue. */
export class Measuring {
  readonly $swept = atom<Swept | null>(null);
  readonly $progress = atom<Progress>(idle);
  readonly #pool = new SweepPool();
  #queued: AbortController | null = null;
  /** Settles once the last sweep on the queue is over, or stopped there. */
  #over: Promise<unknown> = Promise.resolve();

  get workers(): number {
    return this.#pool.desks.length;
  }

  /** Measures a sweep in place of the one before: on the queue, where it is `over` these axes, or, with null, in the page. */
  async measure(sweep: Sweep, over: readonly string[] | null): Promise<void> {
    this.stop();
    const begun = performance.now();
    let shown = Number.NEGATIVE_INFINITY;
    let [on, early]: [QueuedSweep | null, number] = [null, 0];
    const report = (state: Progress['state'], why = '') => {
      const took = (performance.now() - begun) / 1000;
      // Cells that were measured before say nothing about the rate.
      const fresh = sweep.done - early;
      const left = state === 'running' && fresh > 0 ? (took * (sweep.cells - sweep.done)) / fresh : null;
      this.$progress.set({ state, done: sweep.done, cells: sweep.cells, left, took, on, why });
      this.$swept.set({ sweep });
    };
    const isOwn = () => this.$swept.get()?.sweep === sweep;
    report('running');
    try {
      const took = () => {
        if (performance.now() - shown < Math.max(PICTURE, sweep.cells / CELLS_A_MS)) return;
        shown = performance.now();
        report('running');
      };
      const tookQueued = (run: QueuedSweep) => {
        if (on === null) early = sweep.done;
        on = run;
        took();
      };
      const isWhole = over ? await this.#runQueued(sweep, over, tookQueued) : await this.#pool.run(sweep, took);
      if (isOwn()) report(isWhole ? 'done' : 'stopped');
    } catch (error) {
      if (isOwn()) report('failed', error instanceof Error ? error.message : String(error));
    }
  }

  /** Measures a sweep on the queue, after the one before has stopped there: a stop that came late would stop this one, too. */
  #runQueued(sweep: Sweep, over: readonly string[], took: (run: QueuedSweep) => void): Promise<boolean> {
    const queued = new AbortController();
    this.#queued = queued;
    const running = this.#over.then(() => (queued.signal.aborted ? false : runOnQueue(sweep, over, took, queued.signal)));
    this.#over = running.catch(() => undefined);
    return running;
  }

  /** Shows a sweep that was measured before. */
  show(sweep: Sweep): void {
    this.stop();
    this.$swept.set({ sweep });
    this.$progress.set({ ...idle, state: sweep.done === sweep.cells ? 'done' : 'stopped', done: sweep.done, cells: sweep.cells });
  }

  /** Stops the sweep; what is measured stays. */
  stop(): void {
    this.#pool.stop();
    this.#queued?.abort();
  }

  /** Ends the page's workers. */
  end(): void {
    this.#pool.end();
  }
}
