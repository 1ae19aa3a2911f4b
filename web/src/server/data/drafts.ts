import type { DocumentKind } from '@zygopod/core';
import { type AnyColumn, and, eq, getTableColumns, gte, type SQL, sql } from 'drizzle-orm';
import { Problem } from '../problem.ts';
import type { Database } from './connection.ts';
import { findDocument, inUse, notInUse, type Reader, type Seen } from './documents.ts';
import { prepared } from './prepared.ts';
import type { RawJson } from './rawJson.ts';
import { documents, drafts } from './schema.ts';

export type Draft = typeof drafts.$inferSelect;

export async function getDraft(db: Reader, id: string): Promise<Draft | undefined> {
  const [draft] = await db.select().from(drafts).where(eq(drafts.document, id)).limit(1);
  return draft;
}

/**
 * Keeps a draft if the stored one (0: none) is the one that the writer knows: one that has moved on isn't overwritten but returned with a 409.
 * Versions count on through all drafts of a document. Without a base it is the newest revision.
 */
export async function putDraft(
  db: Database,
  kind: DocumentKind,
  id: string,
  file: RawJson,
  base: number | undefined,
  seen: Seen,
): Promise<Draft> {
  const kept = seen.only === undefined ? undefined : await putAtOnce(db, { kind, id, file, base, seen: seen.only });
  if (kept) return kept;
  // It can't be kept as it is: the following finds the reason.
  return db.transaction(async (tx) => {
    // The row is locked from here on; the transaction's rollback undoes the write.
    const [counted] = await tx
      .update(documents)
      .set({ drafted: sql`${documents.drafted} + 1` })
      .where(inUse(kind, id))
      .returning({ head: documents.head, version: documents.drafted });
    if (!counted) return notInUse(tx, kind, id);
    const { head, version } = counted;
    const current = await getDraft(tx, id);
    if (!seen(current?.version ?? 0)) throw new Problem(409, 'The draft was changed elsewhere', { current: current ?? null });
    if (base !== undefined && base > head) throw new Problem(422, 'The base is no revision of this document', { base, head });
    // A first draft of an older revision lacks the newest changes: both are merged first.
    if (!current && base !== undefined && base < head)
      throw new Problem(409, `Revision ${head} was saved elsewhere meanwhile`, { current: null });
    const next = { version, base: base ?? head, file };
    const [written] = await tx
      .insert(drafts)
      .values({ document: id, ...next })
      .onConflictDoUpdate({ target: drafts.document, set: { ...next, updatedAt: sql`now()` } })
      .returning();
    if (!written) throw new Error('the draft was not kept');
    return written;
  });
}

/**
 * Keeps a draft in one statement, where the one version that the writer has seen (0: none) is there; undefined, and nothing written, where
 * it isn't or anything else stands against it. An update looks at its condition again once it holds the row (PostgreSQL 15, 13.2.1), so
 * that of two writers at once the later one finds another version. Such a writer may have counted a version that no draft gets.
 */
async function putAtOnce(
  db: Database,
  { kind, id, file, base, seen }: { kind: DocumentKind; id: string; file: RawJson; base: number | undefined; seen: number },
): Promise<Draft | undefined> {
  const statement = seen > 0 ? putOver(db, base !== undefined) : putFirst(db, base !== undefined);
  const [draft] = await statement.execute({ id, kind, seen, base, file: file.text });
  return draft;
}

/** Statement that increments a draft's version, if the document is in use and its newest revision fits the base. */
function counting(db: Database, draftIsThere: SQL, fits: SQL | undefined) {
  return db.$with('counted').as(
    db
      .update(documents)
      .set({ drafted: sql`${documents.drafted} + 1` })
      .where(and(inUse(sql.placeholder('kind'), sql.placeholder('id')), fits, draftIsThere))
      .returning({ id: documents.id, head: documents.head, version: documents.drafted }),
  );
}

/** The given base, or the newest revision. */
const baseOf = (isGiven: boolean, head: AnyColumn) => (isGiven ? sql<number>`${sql.placeholder('base')}::int` : sql<number>`${head}`);

/** Replaces the known draft. */
const putOver = (db: Database, hasBase: boolean) =>
  prepared(db, `draft_over${hasBase ? '_base' : ''}`, (name) => {
    const isSeen = sql`exists (select 1 from ${drafts} where ${drafts.document} = ${sql.placeholder('id')} and ${drafts.version} = ${sql.placeholder('seen')})`;
    const counted = counting(db, isSeen, hasBase ? gte(documents.head, sql.placeholder('base')) : undefined);
    return db
      .with(counted)
      .update(drafts)
      .set({
        version: sql`${counted.version}`,
        base: baseOf(hasBase, counted.head),
        file: sql`${sql.placeholder('file')}::jsonb`,
        updatedAt: sql`now()`,
      })
      .from(counted)
      .where(and(eq(drafts.document, counted.id), eq(drafts.version, sql.placeholder('seen'))))
      .returning(getTableColumns(drafts))
      .prepare(name);
  });

/** Keeps the first draft since a revision. */
const putFirst = (db: Database, hasBase: boolean) =>
  prepared(db, `draft_first${hasBase ? '_base' : ''}`, (name) => {
    const isNone = sql`not exists (select 1 from ${drafts} where ${drafts.document} = ${sql.placeholder('id')})`;
    const counted = counting(db, isNone, hasBase ? eq(documents.head, sql.placeholder('base')) : undefined);
    return db
      .with(counted)
      .insert(drafts)
      .select((query) =>
        query
          .select({
            document: counted.id,
            version: counted.version,
            base: baseOf(hasBase, counted.head).as('base'),
            file: sql<RawJson>`${sql.placeholder('file')}::jsonb`.as('file'),
            updatedAt: sql<Date>`now()`.as('updated_at'),
          })
          .from(counted),
      )
      .onConflictDoNothing()
      .returning()
      .prepare(name);
  });

/** Deletes the known draft; one that has moved on stays, and is returned with a 409. */
export async function deleteDraft(db: Database, kind: DocumentKind, id: string, seen: Seen): Promise<void> {
  await db.transaction(async (tx) => {
    await findDocument(tx, kind, id);
    const [current] = await tx.select().from(drafts).where(eq(drafts.document, id)).limit(1).for('update');
    if (!current) throw new Problem(404, 'There is no draft');
    if (!seen(current.version)) throw new Problem(409, 'The draft was changed elsewhere', { current });
    await tx.delete(drafts).where(eq(drafts.document, id));
  });
}
