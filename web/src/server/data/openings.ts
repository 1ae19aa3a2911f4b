import { randomUUID } from 'node:crypto';
import { firstTuning, firstYard, type Ground, type Reading, readGround, readTuning, type TuningFile } from '@zygopod/core';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { log } from '../log.ts';
import { Problem } from '../problem.ts';
import type { Database } from './connection.ts';
import { getDocument, inUse } from './documents.ts';
import { getDraft } from './drafts.ts';
import { getRevision } from './revisions.ts';
import { documents, projects } from './schema.ts';

/** A document as it is opened to be worked on. */
export interface Opened<F> {
  id: string;
  /** 0: it is not on the server yet. */
  head: number;
  /** The file of the newest revision. */
  saved: F;
  /** Work that is in no revision, and the file of its base revision. */
  draft: { version: number; base: number; file: F; from: F } | null;
}

/** Initial data of every screen: a tuning on a ground, and a tape for that ground, if there is one. */
export interface Opening {
  tuning: Opened<TuningFile>;
  ground: Opened<Ground>;
  tape: { id: string; name: string } | null;
  /** The project of the address's document. */
  project: { id: string; name: string };
}

/** Initial data of a project's shelf. */
export interface ShelfOpening {
  project: { id: string; name: string; unit: 'px' | 'm'; isDemo: boolean };
}

/** Which of the two an address names; the other comes with it. */
export type Subject = 'tuning' | 'ground';

/** A database at one moment: a concurrent save is in all results of a page's opening, or in none. */
type Moment = Pick<Database, 'select'>;

/** The demo's documents were all created in one transaction, at one time: among these their file names decide. */
const oldestFirst = [asc(documents.createdAt), asc(documents.demo), asc(documents.id)];

/** The demo's documents that a first visit opens. */
const foremost: Readonly<Record<Subject, string>> = { tuning: 'carrier-day-boots.tuning.json', ground: 'boardwalk.ground.json' };

/** The document to open by default: the demo's main one, else the oldest, of a project or at all; null if there is none. */
export async function firstOf(db: Moment, subject: Subject, project?: string): Promise<string | null> {
  const [first] = await db
    .select({ id: documents.id })
    .from(documents)
    .innerJoin(projects, eq(projects.id, documents.project))
    .where(
      and(
        eq(documents.kind, subject),
        isNull(documents.putAwayAt),
        isNull(projects.putAwayAt),
        project ? eq(documents.project, project) : undefined,
      ),
    )
    .orderBy(sql`${documents.demo} = ${foremost[subject]} desc nulls last`, ...oldestFirst)
    .limit(1);
  return first?.id ?? null;
}

/**
 * Opens an address's document, with the other one that it names. A tuning without a ground opens on its last one, a ground without a tuning under the
 * demo's main one. Throws a Problem if there is no such document. Reads only, so that it doesn't block concurrent saves; `rememberGround` stores the
 * ground for the next time.
 */
export function openWith(db: Database, subject: Subject, id: string, other: string | null): Promise<Opening> {
  const open = async (moment: Moment): Promise<Opening> => {
    if (subject === 'ground') {
      const ground = await openGround(moment, id);
      const project = await projectOf(moment, id);
      const tuning = await openTuning(moment, other ?? (await needed(moment, 'tuning', project.id)));
      return { ground, tuning, tape: await tapeFor(moment, id), project };
    }
    const tuning = await openTuning(moment, id);
    const project = await projectOf(moment, id);
    const ground = await layOn(moment, id, other, project.id);
    return { tuning, ground, tape: await tapeFor(moment, ground.id), project };
  };
  return db.transaction(open, { isolationLevel: 'repeatable read', accessMode: 'read only' });
}

/**
 * Initial data of the bench in a project without tunings: a default tuning on the project's first ground, else on a yard. Neither is
 * in the database (head 0) before somebody works on it.
 */
