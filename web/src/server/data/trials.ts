import { and, desc, eq, lt, or } from 'drizzle-orm';
import type { Database } from './connection.ts';
import type { Place } from './documents.ts';
import { trials } from './schema.ts';

/** A round of a blind trial as it is kept. */
export type TrialRow = typeof trials.$inferSelect;

/** Keeps a round. */
export async function keepTrial(db: Database, round: typeof trials.$inferInsert): Promise<TrialRow> {
  const [row] = await db.insert(trials).values(round).returning();
  if (!row) throw new Error('the round was not kept');
  return row;
}

interface Listing {
  /** Two tunings, in either order: only the rounds between them. */
  pair?: readonly [string, string] | undefined;
  limit: number;
  after?: Place | undefined;
}

/** A page of rounds, newest first, and the place of the next page. */
export async function listTrials(
  db: Database,
  { pair: tunings, limit, after }: Listing,
): Promise<{ items: TrialRow[]; next: Place | null }> {
  const { createdAt, id } = trials;
  const pair = (one: string, other: string) => and(eq(trials.tuningA, one), eq(trials.tuningB, other));
  const rows = await db
    .select()
    .from(trials)
    .where(
      and(
        tunings && or(pair(tunings[0], tunings[1]), pair(tunings[1], tunings[0])),
        after && or(lt(createdAt, after.createdAt), and(eq(createdAt, after.createdAt), lt(id, after.id))),
      ),
    )
    .orderBy(desc(createdAt), desc(id))
    .limit(limit + 1);
  const items = rows.slice(0, limit);
  const last = items.at(-1);
  return { items, next: rows.length > limit && last ? { createdAt: last.createdAt, id: last.id } : null };
}
