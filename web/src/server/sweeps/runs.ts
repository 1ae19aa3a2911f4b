import { createHash } from 'node:crypto';
import { canonicalText, cellCost, cellsOver, type SweepChunk, type SweepDefinition } from '@zygopod/core';
import { and, asc, count, desc, eq, gt, isNotNull, lt, ne, notInArray, sql } from 'drizzle-orm';
import { announceRun } from '../data/changes.ts';
import type { Database } from '../data/connection.ts';
import { RawJson } from '../data/rawJson.ts';
import { sweepChunks, sweepResults, sweepRuns, sweepWorkers } from '../data/sweepTables.ts';
import type { StoredDefinition } from './definition.ts';

/** Milliseconds that a chunk should take, and its cells at most. */
const CHUNK = 1000;
const MOST_CELLS = 2000;
/** Runs that are kept, the newest ones. */
const MOST_RUNS = 30;
/** Seconds after which a worker that wasn't heard of counts as gone. */
const GONE = 12;

export type Run = typeof sweepRuns.$inferSelect;

/** Chunks of a run. */
const chunksOf = ({ cells, chunkCells }: Pick<Run, 'cells' | 'chunkCells'>): number => Math.ceil(cells / chunkCells);

/**
 * Adds a run, or finds the one that measures the same with the same core: results don't depend on when they are measured. One that was stopped goes
 * on. Of many runs, the oldest that aren't running, and belong to no kept sweep, are deleted with their results.
 */
export async function addRun(db: Database, stored: StoredDefinition, definition: SweepDefinition, core: string): Promise<Run> {
  const cells = cellsOver(definition.axes);
  const chunkCells = Math.max(1, Math.min(MOST_CELLS, Math.round(CHUNK / cellCost(definition))));
  const hash = createHash('sha256').update(canonicalText(stored)).digest('hex');
  const [added] = await db
    .insert(sweepRuns)
    .values({ definition: new RawJson(JSON.stringify(stored)), hash, core, cells, chunkCells, state: 'running' })
    .onConflictDoNothing()
    .returning();
  if (!added) {
    const [known] = await db
      .select()
      .from(sweepRuns)
      .where(and(eq(sweepRuns.hash, hash), eq(sweepRuns.core, core)));
    // Deleted between the two statements.
    if (!known) return addRun(db, stored, definition, core);
    return known.state === 'stopped' ? ((await setState(db, known.id, 'running')) ?? known) : known;
  }
  const kept = db.select({ id: sweepRuns.id }).from(sweepRuns).orderBy(desc(sweepRuns.createdAt)).limit(MOST_RUNS);
  const saved = db.select({ id: sweepResults.run }).from(sweepResults).where(isNotNull(sweepResults.run));
  await db.delete(sweepRuns).where(and(ne(sweepRuns.state, 'running'), notInArray(sweepRuns.id, kept), notInArray(sweepRuns.id, saved)));
  await announceRun(db, added.id);
  return added;
}

/** Counts what is on the queue: runs under way, their chunks that aren't measured, and workers that were heard of lately. */
export async function queueState(db: Database): Promise<{ sweeps: number; chunks: number; workers: number }> {
  const chunks = sql<number>`coalesce(sum(ceil(${sweepRuns.cells}::float / ${sweepRuns.chunkCells}) - ${sweepRuns.chunksDone}), 0)::int`;
  const [[runs], workers] = await Promise.all([
    db.select({ sweeps: count(), chunks }).from(sweepRuns).where(eq(sweepRuns.state, 'running')),
    listWorkers(db),
  ]);
  return { sweeps: runs?.sweeps ?? 0, chunks: runs?.chunks ?? 0, workers: workers.length };
}

/** Counts the runs that are being measured. */
export async function countRunning(db: Database): Promise<number> {
  const [row] = await db.select({ count: count() }).from(sweepRuns).where(eq(sweepRuns.state, 'running'));
  return row?.count ?? 0;
}

export async function findRun(db: Database, id: string): Promise<Run | null> {
  const [run] = await db.select().from(sweepRuns).where(eq(sweepRuns.id, id));
  return run ?? null;
}

/** Sets the state of a run that isn't done; null if there is no such run. */
export async function setState(db: Database, id: string, state: 'running' | 'stopped'): Promise<Run | null> {
  const [run] = await db
    .update(sweepRuns)
    .set({ state, progressedAt: sql`now()` })
    .where(and(eq(sweepRuns.id, id), ne(sweepRuns.state, 'done')))
    .returning();
  if (run) await announceRun(db, id);
  return run ?? findRun(db, id);
}

