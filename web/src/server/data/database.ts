import { resolve } from 'node:path';
import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { log } from '../log.ts';
import { followChanges } from './changes.ts';
import { type Database, openDatabase } from './connection.ts';
import { loadDemo, takeNumbers } from './demo.ts';
import { forgetRequests } from './requests.ts';
import { endTrouble, lastTrouble, noteTrouble, type Trouble } from './trouble.ts';

let opened: Database | undefined;
let ready: Promise<void> | undefined;

async function prepare(db: Database): Promise<void> {
  await migrate(db, { migrationsFolder: resolve('drizzle') });
  await loadDemo(db, process.env['ZYGOPOD_RESET_DEMO'] === '1' ? 'reset' : 'missing');
  await takeNumbers(db);
  await forgetRequests(db);
}

/** The application's database, migrated and with the demo data in it. A failed preparation is tried anew by the next call. */
export async function database(): Promise<Database> {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set');
  if (!opened) {
    opened = openDatabase(url);
    void followChanges(url);
  }
  const db = opened;
  ready ??= prepare(db).catch((error) => {
    ready = undefined;
    throw error;
  });
  await ready;
  return db;
}

/** Milliseconds after which a database that says nothing is said not to answer. */
const PATIENCE = 2500;

let wasUp = true;

/** What the database can do now: `up` reads and writes; `full` and `readOnly` only read; `down` doesn't answer. */
export type Condition = 'up' | 'down' | Trouble;

/** The database's condition, known within a few seconds, also where it is silent. */
export async function databaseCondition(): Promise<Condition> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new Error('no answer in time')), PATIENCE);
  });
  const asked = database().then((db) => tryToWrite(db));
  asked.catch(() => undefined);
  try {
    const condition = await Promise.race([asked, late]);
    wasUp = true;
    return condition;
  } catch (error) {
    const trouble = noteTrouble(error);
    if (trouble) return trouble;
    // Logged once: it is asked for again and again.
    if (wasUp) log.warn({ error: String(error) }, 'the database does not answer');
    wasUp = false;
    return 'down';
  } finally {
    clearTimeout(timer);
  }
}

/** Whether the database can be written to. While writes fail, one is tried; else the server is only asked whether it is read-only. */
async function tryToWrite(db: Database): Promise<Condition> {
  const { rows } = await db.execute<{ readonly: string }>(sql`select current_setting('transaction_read_only') as readonly`);
  if (rows[0]?.readonly === 'on') return 'readOnly';
  if (lastTrouble() === null) return 'up';
  // Enough rows that the table has to grow, so that a full disk shows; none of them stays.
  await db.execute(sql`create table zygopod_probe as select repeat('x', 1000) from generate_series(1, 200)`);
  await db.execute(sql`drop table zygopod_probe`);
  endTrouble();
  return 'up';
}
