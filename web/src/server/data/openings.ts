import { type Ground, readGround, readTuning, type TuningFile } from '@zygopod/core';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { Database } from './connection.ts';
import { getDocument, inUse } from './documents.ts';
import { getDraft } from './drafts.ts';
import { getRevision } from './revisions.ts';
import { documents } from './schema.ts';

/** What the bench is opened with. */
export interface Opening {
  id: string;
  head: number;
  /** The file of the newest revision. */
  saved: TuningFile;
  draft: { version: number; base: number; file: TuningFile; from: TuningFile } | null;
  ground: { id: string; file: Ground };
}

/** The tuning that a first visit opens: the demo's main one, else the oldest there is. */
export async function firstTuning(db: Moment): Promise<string | null> {
  const [first] = await db
    .select({ id: documents.id })
    .from(documents)
    .where(and(eq(documents.kind, 'tuning'), isNull(documents.putAwayAt)))
    .orderBy(sql`${documents.demo} = 'carrier-day-boots.tuning.json' desc nulls last`, asc(documents.createdAt))
    .limit(1);
  return first?.id ?? null;
}

/** A tuning with its draft, on a ground. */
export async function openBench(db: Database, id: string, groundId: string | null): Promise<Opening> {
  return atOnce(db, (moment) => bench(moment, id, groundId));
}

/** A database at one moment: what others save while a page is opened is in all that it is given, or in none of it. */
type Moment = Pick<Database, 'select' | 'update'>;

function atOnce<T>(db: Database, work: (moment: Moment) => Promise<T>): Promise<T> {
  return db.transaction((tx) => work(tx), { isolationLevel: 'repeatable read' });
}

async function bench(db: Moment, id: string, groundId: string | null): Promise<Opening> {
  const tuning = await getDocument(db, 'tuning', id);
  const saved = readTuning(tuning.file.read());
  if (!saved.ok) throw new Error(`revision ${tuning.head} of ${id} does not read: ${JSON.stringify(saved.faults)}`);
  const draft = await getDraft(db, id);
  const kept = draft && readTuning(draft.file.read());
  const from = draft && readTuning(draft.base < tuning.head ? (await getRevision(db, id, draft.base)).file.read() : tuning.file.read());
  const ground = await layOn(db, tuning, groundId);
  return {
    id,
    head: tuning.head,
    saved: saved.value.file,
    draft:
      draft && kept?.ok && from?.ok ? { version: draft.version, base: draft.base, file: kept.value.file, from: from.value.file } : null,
    ground: { id: ground.id, file: ground.draft?.file ?? ground.saved },
  };
}

/** The ground that a tuning comes up on: the one asked for, which is remembered; else the one it was last on; else the demo's first. */
async function layOn(db: Moment, tuning: { id: string; ground: string | null }, asked: string | null) {
  if (asked) {
    const ground = await openGround(db, asked);
    if (asked !== tuning.ground) await db.update(documents).set({ ground: asked }).where(eq(documents.id, tuning.id));
    return ground;
  }
  const known = tuning.ground && (await isInUse(db, tuning.ground)) ? tuning.ground : null;
  return openGround(db, known ?? (await firstGround(db)));
}

async function isInUse(db: Moment, id: string): Promise<boolean> {
  const [found] = await db.select({ id: documents.id }).from(documents).where(inUse('ground', id)).limit(1);
  return found !== undefined;
}

/** A ground with its draft. */
async function openGround(db: Moment, id: string) {
  const document = await getDocument(db, 'ground', id);
  const saved = readGround(document.file.read());
  if (!saved.ok) throw new Error(`ground ${id} does not read: ${JSON.stringify(saved.faults)}`);
  const draft = await getDraft(db, id);
  const kept = draft && readGround(draft.file.read());
  const from = draft && readGround(draft.base < document.head ? (await getRevision(db, id, draft.base)).file.read() : document.file.read());
  return {
    id,
    head: document.head,
    saved: saved.value,
    draft: draft && kept?.ok && from?.ok ? { version: draft.version, base: draft.base, file: kept.value, from: from.value } : null,
  };
}

/** What the Grounds screen is opened with: a ground, and a tuning whose body is laid on it. */
export interface GroundOpening {
  ground: Awaited<ReturnType<typeof openGround>>;
  tuning: { id: string; file: TuningFile };
}

/** A ground for the Grounds screen, with the body of a tuning: the one asked for, else the demo's main one. */
export async function openGrounds(db: Database, id: string, tuningId: string | null): Promise<GroundOpening> {
  return atOnce(db, (moment) => grounds(moment, id, tuningId));
}

async function grounds(db: Moment, id: string, tuningId: string | null): Promise<GroundOpening> {
  const wanted = tuningId ?? (await firstTuning(db));
  if (!wanted) throw new Error('there is no tuning');
  const tuning = await getDocument(db, 'tuning', wanted);
  const draft = await getDraft(db, wanted);
  const read = readTuning((draft?.file ?? tuning.file).read());
  if (!read.ok) throw new Error(`tuning ${wanted} does not read: ${JSON.stringify(read.faults)}`);
  return {
    ground: await openGround(db, id),
    tuning: { id: wanted, file: read.value.file },
  };
}

/** The ground that is opened where none is asked for: the demo's first. */
export async function firstGround(db: Moment): Promise<string> {
  const [ground] = await db
    .select({ id: documents.id })
    .from(documents)
    .where(and(eq(documents.kind, 'ground'), isNull(documents.putAwayAt)))
    .orderBy(sql`${documents.demo} = 'boardwalk.ground.json' desc nulls last`, asc(documents.createdAt))
    .limit(1);
  if (!ground) throw new Error('there is no ground');
  return ground.id;
}
