import { inject } from 'vitest';
import '../../../testing/provided.ts';
import { randomBytes } from 'node:crypto';
import { createDatabase } from '../../../cli/src/up/database.ts';
import { freePort, startServer } from '../../../cli/src/up/server.ts';

interface OwnServer {
  address: string;
  databaseUrl: string;
  stop(): Promise<void>;
}

/** An empty database of its own, in the cluster of the tests; its address. */
export async function ownDatabase(): Promise<string> {
  const name = `zygopod_own_${randomBytes(6).toString('hex')}`;
  const [admin, own] = ['postgres', name].map(
    (database) => Object.assign(new URL(inject('databaseUrl')), { pathname: `/${database}` }).href,
  );
  await createDatabase(admin as string, name, true);
  return own as string;
}

/**
 * Starts a server on an empty database of its own: for tests that end connections, block writing, or count what there is while other files run.
 */
export async function ownServer(): Promise<OwnServer> {
  const databaseUrl = await ownDatabase();
  const port = await freePort();
  const { address, stop } = await startServer({
    host: '127.0.0.1',
    port,
    databaseUrl,
    env: { LOG_LEVEL: process.env['LOG_LEVEL'] ?? 'silent' },
  });
  return { address, databaseUrl, stop };
}
