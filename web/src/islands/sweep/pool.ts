import type { Sweep, SweepDefinition } from '@zygopod/core';
import { Desk } from '../../workers/desk.ts';
import type { SweepApi } from '../../workers/sweep.ts';

/** A worker for sweeps. */
export const sweepDesk = (): Desk<SweepApi> =>
  new Desk<SweepApi>(() => new Worker(new URL('../../workers/sweep.ts', import.meta.url), { type: 'module' }));

/** Cells of a first chunk, and the milliseconds that a later one should take. */
const FIRST = 4;
const CHUNK = 60;
const MOST = 400;

/** Workers in a page: a core is left for the page itself. */
const workerCount = (): number => Math.max(1, (navigator.hardwareConcurrency || 2) - 1);

/** Measures sweeps with the page's workers, one sweep at a time. */
export class SweepPool {
  readonly desks = Array.from({ length: workerCount() }, sweepDesk);
  /** The sweep that is under way; another one makes workers drop the results of this. */
  #current: Sweep | null = null;

  /** Measures all cells; `took` is called after each chunk. Resolves with true once all are done, with false if it was stopped; rejects if a worker fails. */
  async run(sweep: Sweep, took: () => void): Promise<boolean> {
    this.#current = sweep;
    await Promise.all(this.desks.map((desk) => this.#feed(desk, sweep, took)));
    return this.#current === sweep;
  }

  async #feed(desk: Desk<SweepApi>, sweep: Sweep, took: () => void): Promise<void> {
    const definition: SweepDefinition = sweep.definition;
    await desk.call((remote) => remote.begin(definition));
    for (let size = FIRST; this.#current === sweep; ) {
      const cells = sweep.next(size);
      if (cells.length === 0) return;
      const begun = performance.now();
      const chunk = await desk.call((remote) => remote.measure(cells));
      if (this.#current !== sweep) return;
      sweep.take(chunk);
      took();
      size = Math.max(1, Math.min(MOST, Math.round((size * CHUNK) / Math.max(1, performance.now() - begun))));
    }
  }

  /** Stops the sweep that is under way; its cells stay. */
  stop(): void {
    this.#current = null;
  }

  /** Ends the workers. */
  end(): void {
    this.stop();
    for (const desk of this.desks) desk.stop();
  }
}
