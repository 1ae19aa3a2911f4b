import { and, asc, eq, isNotNull, isNull, ne, sql } from 'drizzle-orm';
import { Problem } from '../problem.ts';
import type { Database } from './connection.ts';
import { findDocument, inUse, notInUse, type Reader, type Seen } from './documents.ts';
import type { RawJson } from './rawJson.ts';
import { documents, sourceNames, sources } from './schema.ts';

export type SourceRow = typeof sources.$inferSelect;

async function rowOf(db: Reader, tuning: string): Promise<SourceRow | undefined> {
  const [row] = await db.select().from(sources).where(eq(sources.document, tuning)).limit(1);
  return row;
}

/** The source that is kept with a tuning, if there is one. */
export async function getSource(db: Reader, tuning: string): Promise<SourceRow | undefined> {
  await findDocument(db, 'tuning', tuning);
  return rowOf(db, tuning);
}

/** A source to be kept, and which parameters were chosen by hand for its names. */
export interface SourceValues {
  source: RawJson;
  path: string | null;
  chosen: Readonly<Record<string, string | null>>;
}

/**
 * Keeps a source with a tuning if the stored one (0: none) is the one that the writer knows; else 409 with that one. Choices made by hand are stored
 * with the project.
 */
export function putSource(
  db: Database,
  tuning: string,
  { source, path, chosen }: SourceValues,
  seen: Seen,
): Promise<{ row: SourceRow; isFirst: boolean }> {
  return db.transaction(async (tx) => {
    // Whoever writes a tuning's source holds its row.
    const [document] = await tx
      .select({ head: documents.head, project: documents.project })
      .from(documents)
      .where(inUse('tuning', tuning))
      .for('update', { of: documents });
    if (!document) return notInUse(tx, 'tuning', tuning);
    const current = await rowOf(tx, tuning);
    if (!seen(current?.version ?? 0)) throw new Problem(409, 'The source was changed elsewhere', { current: current ?? null });
    if (path !== null && (await isLinked(tx, document.project, tuning, path)))
      throw new Problem(422, 'Another tuning of the project is linked to this file', { path });
    const next = { version: sql<number>`nextval('source_versions')`, revision: document.head, source, path };
    const [row] = await tx
      .insert(sources)
      .values({ document: tuning, ...next })
      .onConflictDoUpdate({ target: sources.document, set: { ...next, updatedAt: sql`now()` } })
      .returning();
    await rememberNames(tx, document.project, chosen);
    if (!row) throw new Error('the source was not kept');
    return { row, isFirst: current === undefined };
  });
}

/** True if another tuning in use of a project is linked to a file. */
async function isLinked(db: Reader, project: string, tuning: string, path: string): Promise<boolean> {
  const [other] = await db
    .select({ id: sources.document })
    .from(sources)
    .innerJoin(documents, eq(documents.id, sources.document))
    .where(and(eq(documents.project, project), isNull(documents.putAwayAt), eq(sources.path, path), ne(sources.document, tuning)))
    .limit(1);
  return other !== undefined;
}

/** Deletes the source of a tuning if it is the one that the writer knows. */
export function deleteSource(db: Database, tuning: string, seen: Seen): Promise<void> {
  return db.transaction(async (tx) => {
    await findDocument(tx, 'tuning', tuning);
    const [current] = await tx.select().from(sources).where(eq(sources.document, tuning)).for('update');
    if (!current) throw new Problem(404, 'No source is kept with this tuning');
    if (!seen(current.version)) throw new Problem(409, 'The source was changed elsewhere', { current });
    await tx.delete(sources).where(eq(sources.document, tuning));
  });
}

/** The sources of a project's tunings in use that are linked to a file of its folder, by their places. */
export async function linkedSources(db: Database, project: string): Promise<SourceRow[]> {
  const rows = await db
    .select({ row: sources })
    .from(sources)
    .innerJoin(documents, eq(documents.id, sources.document))
    .where(and(eq(documents.project, project), isNull(documents.putAwayAt), isNotNull(sources.path)))
    .orderBy(asc(sources.path), asc(sources.document));
  return rows.map(({ row }) => row);
}

/** Stores which parameters were chosen by hand for names, with the project. */
export async function rememberNames(db: Pick<Database, 'insert'>, project: string, chosen: SourceValues['chosen']): Promise<void> {
  const names = Object.entries(chosen).map(([name, parameter]) => ({ project, name, parameter }));
  if (names.length === 0) return;
  await db
    .insert(sourceNames)
    .values(names)
    .onConflictDoUpdate({ target: [sourceNames.project, sourceNames.name], set: { parameter: sql`excluded.parameter` } });
}

/** The parameters chosen by hand for the names of a project's sources; null: none. */
export async function chosenNames(db: Database, project: string): Promise<Record<string, string | null>> {
  const rows = await db.select().from(sourceNames).where(eq(sourceNames.project, project)).orderBy(asc(sourceNames.name));
  return Object.fromEntries(rows.map(({ name, parameter }) => [name, parameter]));
}