export async function openUnsaved(db: Database, project: ShelfOpening['project']): Promise<Opening> {
  const ground = await firstOf(db, 'ground', project.id);
  const unsaved = <F>(saved: F): Opened<F> => ({ id: randomUUID(), head: 0, saved, draft: null });
  return {
    tuning: unsaved(firstTuning('New tuning', project.unit)),
    ground: ground ? await openGround(db, ground) : unsaved(firstYard(project.unit)),
    tape: ground ? await tapeFor(db, ground) : null,
    project,
  };
}

/** Remembers the ground that a tuning is worked on; a failure costs no more than that. */
export async function rememberGround(db: Database, tuning: string, ground: string): Promise<void> {
  try {
    await db
      .update(documents)
      .set({ ground })
      .where(and(inUse('tuning', tuning), sql`${documents.ground} is distinct from ${ground}`));
  } catch (error) {
    log.warn({ error: String(error) }, 'the ground of a tuning was not remembered');
  }
}

/** The project that a document belongs to. */
async function projectOf(db: Moment, document: string): Promise<Opening['project']> {
  const [project] = await db
    .select({ id: projects.id, name: projects.name })
    .from(documents)
    .innerJoin(projects, eq(projects.id, documents.project))
    .where(eq(documents.id, document))
    .limit(1);
  if (!project) throw new Problem(404, 'It belongs to no project');
  return project;
}

/** The oldest tape of a ground. */
async function tapeFor(db: Moment, ground: string): Promise<Opening['tape']> {
  const [tape] = await db
    .select({ id: documents.id, name: documents.name })
    .from(documents)
    .where(and(eq(documents.kind, 'tape'), eq(documents.ground, ground), isNull(documents.putAwayAt)))
    .orderBy(...oldestFirst)
    .limit(1);
  return tape ?? null;
}

const openTuning = (db: Moment, id: string) =>
  openDocument<TuningFile>(db, 'tuning', id, (file) => {
    const read = readTuning(file);
    return read.ok ? { ok: true, value: read.value.file } : read;
  });
const openGround = (db: Moment, id: string) => openDocument<Ground>(db, 'ground', id, readGround);

/** A document with its draft. A draft that cannot be read is left out. */
async function openDocument<F>(db: Moment, kind: Subject, id: string, read: (file: unknown) => Reading<F>): Promise<Opened<F>> {
  const document = await getDocument(db, kind, id);
  const saved = read(document.file.read());
  if (!saved.ok) throw new Error(`revision ${document.head} of ${id} does not read: ${JSON.stringify(saved.faults)}`);
  const draft = await getDraft(db, id);
  const kept = draft && read(draft.file.read());
  const from = draft && read((draft.base < document.head ? await getRevision(db, id, draft.base) : document).file.read());
  return {
    id,
    head: document.head,
    saved: saved.value,
    draft: draft && kept?.ok && from?.ok ? { version: draft.version, base: draft.base, file: kept.value, from: from.value } : null,
  };
}

/** The ground of a tuning: the requested one; else its last one; else the demo's first. */
async function layOn(db: Moment, tuning: string, wanted: string | null, project: string): Promise<Opened<Ground>> {
  if (wanted) return openGround(db, wanted);
  const [{ ground: known = null } = {}] = await db.select({ ground: documents.ground }).from(documents).where(eq(documents.id, tuning));
  return openGround(db, known && (await isInUse(db, known)) ? known : await needed(db, 'ground', project));
}

async function needed(db: Moment, subject: Subject, project: string): Promise<string> {
  const first = (await firstOf(db, subject, project)) ?? (await firstOf(db, subject));
  if (!first) throw new Error(`there is no ${subject}`);
  return first;
}

async function isInUse(db: Moment, id: string): Promise<boolean> {
  const [found] = await db.select({ id: documents.id }).from(documents).where(inUse('ground', id)).limit(1);
  return found !== undefined;
}
