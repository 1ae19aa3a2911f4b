import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Sweep, SweepChunk } from '@zygopod/core';

/** Cells below which a worker's start takes longer than the sweep. */
const FEW = 200;
/** Cells of a chunk at first, and the milliseconds that one should take. */
const FIRST = 8;
const CHUNK = 150;

/** Measures a sweep here, or with several workers; `progress` is called with the cells that are done. */
export async function runSweep(sweep: Sweep, progress: (done: number) => void, workers = availableParallelism()): Promise<void> {
  if (sweep.cells < FEW || workers < 2) {
    while (sweep.run(FIRST)) progress(sweep.done);
    return;
  }
  const pool = Array.from({ length: workers }, () => new Worker(join(import.meta.dirname, 'worker.ts'), { workerData: sweep.definition }));
  try {
    await Promise.all(
      pool.map(
        (worker) =>
          new Promise<void>((over, fails) => {
            let [begun, size] = [performance.now(), FIRST];
            const give = () => {
              const cells = sweep.next(size);
              if (cells.length === 0) return over();
              begun = performance.now();
              worker.postMessage(cells);
            };
            worker.on('message', (chunk: SweepChunk) => {
              sweep.take(chunk);
              progress(sweep.done);
              size = Math.max(1, Math.min(500, Math.round((size * CHUNK) / Math.max(1, performance.now() - begun))));
              give();
            });
            worker.once('error', fails);
            give();
          }),
      ),
    );
  } finally {
    await Promise.all(pool.map((worker) => worker.terminate()));
  }
}
