import type { DocumentKind } from '@zygopod/core';
import { and, desc, eq, getTableColumns, ilike, isNotNull, isNull, lt, or, type Placeholder, sql } from 'drizzle-orm';
import { Problem } from '../problem.ts';
import { announce } from './changes.ts';
import type { Database } from './connection.ts';
import { prepared } from './prepared.ts';
import type { RawJson } from './rawJson.ts';
import { documents, projects, revisions } from './schema.ts';

const { numbers: _, ...shown } = getTableColumns(documents);

/** A document as the API gives it: its numbers are for searches alone. */
type Document = Omit<typeof documents.$inferSelect, 'numbers'>;

/** A database, or a transaction on it. */
export type Reader = Pick<Database, 'select'>;

/** True if a reader is the database itself, and no transaction on it. */
const isDatabase = (db: Reader): db is Database => '$client' in db;

/** A file that was judged good: its name, its text, and the SHA-256 of its canonical text. */
export interface JudgedFile {
  name: string;
  file: RawJson;
  hash: string;
  line: string;
  numbers: RawJson;
}

interface Creation extends JudgedFile {
  /** One that the asker has drawn; one is drawn here where it is absent. */
  id?: string | undefined;
  project: string;
  note?: string;
  demo?: string;
}

/** Makes a document with its first revision. An id that a document has already is 409. */
export async function createDocument(db: Database, kind: DocumentKind, creation: Creation): Promise<Document> {
  const { id, project, name, file, hash, line, numbers, note = '', demo } = creation;
  return db.transaction(async (tx) => {
    const [document] = await tx
      .insert(documents)
      .values({ ...(id === undefined ? {} : { id }), project, kind, name, line, numbers, head: 1, demo })
      .onConflictDoNothing({ target: documents.id })
      .returning(shown);
    if (!document) throw new Problem(409, 'A document has this id already', { id });
    await tx.insert(revisions).values({ document: document.id, number: 1, note, hash, file });
    await announce(tx, { kind, id: document.id, head: 1, is: 'made' });
    return document;
  });
}

/** The start of a page of a list: after the document with this time and id, whether it still exists or not. */
export interface Place {
  createdAt: Date;
  id: string;
}

interface Listing {
  limit: number;
  /** Those of one project. */
  project?: string | undefined;
  after?: Place | undefined;
  /** Part of the name, in capitals or not. */
  q?: string | undefined;
  /** Archived ones, instead of those in use. */
  away?: boolean;
}

/** A page of documents of a kind, newest first, and the place where the next one begins. */
export async function listDocuments(
  db: Reader,
  kind: DocumentKind,
  { limit, project, after, q, away = false }: Listing,
): Promise<{ items: Document[]; next: Place | null }> {
  const { createdAt, id, name, putAwayAt } = documents;
  const beyond = after && or(lt(createdAt, after.createdAt), and(eq(createdAt, after.createdAt), lt(id, after.id)));
  const named = q ? ilike(name, `%${q.replace(/[\\%_]/g, '\\$&')}%`) : undefined;
  const items = await db
    .select(shown)
    .from(documents)
    .where(
      and(
        eq(documents.kind, kind),
        project ? eq(documents.project, project) : undefined,
        away ? isNotNull(putAwayAt) : isNull(putAwayAt),
        inUsedProject,
        beyond,
        named,
      ),
    )
    .orderBy(desc(createdAt), desc(id))
    .limit(limit + 1);
  const page = items.slice(0, limit);
  const last = page.at(-1);
  return { items: page, next: items.length > limit && last ? { createdAt: last.createdAt, id: last.id } : null };
}

/** A document in use; archived or unknown ones are 404. */
export async function findDocument(db: Reader, kind: DocumentKind, id: string): Promise<Document> {
  const [found] = await db
    .select({ document: shown, projectAway: projects.putAwayAt })
    .from(documents)
    .innerJoin(projects, eq(projects.id, documents.project))
    .where(and(eq(documents.id, id), eq(documents.kind, kind)))
    .limit(1);
  return foundInUse(kind, found);
}

/** The document that a query found, if it is in use. Throws a 404 that says why it is not. */
function foundInUse(kind: DocumentKind, found: { document: Document; projectAway: Date | null } | undefined): Document {
  if (!found) throw new Problem(404, `No ${kind} has this id`);
  const { document, projectAway } = found;
  if (document.putAwayAt) throw new Problem(404, `This ${kind} is archived`, { putAwayAt: document.putAwayAt });
  if (projectAway) throw new Problem(404, `The project of this ${kind} is archived`, { putAwayAt: projectAway, project: document.project });
  return document;
}

