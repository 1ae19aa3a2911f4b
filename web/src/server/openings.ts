import { type Ground, readGround, readTuning, type TuningFile } from '@zygopod/core';
import { and, asc, eq, sql } from 'drizzle-orm';
import type { Database } from './connection.ts';
import { getDocument, getDraft, listDocuments } from './documents.ts';
import { documents, type Kind } from './schema.ts';

/** What the bench is opened with. */
export interface Opening {
  id: string;
  head: number;
  /** The file of the newest revision. */
  saved: TuningFile;
  draft: { version: number; base: number; file: TuningFile } | null;
  ground: { id: string; file: Ground };
  /** What else can be laid on the bench. */
  tunings: Named[];
  grounds: Named[];
}

export interface Named {
  id: string;
  name: string;
}

/** The tuning that a first visit opens: the demo's main one, else the oldest there is. */
export async function firstTuning(db: Database): Promise<string | null> {
  const [first] = await db
    .select({ id: documents.id })
    .from(documents)
    .where(eq(documents.kind, 'tuning'))
    .orderBy(sql`${documents.demo} = 'carrier-day-boots.tuning.json' desc nulls last`, asc(documents.createdAt))
    .limit(1);
  return first?.id ?? null;
}

/** A tuning with its draft, on a ground: the one asked for, else the demo's first. */
export async function openBench(db: Database, id: string, groundId: string | null): Promise<Opening> {
  const tuning = await getDocument(db, 'tuning', id);
  const saved = readTuning(tuning.file);
  if (!saved.ok) throw new Error(`revision ${tuning.head} of ${id} does not read: ${JSON.stringify(saved.faults)}`);
  const draft = await getDraft(db, id);
  const kept = draft && readTuning(draft.file);
  const ground = await getDocument(db, 'ground', groundId ?? (await firstGround(db)));
  const groundFile = readGround(ground.file);
  if (!groundFile.ok) throw new Error(`ground ${ground.id} does not read: ${JSON.stringify(groundFile.faults)}`);
  return {
    id,
    head: tuning.head,
    saved: saved.value.file,
    draft: draft && kept?.ok ? { version: draft.version, base: draft.base, file: kept.value.file } : null,
    ground: { id: ground.id, file: groundFile.value },
    tunings: await named(db, 'tuning'),
    grounds: await named(db, 'ground'),
  };
}

async function named(db: Database, kind: Kind): Promise<Named[]> {
  const { items } = await listDocuments(db, kind, 200);
  return items.map(({ id, name }) => ({ id, name }));
}

async function firstGround(db: Database): Promise<string> {
  const [ground] = await db
    .select({ id: documents.id })
    .from(documents)
    .where(and(eq(documents.kind, 'ground')))
    .orderBy(sql`${documents.demo} = 'boardwalk.ground.json' desc nulls last`, asc(documents.createdAt))
    .limit(1);
  if (!ground) throw new Error('there is no ground');
  return ground.id;
}
