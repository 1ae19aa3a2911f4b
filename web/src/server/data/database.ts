import { resolve } from 'node:path';
import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { log } from '../log.ts';
import { type Database, openDatabase } from './connection.ts';
import { loadDemo } from './demo.ts';

let opened: Database | undefined;
let ready: Promise<void> | undefined;

async function prepare(db: Database): Promise<void> {
  await migrate(db, { migrationsFolder: resolve('drizzle') });
  await loadDemo(db, process.env['ZYGOPOD_RESET_DEMO'] === '1');
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

/** Whether the database answers now. */
export async function databaseAnswers(): Promise<boolean> {
  try {
    await (await database()).execute(sql`select 1`);
    return true;
  } catch (error) {
    log.warn({ error: String(error) }, 'the database does not answer');
    return false;
  }
}
