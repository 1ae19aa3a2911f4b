import { resolve } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { log } from '../log.ts';
import type { Database } from './connection.ts';
import { loadDemo, takeNumbers } from './demo.ts';
import { forgetRequests } from './requests.ts';
import * as schema from './schema.ts';

/** A number of our own for the lock that lets one server prepare a database at a time; the others wait for it. */
const LOCK = 7_304_112;

/**
 * Brings a database to this version's schema, loads the demo data, and takes the numbers of older documents. On a connection of its own without
 * the usual time-outs: an upgrade of many documents takes as long as it takes. Interrupted at any statement, the next call continues from there.
 * `migrations`: the folder of the schema's steps.
 */
export async function prepare(url: string, migrations = resolve('drizzle')): Promise<void> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 3000, statement_timeout: 0, lock_timeout: 0 });
  const lost = new Promise<never>((_, fail) => client.on('error', fail));
  lost.catch(() => undefined);
  try {
    await client.connect();
    await Promise.race([lost, prepareOn(client, migrations)]);
  } finally {
    // With the connection goes the lock.
    await client.end().catch(() => undefined);
  }
}

async function prepareOn(client: pg.Client, migrationsFolder: string): Promise<void> {
  await client.query('set idle_in_transaction_session_timeout = 0');
  await client.query('select pg_advisory_lock($1)', [LOCK]);
  const db = drizzle(client, { schema }) as unknown as Database;
  await migrate(db, { migrationsFolder });
  await loadDemo(db, process.env['ZYGOPOD_RESET_DEMO'] === '1' ? 'reset' : 'missing');
  await takeNumbers(db, (done) => log.warn({ done }, 'documents of an older version are being read'));
  await forgetRequests(db);
}
