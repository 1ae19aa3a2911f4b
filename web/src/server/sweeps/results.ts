import { axesOf, cellsOver, readSweep } from '@zygopod/core';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Database } from '../data/connection.ts';
import { findDocument, getDocument, type Reader } from '../data/documents.ts';
import { RawJson } from '../data/rawJson.ts';
import { documents } from '../data/schema.ts';
import { sweepResults } from '../data/sweepTables.ts';
import { Problem } from '../problem.ts';
import { findRun } from './runs.ts';

/** A document that a sweep was measured from: a tuning, a target set or a ground. Revision 0: with changes that were in none. */
export interface MeasuredFrom {
  id: string;
  revision: number;
}

/** Measured cells of a whole sweep, from coarse to fine, as in a chunk. */
interface Measured {
  values: Buffer;
  met: Buffer;
  holes: readonly unknown[];
}

/** The result of a kept sweep: measured by a run, or given whole. */
export interface ResultValues {
  revision: number;
  from: readonly MeasuredFrom[];
  run: string | null;
  measured: Measured | null;
}

export type ResultRow = typeof sweepResults.$inferSelect;

/** The documents that a result was measured from. */
const fromOf = ({ from }: Pick<ResultRow, 'from'>) => from.read() as MeasuredFrom[];

/** Checks that a result has the cells and metrics of its sweep. */
async function checkShape(db: Database, file: unknown, { run, measured }: ResultValues, core: string): Promise<string> {
  const read = readSweep(file);
  if (!read.ok) throw new Problem(422, 'The sweep can’t be read', { faults: read.faults });
  const cells = cellsOver(axesOf(read.value));
  if (run !== null) {
    const one = await findRun(db, run);
    if (one?.state !== 'done') throw new Problem(422, 'The run isn’t there, or isn’t done', { run });
    if (one.cells !== cells) throw new Problem(422, `The run has ${one.cells} cells; the sweep has ${cells}`);
    return one.core;
  }
  const size = cells * read.value.metrics.length * Float64Array.BYTES_PER_ELEMENT;
  if (measured?.values.length !== size || measured.met.length !== cells)
    throw new Problem(422, `values: expected ${size} bytes and met ${cells}, for ${cells} cells of ${read.value.metrics.length} metrics`);
  return core;
}

/** Stores what was measured of a sweep, in place of what was before. `core`: the version that measured it, if no run did. */
export async function putResult(db: Database, id: string, result: ResultValues, core: string): Promise<ResultRow> {
  const document = await getDocument(db, 'sweep', id);
  if (document.head !== result.revision)
    throw new Problem(409, `The sweep is at revision ${document.head}; this result belongs to ${result.revision}`);
  const values = {
    revision: result.revision,
    core: await checkShape(db, document.file.read(), result, core),
    from: new RawJson(JSON.stringify(result.from)),
    run: result.run,
    values: result.measured?.values ?? null,
    met: result.measured?.met ?? null,
    holes: result.measured ? new RawJson(JSON.stringify(result.measured.holes)) : null,
  };
  const [row] = await db
    .insert(sweepResults)
    .values({ sweep: id, ...values })
    .onConflictDoUpdate({ target: sweepResults.sweep, set: { ...values, createdAt: sql`now()` } })
    .returning();
  return row as ResultRow;
}

/** Returns the result of a sweep; null if nothing is kept. */
export async function getResult(db: Database, id: string): Promise<ResultRow | null> {
  await findDocument(db, 'sweep', id);
  const [row] = await db.select().from(sweepResults).where(eq(sweepResults.sweep, id));
  return row ?? null;
}

/** The documents and versions that have changed since results were measured, by sweep: their ids, or `core`. */
export async function changedSince(
  db: Reader,
  rows: readonly Pick<ResultRow, 'sweep' | 'revision' | 'core' | 'from'>[],
  core: string,
): Promise<Map<string, string[]>> {
  const sources = (row: (typeof rows)[number]) => [{ id: row.sweep, revision: row.revision }, ...fromOf(row)];
  const ids = [...new Set(rows.flatMap(sources).map(({ id }) => id))];
  const heads =
    ids.length === 0 ? [] : await db.select({ id: documents.id, head: documents.head }).from(documents).where(inArray(documents.id, ids));
  const headOf = new Map(heads.map(({ id, head }) => [id, head]));
  return new Map(
    rows.map((row) => [
      row.sweep,
      [...sources(row).flatMap(({ id, revision }) => (headOf.get(id) === revision ? [] : [id])), ...(row.core === core ? [] : ['core'])],
    ]),
  );
}

/** The results of a project's sweeps, without their values. */
export const listResults = (db: Reader, project: string) =>
  db
    .select({
      sweep: sweepResults.sweep,
      revision: sweepResults.revision,
      core: sweepResults.core,
      from: sweepResults.from,
      createdAt: sweepResults.createdAt,
    })
    .from(sweepResults)
    .innerJoin(documents, eq(documents.id, sweepResults.sweep))
    .where(and(eq(documents.project, project), isNull(documents.putAwayAt)));
