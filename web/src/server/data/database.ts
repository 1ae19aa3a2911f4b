import { resolve } from 'node:path';
import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { log } from '../log.ts';
import { type Database, openDatabase } from './connection.ts';
import { loadDemo, takeNumbers } from './demo.ts';

let opened: Database | undefined;
let ready: Promise<void> | undefined;

async function prepare(db: Database): Promise<void> {
  await migrate(db, { migrationsFolder: resolve('drizzle') });
  await loadDemo(db, process.env['ZYGOPOD_RESET_DEMO'] === '1' ? 'reset' : 'missing');
  await takeNumbers(db);
}

/** The application's database, migrated and with the demo data in it. A failed preparation is tried anew by the next call. */
export async function database(): Promise<Database> {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set');
  opened ??= openDatabase(url);
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

/** Whether the database answers now; known within a few seconds, also where it is silent. */
export async function databaseAnswers(): Promise<boolean> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new Error('no answer in time')), PATIENCE);
  });
  const asked = database().then((db) => db.execute(sql`select 1`));
  asked.catch(() => undefined);
  try {
    await Promise.race([asked, late]);
    wasUp = true;
    return true;
  } catch (error) {
    // Told once: it is asked for again and again.
    if (wasUp) log.warn({ error: String(error) }, 'the database does not answer');
    wasUp = false;
    return false;
  } finally {
    clearTimeout(timer);
  }
}
