import { and, eq, isNull, lt, sql } from 'drizzle-orm';
import type { Database } from './connection.ts';
import { RawJson } from './rawJson.ts';
import { requests } from './schema.ts';

/** An answer, stored for repeated requests. */
export interface KeptAnswer {
  status: number;
  headers: Record<string, string>;
  body: string;
}

/** State of a key: new and now taken; used by another request; pending; or answered. */
export type Known = { is: 'new' } | { is: 'other' } | { is: 'underWay' } | { is: 'answered'; answer: KeptAnswer };

/** Reserves a key for a request, unless it is used. */
export async function takeKey(db: Database, key: string, request: string): Promise<Known> {
  const taken = await db.insert(requests).values({ key, request }).onConflictDoNothing().returning({ key: requests.key });
  if (taken.length > 0) return { is: 'new' };
  const [row] = await db.select().from(requests).where(eq(requests.key, key)).limit(1);
  // Whoever held it failed just now.
  if (!row) return { is: 'underWay' };
  if (row.request !== request) return { is: 'other' };
  if (row.status === null) return { is: 'underWay' };
  const headers = row.headers?.read() as Record<string, string>;
  return { is: 'answered', answer: { status: row.status, headers, body: row.body ?? '' } };
}

/** Keeps the answer to the request that holds a key. */
export async function keepAnswer(db: Database, key: string, { status, headers, body }: KeptAnswer): Promise<void> {
  await db
    .update(requests)
    .set({ status, headers: new RawJson(JSON.stringify(headers)), body })
    .where(eq(requests.key, key));
}

/** Gives a key back whose request failed: it may be tried again. */
export async function releaseKey(db: Database, key: string): Promise<void> {
  await db.delete(requests).where(and(eq(requests.key, key), isNull(requests.status)));
}

/** Deletes requests older than a day: nobody repeats them after so long. */
export async function forgetRequests(db: Database): Promise<void> {
  await db.delete(requests).where(lt(requests.createdAt, sql`now() - interval '1 day'`));
}
