import { and, desc, eq, isNotNull, isNull } from 'drizzle-orm';
import type { Database } from './connection.ts';
import { documents, handOffs } from './schema.ts';

/** A hand-off as it is kept. */
export type HandOffRow = typeof handOffs.$inferSelect;

/** Keeps a hand-off. */
export async function keepHandOff(db: Database, handOff: typeof handOffs.$inferInsert): Promise<HandOffRow> {
  const [row] = await db.insert(handOffs).values(handOff).returning();
  if (!row) throw new Error('the hand-off was not kept');
  return row;
}

/** The newest hand-offs of a tuning, newest first. */
export function listHandOffs(db: Database, tuning: string, limit: number): Promise<HandOffRow[]> {
  return db.select().from(handOffs).where(eq(handOffs.tuning, tuning)).orderBy(desc(handOffs.createdAt), desc(handOffs.id)).limit(limit);
}

/** The hand-offs of a project's tunings in use that have a place in its folder: the newest of each place. */
export async function standingHandOffs(db: Database, project: string): Promise<HandOffRow[]> {
  const rows = await db
    .selectDistinctOn([handOffs.path], { row: handOffs })
    .from(handOffs)
    .innerJoin(documents, eq(documents.id, handOffs.tuning))
    .where(and(eq(documents.project, project), isNull(documents.putAwayAt), isNotNull(handOffs.path)))
    .orderBy(handOffs.path, desc(handOffs.createdAt), desc(handOffs.id));
  return rows.map(({ row }) => row);
}
