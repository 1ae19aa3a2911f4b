import { sql } from 'drizzle-orm';
import { log } from '../log.ts';
import { followChanges } from './changes.ts';
import { type Database, openDatabase } from './connection.ts';
import { prepare } from './prepare.ts';
import { endTrouble, lastTrouble, noteTrouble, type Trouble } from './trouble.ts';

let opened: Database | undefined;
let ready: Promise<void> | undefined;
let isPreparing = false;
const prepared: ((db: Database) => Promise<void>)[] = [];

/** Has work done once the database is prepared: what a restart has interrupted. */
export const oncePrepared = (work: (db: Database) => Promise<void>): void => {
  prepared.push(work);
};

/** The application's database, migrated and with the demo data in it. The next call retries a failed preparation. */
export async function database(): Promise<Database> {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set');
  if (!opened) {
    opened = openDatabase(url);
    void followChanges(url);
  }
  const db = opened;
  ready ??= prepareOnce(url, db);
  await inTime(ready);
  return db;
}

/** Milliseconds that a request waits for a database that is being prepared. */
const WAITS = 10_000;

async function inTime(work: Promise<void>): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const over = new Promise<never>((_, fail) => {
    // PostgreSQL's own code for a server that cannot take connections now.
    timer = setTimeout(() => fail(Object.assign(new Error('the database is being prepared'), { code: '57P03' })), WAITS);
  });
  work.catch(() => undefined);
  try {
    await Promise.race([work, over]);
  } finally {
    clearTimeout(timer);
  }
}

async function prepareOnce(url: string, db: Database): Promise<void> {
  isPreparing = true;
  try {
    await prepare(url);
    for (const work of prepared) work(db).catch((error) => log.warn({ error: String(error) }, 'work of the last start was not resumed'));
  } catch (error) {
    ready = undefined;
    throw error;
  } finally {
    isPreparing = false;
  }
}

/** Milliseconds after which a database that says nothing is said not to answer. */
const PATIENCE = 2500;

let wasUp = true;

/** Current abilities of the database: `up` reads and writes; `full` and `readOnly` only read; `preparing` is being upgraded; `down` doesn't answer. */
export type Condition = 'up' | 'down' | 'preparing' | Trouble;

/** The database's condition, known within a few seconds, also if it is silent. */
export async function databaseCondition(): Promise<Condition> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Error('no answer in time');
  const over = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(late), PATIENCE);
  });
  const attempt = database().then((db) => tryToWrite(db));
  attempt.catch(() => undefined);
  try {
    const condition = await Promise.race([attempt, over]);
    wasUp = true;
    return condition;
  } catch (error) {
    const trouble = noteTrouble(error);
    if (trouble) return trouble;
    if (error === late && isPreparing) return 'preparing';
    // Logged once: it is queried again and again.
    if (wasUp) log.warn({ error: String(error) }, 'the database does not answer');
    wasUp = false;
    return 'down';
  } finally {
    clearTimeout(timer);
  }
}

/** Tests whether the database can be written to. While writes fail, one is tried; else the server is only queried for its read-only state. */
async function tryToWrite(db: Database): Promise<Condition> {
  const { rows } = await db.execute<{ readonly: string }>(sql`select current_setting('transaction_read_only') as readonly`);
  if (rows[0]?.readonly === 'on') return 'readOnly';
  if (lastTrouble() === null) return 'up';
  // Enough rows that the table must grow, so that a full disk shows; all are rolled back.
  await db.execute(sql`create table zygopod_probe as select repeat('x', 1000) from generate_series(1, 200)`);
  await db.execute(sql`drop table zygopod_probe`);
  endTrouble();
  return 'up';
}
