import { setTimeout as pause } from 'node:timers/promises';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { log } from '../log.ts';
import * as schema from './schema.ts';
import { noteTrouble } from './trouble.ts';

export type Database = NodePgDatabase<typeof schema>;

/** Milliseconds between attempts to get a connection while the database has no space for a new one, and for how long. */
const PAUSE = 50;
const PATIENCE = 3000;

type Done = (error: Error | undefined, client: pg.PoolClient | undefined, release: (error?: Error | boolean) => void) => void;

/** A pool that makes do with the connections it has when a full disk refuses new ones: it waits for one, and keeps one whose statement failed. */
class PatientPool extends pg.Pool {
  override connect(): Promise<pg.PoolClient>;
  override connect(done: Done): undefined;
  override connect(done?: Done): Promise<pg.PoolClient> | undefined {
    const connected = this.#connect(performance.now() + PATIENCE);
    if (!done) return connected;
    connected.then(
      (client) => done(undefined, client, (error) => client.release(error)),
      (error: Error) => done(error, undefined, () => undefined),
    );
    return undefined;
  }

  async #connect(end: number): Promise<pg.PoolClient> {
    for (;;) {
      try {
        return keptOnError(await super.connect());
      } catch (error) {
        if (noteTrouble(error) !== 'full' || performance.now() > end) throw error;
        await pause(PAUSE);
      }
    }
  }
}

/** A client that goes back to its pool when a statement has failed; the pool would end it. */
function keptOnError(client: pg.PoolClient): pg.PoolClient {
  const release = client.release.bind(client);
  client.release = (error) => release(error instanceof pg.DatabaseError && error.severity === 'ERROR' ? undefined : error);
  return client;
}

/** A database on the pool of `url`; dead connections are dropped, and opened again when next needed. */
export function openDatabase(url: string): Database {
  const pool = new PatientPool({
    connectionString: url,
    max: 10,
    // Some stay open: a full disk may refuse new ones, and reading goes on with these.
    min: 2,
    connectionTimeoutMillis: 3000,
    // Nobody waits forever: the database cancels slow queries, and a silent database is given up.
    statement_timeout: 10_000,
    lock_timeout: 5000,
    idle_in_transaction_session_timeout: 10_000,
    query_timeout: 12_000,
  });
  const warn = (error: Error) => log.warn({ error: error.message }, 'a database connection was lost');
  pool.on('error', warn);
  // A connection in use reports its own end, also between two statements of a transaction.
  pool.on('connect', (client) => client.on('error', warn));
  return drizzle(pool, { schema });
}