/** Stores a measured chunk; one that is there already, or of a run that was stopped or deleted, is dropped. */
export async function storeChunk(db: Database, run: Run, number: number, { cells, values, met, holes }: SweepChunk): Promise<void> {
  await db.transaction(async (tx) => {
    // The row is held: places are given one after the other.
    const [now] = await tx.select().from(sweepRuns).where(eq(sweepRuns.id, run.id)).for('update');
    if (now?.state !== 'running') return;
    const place = now.chunksDone + 1;
    const [added] = await tx
      .insert(sweepChunks)
      .values({
        run: run.id,
        number,
        place,
        values: Buffer.from(values.buffer, values.byteOffset, values.byteLength),
        met: Buffer.from(met.buffer, met.byteOffset, met.byteLength),
        holes: new RawJson(JSON.stringify(holes)),
      })
      .onConflictDoNothing()
      .returning({ number: sweepChunks.number });
    if (!added) return;
    await tx
      .update(sweepRuns)
      .set({
        chunksDone: place,
        cellsDone: now.cellsDone + cells.length,
        progressedAt: sql`now()`,
        state: place === chunksOf(now) ? 'done' : 'running',
      })
      .where(eq(sweepRuns.id, run.id));
    await announceRun(tx, run.id);
  });
}

export async function hasChunk(db: Database, run: string, number: number): Promise<boolean> {
  const found = await db
    .select({ number: sweepChunks.number })
    .from(sweepChunks)
    .where(and(eq(sweepChunks.run, run), eq(sweepChunks.number, number)));
  return found.length > 0;
}

/** The chunks of a run that came after a place, in their order, so many at most. */
export const listChunks = (db: Database, run: string, after: number, limit: number) =>
  db
    .select()
    .from(sweepChunks)
    .where(and(eq(sweepChunks.run, run), gt(sweepChunks.place, after)))
    .orderBy(asc(sweepChunks.place))
    .limit(limit);

/** Numbers of the chunks of a run that aren't measured. */
export async function missingChunks(db: Database, run: Run): Promise<number[]> {
  const there = await db.select({ number: sweepChunks.number }).from(sweepChunks).where(eq(sweepChunks.run, run.id));
  const done = new Set(there.map(({ number }) => number));
  return Array.from({ length: chunksOf(run) }, (_, i) => i).filter((number) => !done.has(number));
}

/** Runs under way on which nothing has happened for so many seconds. */
export const restingRuns = (db: Database, seconds: number): Promise<Run[]> =>
  db
    .select()
    .from(sweepRuns)
    .where(and(eq(sweepRuns.state, 'running'), lt(sweepRuns.progressedAt, sql`now() - make_interval(secs => ${seconds})`)));

/** Marks a run as looked after, so that not every worker does it. Returns false if somebody else was faster. */
export async function claimRest(db: Database, { id, progressedAt }: Run): Promise<boolean> {
  const claimed = await db
    .update(sweepRuns)
    .set({ progressedAt: sql`now()` })
    .where(and(eq(sweepRuns.id, id), eq(sweepRuns.progressedAt, progressedAt)))
    .returning({ id: sweepRuns.id });
  return claimed.length > 0;
}

/** Writes down that a worker is there, and what it measures. */
export async function reportWorker(db: Database, id: string, host: string, core: string, run: string | null): Promise<void> {
  const seenAt = sql`now()`;
  await db
    .insert(sweepWorkers)
    .values({ id, host, core, run, seenAt })
    .onConflictDoUpdate({ target: sweepWorkers.id, set: { run, seenAt } });
  await db.delete(sweepWorkers).where(lt(sweepWorkers.seenAt, sql`now() - interval '1 hour'`));
}

export const removeWorker = (db: Database, id: string) => db.delete(sweepWorkers).where(eq(sweepWorkers.id, id));

/** The workers that were heard of lately. */
export const listWorkers = (db: Database) =>
  db
    .select({ host: sweepWorkers.host, core: sweepWorkers.core, run: sweepWorkers.run })
    .from(sweepWorkers)
    .where(gt(sweepWorkers.seenAt, sql`now() - make_interval(secs => ${GONE})`));
