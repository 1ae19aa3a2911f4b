import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { log } from '../log.ts';
import * as schema from './schema.ts';

// Files stay text: see RawJson.
pg.types.setTypeParser(pg.types.builtins.JSONB, (text: string) => text);

export type Database = NodePgDatabase<typeof schema>;

/** A database on the pool of `url`; connections that die are dropped, and opened anew when next needed. */
export function openDatabase(url: string): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: 10,
    connectionTimeoutMillis: 3000,
    // Nobody waits for ever: the database ends what takes too long, and a database that is silent is given up.
    statement_timeout: 10_000,
    lock_timeout: 5000,
    idle_in_transaction_session_timeout: 10_000,
    query_timeout: 12_000,
  });
  const tell = (error: Error) => log.warn({ error: error.message }, 'a database connection was lost');
  pool.on('error', tell);
  // A connection that is in use tells its own end, also between two statements of a transaction.
  pool.on('connect', (client) => client.on('error', tell));
  return drizzle(pool, { schema });
}
