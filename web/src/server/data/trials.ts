import { and, desc, eq, or } from 'drizzle-orm';
import type { Database } from './connection.ts';
import { trials } from './schema.ts';

/** A round of a blind trial as it is kept. */
export type TrialRow = typeof trials.$inferSelect;

/** Keeps a round. */
export async function keepTrial(db: Database, round: typeof trials.$inferInsert): Promise<TrialRow> {
  const [row] = await db.insert(trials).values(round).returning();
  if (!row) throw new Error('the round was not kept');
  return row;
}

/** Rounds that are listed at the most. */
const MOST = 1000;

/** The rounds between two tunings, whichever is which, or all of them; newest first. */
export function listTrials(db: Database, a?: string, b?: string): Promise<TrialRow[]> {
  const pair = (one: string, other: string) => and(eq(trials.tuningA, one), eq(trials.tuningB, other));
  return db
    .select()
    .from(trials)
    .where(a && b ? or(pair(a, b), pair(b, a)) : undefined)
    .orderBy(desc(trials.createdAt), desc(trials.id))
    .limit(MOST);
}
