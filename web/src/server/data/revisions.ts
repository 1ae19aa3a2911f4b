import type { DocumentKind } from '@zygopod/core';
import { and, desc, eq, lt, sql } from 'drizzle-orm';
import { Problem } from '../problem.ts';
import { announce } from './changes.ts';
import type { Database } from './connection.ts';
import { findDocument, inUse, type JudgedFile, notInUse, type Reader, type Seen } from './documents.ts';
import { type Draft, getDraft } from './drafts.ts';
import { documents, drafts, revisions } from './schema.ts';

type Revision = typeof revisions.$inferSelect;

/** A page of a document's history, newest first, without the files; `before` is the last number of the page before. */
export async function listRevisions(
  db: Reader,
  id: string,
  limit: number,
  before?: number,
): Promise<{ items: Omit<Revision, 'file'>[]; next: number | null }> {
  const { id: revisionId, document, number, parent, note, name, hash, createdAt } = revisions;
  const items = await db
    .select({ id: revisionId, document, number, parent, note, name, hash, createdAt })
    .from(revisions)
    .where(and(eq(document, id), before === undefined ? undefined : lt(number, before)))
    .orderBy(desc(number))
    .limit(limit + 1);
  const page = items.slice(0, limit);
  return { items: page, next: items.length > limit ? (page.at(-1)?.number ?? null) : null };
}

export async function getRevision(db: Reader, id: string, number: number): Promise<Revision> {
  const [revision] = await db
    .select()
    .from(revisions)
    .where(and(eq(revisions.document, id), eq(revisions.number, number)))
    .limit(1);
  if (!revision) throw new Problem(404, `There is no revision ${number}`);
  return revision;
}

/**
 * Adds a revision to the newest one, which must be the one that the writer knows, and ends the draft with the given version (0: none): another one
 * has unknown content, stays, and is returned. One transaction: all of it or nothing.
 */
export async function saveRevision(
  db: Database,
  kind: DocumentKind,
  id: string,
  { name, file, hash, line, numbers }: JudgedFile,
  note: string,
  seen: Seen,
  draft: number,
): Promise<Revision & { draft: Draft | null }> {
  return db.transaction(async (tx) => {
    // The row is locked from here on; the transaction's rollback undoes the write.
    const [document] = await tx
      .update(documents)
      .set({ head: sql`${documents.head} + 1`, name, line, numbers, updatedAt: sql`now()` })
      .where(inUse(kind, id))
      .returning({ head: documents.head });
    if (!document) return notInUse(tx, kind, id);
    const parent = document.head - 1;
    if (!seen(parent))
      throw new Problem(409, `Revision ${parent} was saved elsewhere meanwhile`, { current: await getRevision(tx, id, parent) });
    const [revision] = await tx.insert(revisions).values({ document: id, number: document.head, parent, note, hash, file }).returning();
    if (!revision) throw new Error('the revision was not created');
    await announce(tx, { kind, id, head: revision.number, is: 'saved' });
    await tx.delete(drafts).where(and(eq(drafts.document, id), eq(drafts.version, draft)));
    return { ...revision, draft: (await getDraft(tx, id)) ?? null };
  });
}

/** Calls a revision by a name; an empty one takes that back. */
export async function nameRevision(
  db: Database,
  kind: DocumentKind,
  id: string,
  number: number,
  name: string,
): Promise<Omit<Revision, 'file'>> {
  await findDocument(db, kind, id);
  const [revision] = await db
    .update(revisions)
    .set({ name })
    .where(and(eq(revisions.document, id), eq(revisions.number, number)))
    .returning();
  if (!revision) throw new Problem(404, `There is no revision ${number}`);
  const { file: _, ...head } = revision;
  return head;
}
