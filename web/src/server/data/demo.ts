import { type DocumentKind, kindMarked, markOf } from '@zygopod/core';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { judged } from '../judge/judge.ts';
import { announce } from './changes.ts';
import type { Database } from './connection.ts';
import { createDocument } from './documents.ts';
import { keptOf } from './kept.ts';
import { RawJson } from './rawJson.ts';
import { getRevision, saveRevision } from './revisions.ts';
import { documents, projects, revisions } from './schema.ts';

/** The files of the demo folder, taken into the build. */
const files = import.meta.glob<{ default: { name: string } }>('../../../../demo/*.{tuning,ground,tape,targets}.json', { eager: true });

const DEMO_PROJECT = 'Saltmarsh Post';

/** The grounds of the demo's tunings and tapes. */
const drivenWith: Readonly<Record<string, string>> = {
  'carrier-day-boots.tuning.json': 'boardwalk.ground.json',
  'carrier-storm-boots.tuning.json': 'boardwalk.ground.json',
  'first-draft.tuning.json': 'boardwalk.ground.json',
  'ferry-hand.tuning.json': 'tidal-flats.ground.json',
  'sorting-clerk.tuning.json': 'sorting-floor.ground.json',
  'pram-cart.tuning.json': 'ferry-deck.ground.json',
  'boardwalk-lap.tape.json': 'boardwalk.ground.json',
  'gap-run.tape.json': 'boardwalk.ground.json',
  'sprint-to-empty.tape.json': 'boardwalk.ground.json',
  'flats-clicks.tape.json': 'tidal-flats.ground.json',
  'cell-walk.tape.json': 'sorting-floor.ground.json',
};

/** Sets the ground of the demo's tunings and tapes, except where somebody has set another one. */
async function layOut(db: Database): Promise<void> {
  for (const [file, ground] of Object.entries(drivenWith)) {
    const [place] = await db.select({ id: documents.id }).from(documents).where(eq(documents.demo, ground)).limit(1);
    if (place)
      await db
        .update(documents)
        .set({ ground: place.id })
        .where(and(eq(documents.demo, file), isNull(documents.ground)));
  }
}

/** The project of the demo data: one from an older version has no mark yet. */
async function demoProject(db: Database): Promise<string> {
  const [marked] = await db.select({ id: projects.id }).from(projects).where(eq(projects.isDemo, true)).limit(1);
  if (marked) return marked.id;
  const [named] = await db.update(projects).set({ isDemo: true }).where(eq(projects.name, DEMO_PROJECT)).returning({ id: projects.id });
  if (named) return named.id;
  const [created] = await db.insert(projects).values({ name: DEMO_PROJECT, isDemo: true }).returning({ id: projects.id });
  if (!created) throw new Error('the demo project could not be created');
  return created.id;
}

/** Modes of loading the demo: load missing documents; restore them as shipped, keeping history; or reset them, dropping all changes. */
type LoadMode = 'missing' | 'restore' | 'reset';

/** A number of our own for the lock that lets one load the demo at a time. */
const LOCK = 7_304_113;

/** Loads the demo data: all of it or nothing, one after the other, announced as it is kept. */
export async function loadDemo(database: Database, mode: LoadMode): Promise<void> {
  await database.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${LOCK})`);
    await load(tx as unknown as Database, mode);
  });
}

async function load(db: Database, mode: LoadMode): Promise<void> {
  const project = await demoProject(db);
  for (const [path, module] of Object.entries(files).sort(([a], [b]) => (a < b ? -1 : 1))) {
    const demo = path.split('/').at(-1) as string;
    const kind = kindMarked(markOf(module.default)) as DocumentKind;
    const kept = keptOf(judged(module.default, kind));
    const [there] = await db
      .select({ id: documents.id, head: documents.head, putAwayAt: documents.putAwayAt })
      .from(documents)
      .where(eq(documents.demo, demo))
      .limit(1);
    if (there && mode === 'missing') continue;
    if (there && mode === 'restore') {
      await db.update(documents).set({ putAwayAt: null, project }).where(eq(documents.id, there.id));
      const { hash } = await getRevision(db, there.id, there.head);
      if (there.putAwayAt) await announce(db, { kind, id: there.id, head: there.head, is: 'back' });
      if (hash === kept.hash) continue;
      await saveRevision(db, kind, there.id, kept, 'As shipped', (head) => head === there.head, 0);
      continue;
    }
    if (there) await db.delete(documents).where(eq(documents.id, there.id));
    await createDocument(db, kind, { project, ...kept, note: 'As shipped', demo });
  }
  await layOut(db);
}

/** Documents whose numbers are taken at a time. */
const AT_ONCE = 50;

/** Takes the numbers of documents that an older version kept without them. */
export async function takeNumbers(db: Database, progress: (done: number) => void): Promise<void> {
  for (let done = 0; ; ) {
    const rows = await db
      .select({ id: documents.id, kind: documents.kind, file: revisions.file })
      .from(documents)
      .innerJoin(revisions, and(eq(revisions.document, documents.id), eq(revisions.number, documents.head)))
      .where(isNull(documents.numbers))
      .limit(AT_ONCE);
    for (const { id, kind, file } of rows) {
      const { line, numbers } = judged(file.read() as { name: string }, kind);
      await db
        .update(documents)
        .set({ line, numbers: new RawJson(JSON.stringify(numbers)) })
        .where(eq(documents.id, id));
    }
    done += rows.length;
    if (rows.length < AT_ONCE) return;
    if (done % 1000 === 0) progress(done);
  }
}