const withNewest = (db: Reader, kind: DocumentKind | Placeholder, id: string | Placeholder) =>
  db
    .select({ document: shown, projectAway: projects.putAwayAt, file: revisions.file })
    .from(documents)
    .innerJoin(projects, eq(projects.id, documents.project))
    .innerJoin(revisions, and(eq(revisions.document, documents.id), eq(revisions.number, documents.head)))
    .where(and(eq(documents.id, id), eq(documents.kind, kind)))
    .limit(1);

/** A document with the file of its newest revision. */
export async function getDocument(db: Reader, kind: DocumentKind, id: string): Promise<Document & { file: RawJson }> {
  const [found] = isDatabase(db)
    ? await prepared(db, 'document', (name) => withNewest(db, sql.placeholder('kind'), sql.placeholder('id')).prepare(name)).execute({
        kind,
        id,
      })
    : await withNewest(db, kind, id);
  const document = foundInUse(kind, found);
  // The compiler can't know that what was found in use was found.
  return { ...document, file: (found as NonNullable<typeof found>).file };
}

/** Condition: the project of a document is in use. */
const inUsedProject = sql`exists (select 1 from ${projects} where ${projects.id} = ${documents.project} and ${projects.putAwayAt} is null)`;

/** Condition: a document has this kind and id, and is in use together with its project. */
export const inUse = (kind: DocumentKind | Placeholder, id: string | Placeholder) =>
  and(eq(documents.id, id), eq(documents.kind, kind), isNull(documents.putAwayAt), inUsedProject);

/** Says why a document that a writer wanted is not in use. */
export async function notInUse(db: Reader, kind: DocumentKind, id: string): Promise<never> {
  await findDocument(db, kind, id);
  throw new Problem(404, `No ${kind} has this id`);
}

/** True if a version is one that the writer knows. */
export interface Seen {
  (version: number): boolean;
  /** The version, if only one is possible (0: none). */
  only?: number;
}

/**
 * Archives a document whose newest revision the writer knows, and returns its number; with a newer one it stays (409). Its history and draft are
 * kept.
 */
export async function archive(db: Database, kind: DocumentKind, id: string, seen: Seen): Promise<number> {
  return db.transaction(async (tx) => {
    const current = await getDocument(tx, kind, id);
    const [away] = await tx.update(documents).set({ putAwayAt: sql`now()` }).where(inUse(kind, id)).returning({ head: documents.head });
    if (!away) throw new Problem(404, `This ${kind} was archived in the meantime`);
    if (!seen(away.head)) throw new Problem(409, `Revision ${away.head} was saved elsewhere meanwhile`, { current });
    await announce(tx, { kind, id, head: away.head, is: 'away' });
    return away.head;
  });
}

/** The row of an archived document, locked; 404 if there is none, 409 if it is in use. */
async function holdAway(tx: Reader, kind: DocumentKind, id: string): Promise<Document> {
  const [document] = await tx
    .select(shown)
    .from(documents)
    .where(and(eq(documents.id, id), eq(documents.kind, kind)))
    .limit(1)
    .for('update');
  if (!document) throw new Problem(404, `No ${kind} has this id`);
  if (!document.putAwayAt) throw new Problem(409, `This ${kind} is in use, not archived`, { current: document });
  return document;
}

/** Takes a document back into use, with all that it had. */
export async function restore(db: Database, kind: DocumentKind, id: string): Promise<Document> {
  return db.transaction(async (tx) => {
    await holdAway(tx, kind, id);
    const [document] = await tx.update(documents).set({ putAwayAt: null }).where(eq(documents.id, id)).returning(shown);
    if (!document) throw new Error('the document was not restored');
    await announce(tx, { kind, id, head: document.head, is: 'back' });
    return document;
  });
}

/** Deletes an archived document with its history, permanently. */
export async function removeForever(db: Database, kind: DocumentKind, id: string, seen: Seen): Promise<void> {
  await db.transaction(async (tx) => {
    const document = await holdAway(tx, kind, id);
    if (!seen(document.head)) throw new Problem(409, `Revision ${document.head} is the newest`, { current: document });
    await tx.delete(documents).where(eq(documents.id, id));
  });
}
