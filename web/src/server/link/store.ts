import type { Hello } from '@zygopod/core';
import { and, asc, desc, eq, gte, inArray, lt, sql } from 'drizzle-orm';
import type { Database } from '../data/connection.ts';
import { RawJson } from '../data/rawJson.ts';
import { linkRows, links } from '../data/schema.ts';
import { type Batch, GameSession, type InForce } from './session.ts';

/** Sessions that are kept, the newest first, and ticks of each. */
const MOST_SESSIONS = 50;
const MOST_TICKS = 600_000;

/** Rows of a page. */
const PAGE = 5000;

/** Rows as doubles, one after the other (little-endian). */
const packed = (rows: readonly number[][]): Buffer => Buffer.from(Float64Array.from(rows.flat()).buffer);

function unpacked(bytes: Buffer, columns: number): number[][] {
  const numbers = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  return Array.from({ length: numbers.length / columns }, (_, i) => [...numbers.subarray(i * columns, (i + 1) * columns)]);
}

/** A session as lists show it. */
export interface KeptSession {
  id: string;
  hello: Hello;
  sets: InForce[];
  next: number;
  seen: number;
}

/** Linked games and their rows in the database. */
export class LinkStore {
  readonly #database: () => Database;

  constructor(database: () => Database) {
    this.#database = database;
  }

  async find(id: string): Promise<GameSession | null> {
    const [row] = await this.#database().select().from(links).where(eq(links.id, id));
    return row
      ? new GameSession(row.id, JSON.parse(row.hello.text) as Hello, row.next, row.seenAt.getTime(), JSON.parse(row.sets.text) as InForce[])
      : null;
  }

  async list(): Promise<KeptSession[]> {
    const rows = await this.#database().select().from(links).orderBy(desc(links.seenAt)).limit(MOST_SESSIONS);
    return rows.map(({ id, hello, sets, next, seenAt }) => ({
      id,
      hello: JSON.parse(hello.text) as Hello,
      sets: JSON.parse(sets.text) as InForce[],
      next,
      seen: seenAt.getTime(),
    }));
  }

  /** Keeps what a game said of itself. Of many sessions the oldest are deleted. */
  async keep({ id, hello, sets, next, seen }: KeptSession): Promise<void> {
    const said = { hello: new RawJson(JSON.stringify(hello)), sets: new RawJson(JSON.stringify(sets)), seenAt: new Date(seen) };
    const database = this.#database();
    await database
      .insert(links)
      .values({ id, next, ...said })
      .onConflictDoUpdate({ target: links.id, set: said });
    const old = database.select({ id: links.id }).from(links).orderBy(desc(links.seenAt)).offset(MOST_SESSIONS);
    await database.delete(links).where(inArray(links.id, old));
  }

  /** Adds batches of rows, all or none. A tick that is there already is not added again. */
  async add({ id, hello, sets, seen }: GameSession, batches: readonly Batch[]): Promise<void> {
    const rows = batches.flatMap((batch) => batch.rows);
    const hands = batches.flatMap((batch) => batch.hands);
    await this.#database().transaction(async (tx) => {
      const [kept] = await tx.select({ next: links.next }).from(links).where(eq(links.id, id)).for('update');
      if (!kept) return;
      // Another server may have kept some of them.
      const own = rows.filter(([tick]) => (tick as number) >= kept.next);
      const [first, last] = [own[0]?.[0], own.at(-1)?.[0]];
      if (first === undefined || last === undefined) return;
      const ownHands = hands.filter(({ at }) => at >= kept.next);
      await tx.insert(linkRows).values({ link: id, first, last, rows: packed(own), hands: new RawJson(JSON.stringify(ownHands)) });
      await tx
        .update(links)
        .set({
          next: last + 1,
          seenAt: new Date(seen),
          hello: new RawJson(JSON.stringify(hello)),
          sets: new RawJson(JSON.stringify(sets)),
        })
        .where(eq(links.id, id));
      await tx.delete(linkRows).where(and(eq(linkRows.link, id), lt(linkRows.last, last - MOST_TICKS)));
    });
  }

  /** Rows from a tick on, a page of them, with the hands of their ticks. */
  async rows(id: string, columns: number, from: number): Promise<{ rows: number[][]; hands: object[] }> {
    const chunks = await this.#database()
      .select()
      .from(linkRows)
      .where(and(eq(linkRows.link, id), gte(linkRows.last, from)))
      .orderBy(asc(linkRows.first))
      .limit(200);
    const rows: number[][] = [];
    const hands: { at: number }[] = [];
    for (const chunk of chunks) {
      if (rows.length >= PAGE) break;
      rows.push(...unpacked(chunk.rows, columns));
      hands.push(...(JSON.parse(chunk.hands.text) as { at: number }[]));
    }
    return { rows: rows.filter(([tick]) => (tick as number) >= from), hands: hands.filter(({ at }) => at >= from) };
  }

  /** Deletes a session with its rows. */
  async remove(id: string): Promise<boolean> {
    const gone = await this.#database().delete(links).where(eq(links.id, id)).returning({ id: sql<string>`id` });
    return gone.length > 0;
  }
}
