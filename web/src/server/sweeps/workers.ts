import { type ChildProcess, spawn } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { resolve } from 'node:path';
import type { Database } from '../data/connection.ts';
import { log } from '../log.ts';
import { coreVersion } from './coreVersion.ts';
import { type ChunkJob, ChunkQueue } from './queue.ts';
import { missingChunks, type Run, restingRuns } from './runs.ts';

/** Seconds without work after which a worker of this server ends. */
const IDLE = 60;
/** Milliseconds after which one that died is started again. */
const AGAIN = 500;

let own: string | undefined;

/** Version of the core that this server's workers have. */
export function ownCore(): string {
  own ??= coreVersion(resolve('../core'));
  return own;
}

let queue: Promise<ChunkQueue> | null = null;

/** The queue, opened with the first use. */
function reach(): Promise<ChunkQueue> {
  const url = process.env['DATABASE_URL'] as string;
  queue ??= ChunkQueue.open(url, { core: ownCore(), supervise: false });
  queue.catch(() => {
    queue = null;
  });
  return queue;
}

/** Sends the chunks of a run that aren't measured yet, and sees to it that there are workers. */
export async function dispatch(db: Database, run: Run): Promise<void> {
  const jobs = (await missingChunks(db, run)).map((number): ChunkJob => ({ run: run.id, number, core: run.core }));
  await (await reach()).send(jobs);
  startWorkers();
}

const workers = new Set<ChildProcess>();
let isEnding = false;

/** Workers of this server: a core but one, or as many as ZYGOPOD_WORKERS says. */
const wanted = (): number => Number(process.env['ZYGOPOD_WORKERS'] ?? Math.max(1, availableParallelism() - 1));

/** Starts the server's workers that don't run yet. Each ends by itself once it has had nothing to do for a while. */
function startWorkers(): void {
  while (workers.size < wanted()) {
    const worker = spawn(process.execPath, [resolve('src/server/sweeps/main.ts')], {
      env: { ...process.env, ZYGOPOD_WORKER_IDLE: String(IDLE) },
      // The channel carries nothing: a worker ends when it closes, so that no kill of this process leaves one behind.
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    workers.add(worker);
    worker.channel?.unref();
    worker.unref();
    worker.on('error', (error) => log.warn({ error: error.message }, 'a worker could not be started'));
    worker.once('exit', (code) => {
      workers.delete(worker);
      if (code !== 0 && !isEnding) setTimeout(startWorkers, AGAIN).unref();
    });
  }
}

/** Starts workers if runs are under way: after a restart of the server they go on. */
export async function resumeRuns(db: Database): Promise<void> {
  const resting = await restingRuns(db, 0);
  if (resting.some(({ core }) => core === ownCore())) startWorkers();
}

for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => {
    isEnding = true;
    for (const worker of workers) worker.kill('SIGTERM');
  });
