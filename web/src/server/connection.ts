import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { log } from './log.ts';
import * as schema from './schema.ts';

export type Database = NodePgDatabase<typeof schema>;

/** A database on the pool of `url`; connections that die are dropped, and opened anew when next needed. */
export function openDatabase(url: string): Database {
  const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000 });
  pool.on('error', (error) => log.warn({ error: error.message }, 'a database connection was lost'));
  return drizzle(pool, { schema });
}
