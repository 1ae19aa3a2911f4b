import { markOf } from '@zygopod/core';
import { and, eq, isNull } from 'drizzle-orm';
import { judged } from '../judge/judge.ts';
import type { Kind } from '../kinds.ts';
import type { Database } from './connection.ts';
import { createDocument } from './documents.ts';
import { RawJson } from './rawJson.ts';
import { documents, projects } from './schema.ts';

/** The files of the demo folder, taken into the build. */
const files = import.meta.glob<{ default: { name: string } }>('../../../../demo/*.{tuning,ground,tape,targets}.json', { eager: true });

export const DEMO_PROJECT = 'Saltmarsh Post';

/** The grounds that the demo's tunings and tapes are made for. */
const madeFor: Readonly<Record<string, string>> = {
  'ferry-hand.tuning.json': 'tidal-flats.ground.json',
  'sorting-clerk.tuning.json': 'sorting-floor.ground.json',
  'pram-cart.tuning.json': 'ferry-deck.ground.json',
  'boardwalk-lap.tape.json': 'boardwalk.ground.json',
  'gap-run.tape.json': 'boardwalk.ground.json',
  'sprint-to-empty.tape.json': 'boardwalk.ground.json',
  'flats-clicks.tape.json': 'tidal-flats.ground.json',
  'cell-walk.tape.json': 'sorting-floor.ground.json',
};

/** Lays the demo's tunings and tapes on the grounds made for them, but for those that somebody has laid elsewhere. */
async function layOut(db: Database): Promise<void> {
  for (const [file, ground] of Object.entries(madeFor)) {
    const [place] = await db.select({ id: documents.id }).from(documents).where(eq(documents.demo, ground)).limit(1);
    if (place)
      await db
        .update(documents)
        .set({ ground: place.id })
        .where(and(eq(documents.demo, file), isNull(documents.ground)));
  }
}

/** Loads what is missing of the demo data; with `reset` it throws away what became of it first. */
export async function loadDemo(db: Database, reset: boolean): Promise<void> {
  let [project] = await db.select().from(projects).where(eq(projects.name, DEMO_PROJECT)).limit(1);
  project ??= (await db.insert(projects).values({ name: DEMO_PROJECT }).returning())[0];
  if (!project) throw new Error('the demo project could not be made');
  for (const [path, module] of Object.entries(files).sort()) {
    const demo = path.split('/').at(-1) as string;
    const [there] = await db.select({ id: documents.id }).from(documents).where(eq(documents.demo, demo)).limit(1);
    if (there && !reset) continue;
    if (there) await db.delete(documents).where(eq(documents.id, there.id));
    const kind = String(markOf(module.default)).split('/')[1] as Kind;
    const { name, text, hash } = judged(module.default);
    await createDocument(db, kind, { project: project.id, name, file: new RawJson(text), hash, note: 'As shipped', demo });
  }
  await layOut(db);
}
