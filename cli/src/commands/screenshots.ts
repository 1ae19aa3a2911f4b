import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { shootAll } from '../../../e2e/screenshots.ts';
import { GOOD } from '../misuse.ts';
import { root, stateFolder } from '../root.ts';
import { buildIfChanged } from '../up/build.ts';
import { startCluster } from '../up/cluster.ts';
import { makeDatabase } from '../up/database.ts';
import { freePort, startServer, stopServer } from '../up/server.ts';

/** Makes the pictures of docs/screenshots anew, on a server of its own with fresh demo data. */
export async function screenshots(): Promise<number> {
  const folder = join(root, 'docs', 'screenshots');
  mkdirSync(folder, { recursive: true });
  buildIfChanged((line) => process.stderr.write(`${line}\n`));
  const cluster = await startCluster(stateFolder, 'test-postgres');
  try {
    await makeDatabase(cluster.url('postgres'), 'zygopod_pictures', true);
    const options = {
      host: '127.0.0.1',
      port: await freePort(),
      databaseUrl: cluster.url('zygopod_pictures'),
      env: { ZYGOPOD_RESET_DEMO: '1' },
    };
    const server = await startServer(options);
    try {
      for (const file of await shootAll(server.address, folder)) process.stdout.write(`${file}\n`);
    } finally {
      await stopServer(server.process);
    }
  } finally {
    cluster.stop();
  }
  return GOOD;
}
