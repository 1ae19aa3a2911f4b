import { createHash } from 'node:crypto';
import { and, asc, desc, eq, gt, or, sql } from 'drizzle-orm';
import type { Database } from './connection.ts';
import { Problem } from './problem.ts';
import { documents, drafts, type Kind, revisions } from './schema.ts';

/** A document as the API gives it. */
type Document = typeof documents.$inferSelect;
type Revision = typeof revisions.$inferSelect;
type Draft = typeof drafts.$inferSelect;

/** A database, or a transaction on it. */
type Reader = Pick<Database, 'select'>;

/** Text with keys in order, so that equal files have equal hashes. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  if (typeof value === 'object' && value !== null)
    return `{${Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, v]) => `${JSON.stringify(key)}:${canonical(v)}`)
      .join(',')}}`;
  return JSON.stringify(value);
}

function hashFile(file: unknown): string {
  return createHash('sha256').update(canonical(file)).digest('hex');
}

interface Creation {
  project: string;
  file: { name: string };
  note?: string;
  demo?: string;
}

/** Makes a document with its first revision. */
export async function createDocument(db: Database, kind: Kind, { project, file, note = '', demo }: Creation): Promise<Document> {
  return db.transaction(async (tx) => {
    const [document] = await tx.insert(documents).values({ project, kind, name: file.name, head: 1, demo }).returning();
    if (!document) throw new Error('the document was not made');
    await tx.insert(revisions).values({ document: document.id, number: 1, note, hash: hashFile(file), file });
    return document;
  });
}

/** A page of documents of a kind, oldest first; `after` is the id of the last one seen. */
export async function listDocuments(
  db: Database,
  kind: Kind,
  limit: number,
  after?: string,
): Promise<{ items: Document[]; next: string | null }> {
  const [cursor] = after ? await db.select().from(documents).where(eq(documents.id, after)).limit(1) : [];
  if (after && !cursor) throw new Problem(400, 'Unknown cursor', { path: 'after' });
  const since =
    cursor && or(gt(documents.createdAt, cursor.createdAt), and(eq(documents.createdAt, cursor.createdAt), gt(documents.id, cursor.id)));
  const items = await db
    .select()
    .from(documents)
    .where(and(eq(documents.kind, kind), since))
    .orderBy(asc(documents.createdAt), asc(documents.id))
    .limit(limit + 1);
  const page = items.slice(0, limit);
  return { items: page, next: items.length > limit ? (page.at(-1)?.id ?? null) : null };
}

/** A document with the file of its newest revision. */
export async function getDocument(db: Database, kind: Kind, id: string): Promise<Document & { file: unknown }> {
  const [row] = await db
    .select({ document: documents, file: revisions.file })
    .from(documents)
    .innerJoin(revisions, and(eq(revisions.document, documents.id), eq(revisions.number, documents.head)))
    .where(and(eq(documents.id, id), eq(documents.kind, kind)))
    .limit(1);
  if (!row) throw new Problem(404, `No ${kind} has this id`);
  return { ...row.document, file: row.file };
}

export async function listRevisions(db: Database, id: string): Promise<Omit<Revision, 'file'>[]> {
  const { id: revisionId, document, number, parent, note, hash, createdAt } = revisions;
  return db
    .select({ id: revisionId, document, number, parent, note, hash, createdAt })
    .from(revisions)
    .where(eq(document, id))
    .orderBy(desc(number));
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

export async function getDraft(db: Reader, id: string): Promise<Draft | undefined> {
  const [draft] = await db.select().from(drafts).where(eq(drafts.document, id)).limit(1);
  return draft;
}

/**
 * Keeps a draft. `version` is the one that the writer last saw, 0 where there was none: a draft that moved on meanwhile is
 * not overwritten but handed back with a 409. Versions count on through all drafts that a document has had.
 */
export async function putDraft(db: Database, id: string, file: unknown, base: number, version: number): Promise<Draft> {
  return db.transaction(async (tx) => {
    const [counted] = await tx
      .update(documents)
      .set({ drafted: sql`${documents.drafted} + 1` })
      .where(eq(documents.id, id))
      .returning({ drafted: documents.drafted });
    if (!counted) throw new Problem(404, 'Nothing has this id');
    const next = { document: id, version: counted.drafted, base, file };
    const [written] =
      version === 0
        ? await tx.insert(drafts).values(next).onConflictDoNothing().returning()
        : await tx
            .update(drafts)
            .set({ ...next, updatedAt: sql`now()` })
            .where(and(eq(drafts.document, id), eq(drafts.version, version)))
            .returning();
    if (written) return written;
    throw new Problem(409, 'The draft was changed elsewhere', { current: (await getDraft(tx, id)) ?? null });
  });
}

/** Throws away the draft that the writer last saw; one that moved on meanwhile stays, and is handed back with a 409. */
export async function deleteDraft(db: Database, id: string, version: number): Promise<void> {
  const gone = await db
    .delete(drafts)
    .where(and(eq(drafts.document, id), eq(drafts.version, version)))
    .returning({ version: drafts.version });
  if (gone.length > 0) return;
  const current = await getDraft(db, id);
  if (current) throw new Problem(409, 'The draft was changed elsewhere', { current });
  throw new Problem(404, 'There is no draft');
}

/** A revision that was saved, and a draft that it did not end: somebody else's. */
export type Saved = Revision & { draft: Draft | null };

/**
 * Adds a revision on top of `parent`, which has to be the newest, and ends the draft whose version is named (0: none): another one
 * holds what the saver has not seen, and stays. One transaction: all of it or nothing.
 */
export async function saveRevision(
  db: Database,
  id: string,
  file: { name: string },
  note: string,
  parent: number,
  draft: number,
): Promise<Saved> {
  return db.transaction(async (tx) => {
    const [document] = await tx
      .update(documents)
      .set({ head: parent + 1, name: file.name, updatedAt: sql`now()` })
      .where(and(eq(documents.id, id), eq(documents.head, parent)))
      .returning();
    if (!document) {
      const [current] = await tx.select().from(documents).where(eq(documents.id, id)).limit(1);
      if (!current) throw new Problem(404, 'Nothing has this id');
      throw new Problem(409, `Revision ${current.head} was saved elsewhere meanwhile`, {
        current: await getRevision(tx, id, current.head),
      });
    }
    const [revision] = await tx
      .insert(revisions)
      .values({ document: id, number: parent + 1, parent, note, hash: hashFile(file), file })
      .returning();
    if (!revision) throw new Error('the revision was not made');
    await tx.delete(drafts).where(and(eq(drafts.document, id), eq(drafts.version, draft)));
    return { ...revision, draft: (await getDraft(tx, id)) ?? null };
  });
}

/** Removes a document whose newest revision is `head`, the one that the writer last saw; with a newer one it stays (409). */
export async function deleteDocument(db: Database, kind: Kind, id: string, head: number): Promise<void> {
  const gone = await db
    .delete(documents)
    .where(and(eq(documents.id, id), eq(documents.kind, kind), eq(documents.head, head)))
    .returning({ id: documents.id });
  if (gone.length > 0) return;
  const current = await getDocument(db, kind, id);
  throw new Problem(409, `Revision ${current.head} was saved elsewhere meanwhile`, { current });
}
