import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { resolve } from 'node:path';
import { setTimeout as pause, setImmediate as yieldNow } from 'node:timers/promises';
import { Sweep, type SweepChunk } from '@zygopod/core';
import { openDatabase } from '../data/connection.ts';
import { coreVersion } from './coreVersion.ts';
import { readDefinition, type StoredDefinition } from './definition.ts';
import { ChunkQueue, type Taken } from './queue.ts';
import { claimRest, findRun, hasChunk, missingChunks, type Run, removeWorker, reportWorker, restingRuns, storeChunk } from './runs.ts';

/**
 * A worker process: takes chunks of sweeps from the queue of DATABASE_URL, measures them, and stores the results. Runs in the web application's
 * folder. ZYGOPOD_WORKER_IDLE: seconds without work after which it ends; without it, it waits for ever.
 */
const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set');
const patience = Number(process.env['ZYGOPOD_WORKER_IDLE'] ?? Infinity);
const core = process.env['ZYGOPOD_CORE'] ?? coreVersion(resolve('../core'));

/** Milliseconds of work between two turns of the event loop, between two signs of life, and between two looks for work. */
const PIECE = 40;
const SIGN = 1000;
const LOOK = 400;
/** Milliseconds between two looks for runs that nobody works on, and seconds after which one counts as such. */
const REST = 5000;
const RESTING = 15;
/** Milliseconds after which a database that failed is tried again. */
const AGAIN = 1000;

const id = randomUUID();
const host = hostname();
const db = openDatabase(url);
const say = (line: string) => process.stderr.write(`worker ${process.pid}: ${line}\n`);
const over = new AbortController();
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => over.abort());
process.once('disconnect', () => over.abort());

/** The sweep that was measured last. */
let last: { run: Run; sweep: Sweep } | null = null;

async function sweepOf(runId: string): Promise<typeof last> {
  const run = await findRun(db, runId);
  if (run?.state !== 'running') return null;
  if (last?.run.id === runId) return { ...last, run };
  const definition = readDefinition(JSON.parse(run.definition.text) as StoredDefinition);
  if ('faults' in definition) throw new Error(`sweep ${runId}: ${definition.faults[0]}`);
  last = { run, sweep: new Sweep(definition) };
  return last;
}

/** Puts measured pieces together. */
function joined(pieces: readonly SweepChunk[], metrics: number): SweepChunk {
  const cells = pieces.flatMap((piece) => piece.cells);
  const values = new Float64Array(cells.length * metrics);
  const met = new Uint8Array(cells.length);
  let at = 0;
  for (const piece of pieces) {
    values.set(piece.values, at * metrics);
    met.set(piece.met, at);
    at += piece.cells.length;
  }
  return { cells, values, met, holes: pieces.flatMap(({ holes }) => holes) };
}

/** Measures a chunk piece by piece; null once its run is stopped or deleted. */
async function measured(job: Taken, queue: ChunkQueue, { run, sweep }: NonNullable<typeof last>): Promise<SweepChunk | null> {
  const all = sweep.chunk(job.data.number, run.chunkCells);
  const pieces: SweepChunk[] = [];
  let signed = performance.now();
  for (let at = 0, size = 1; at < all.length && !over.signal.aborted; ) {
    const begun = performance.now();
    const cells = all.slice(at, at + size);
    pieces.push(sweep.measure(cells));
    at += cells.length;
    const took = performance.now() - begun;
    if (took < PIECE / 2) size *= 2;
    else if (took > PIECE) size = Math.max(1, Math.floor((size * PIECE) / took));
    await yieldNow();
    if (performance.now() - signed < SIGN) continue;
    signed = performance.now();
    await Promise.all([queue.touch(job), reportWorker(db, id, host, core, run.id)]);
    if ((await findRun(db, run.id))?.state !== 'running') return null;
  }
  return over.signal.aborted ? null : joined(pieces, sweep.metrics.length);
}

async function work(job: Taken, queue: ChunkQueue): Promise<void> {
  const found = job.data.core === core ? await sweepOf(job.data.run) : null;
  if (found && !(await hasChunk(db, found.run.id, job.data.number))) {
    await reportWorker(db, id, host, core, found.run.id);
    const chunk = await measured(job, queue, found);
    if (chunk) await storeChunk(db, found.run, job.data.number, chunk);
    // One that ends gives its chunk back: it isn't complete, and its silence returns it to the queue.
    else if (over.signal.aborted) return;
  }
  await queue.complete(job);
}

/** Runs of another core that were refused, each named once. */
const refused = new Set<string>();

/** Sends the missing chunks of runs on which nothing happens: their jobs were lost. Names those that another core has to measure. */
async function lookAfter(queue: ChunkQueue): Promise<void> {
  for (const { id: run, core: other } of await restingRuns(db, 0)) {
    if (other === core || refused.has(run)) continue;
    say(`refuses sweep ${run}: it is measured by core ${other}, this worker has core ${core}`);
    refused.add(run);
  }
  for (const run of await restingRuns(db, RESTING))
    if (run.core === core && (await claimRest(db, run)))
      await queue.send((await missingChunks(db, run)).map((number) => ({ run: run.id, number, core })));
}

async function serve(): Promise<void> {
  let queue: ChunkQueue | null = null;
  let [worked, checked, signed, why, isBusy] = [performance.now(), 0, 0, '', false];
  while (!over.signal.aborted) {
    try {
      queue ??= await ChunkQueue.open(url as string, { core, supervise: true });
      const job = await queue.take();
      why = '';
      if (job) {
        isBusy = true;
        await work(job, queue);
        worked = performance.now();
        continue;
      }
      const now = performance.now();
      if (now - worked > patience * 1000) break;
      if (isBusy || now - signed > REST) {
        isBusy = false;
        signed = now;
        await reportWorker(db, id, host, core, null);
      }
      if (now - checked > REST) {
        checked = now;
        await lookAfter(queue);
      }
      await pause(LOOK, undefined, { signal: over.signal }).catch(() => undefined);
    } catch (error) {
      const words = error instanceof Error ? error.message : String(error);
      // Named once, though it is tried again and again.
      if (words !== why) say(words);
      why = words;
      await queue?.close().catch(() => undefined);
      queue = null;
      await pause(AGAIN, undefined, { signal: over.signal }).catch(() => undefined);
    }
  }
  await removeWorker(db, id).catch(() => undefined);
  await queue?.close().catch(() => undefined);
}

say(`core ${core}`);
await serve();
process.exit(0);
