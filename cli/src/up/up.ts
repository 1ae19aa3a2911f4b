import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { GOOD, Misuse } from '../misuse.ts';
import { stateFolder } from '../root.ts';
import { buildIfChanged } from './build.ts';
import { type Cluster, startCluster } from './cluster.ts';
import { makeDatabase } from './database.ts';
import { startServer, stopServer } from './server.ts';

interface UpOptions {
  port: string;
  host: string;
  resetDemo?: boolean;
}

const lock = join(stateFolder, 'up.pid');
const say = (line: string) => process.stderr.write(`${line}\n`);

/** One `up` at a time in a folder; the lock of a run that was killed is taken over. */
function takeLock(): void {
  mkdirSync(stateFolder, { recursive: true });
  if (existsSync(lock)) {
    const [pid, address] = readFileSync(lock, 'utf8').split('\n') as [string, string | undefined];
    if (isAlive(Number(pid))) throw new Misuse(`Zygopod is running already${address ? ` on ${address}` : ''} (process ${pid}).`);
    say(`An earlier run (process ${pid}) was killed; taking over what it left.`);
    rmSync(lock, { force: true });
  }
  closeSync(openSync(lock, 'wx'));
  writeFileSync(lock, `${process.pid}\n`);
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return pid > 0 && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('main.ts');
  } catch {
    return false;
  }
}

/** Sets up the database, builds, serves, and stays until it is told to stop. */
export async function up(options: UpOptions): Promise<number> {
  const port = Number(options.port);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Misuse(`--port: found ${options.port}, expected a whole number from 1 to 65535`);
  const loopback = /^(127\.|localhost$|::1$)/.test(options.host);
  if (!loopback && !process.env['ZYGOPOD_TOKEN'])
    throw new Misuse(`--host ${options.host} lets other machines in: set ZYGOPOD_TOKEN to the access token that they have to give.`);

  takeLock();
  let cluster: Cluster | undefined;
  let stopping = false;
  const stop = new Promise<void>((told) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.on(signal, () => {
        stopping = true;
        told();
      });
  });
  try {
    const own = process.env['DATABASE_URL'];
    if (!own) {
      cluster = await startCluster(stateFolder, 'postgres');
      await makeDatabase(cluster.url('postgres'), 'zygopod');
    }
    const databaseUrl = own ?? (cluster as Cluster).url('zygopod');
    buildIfChanged(say);
    if (stopping) return GOOD;
    const env: Record<string, string> = options.resetDemo ? { ZYGOPOD_RESET_DEMO: '1' } : {};
    let server = await startServer({ host: options.host, port, databaseUrl, env });
    writeFileSync(lock, `${process.pid}\n${server.address}\n`);
    process.stdout.write(`Zygopod is on ${server.address}\n`);

    // Whatever dies under way is started again: the server at once, the cluster when a look finds it gone.
    const revive = setInterval(() => cluster?.ensure(), 3000);
    while (!stopping) {
      const ended = new Promise<void>((gone) => server.process.once('exit', () => gone()));
      await Promise.race([ended, stop]);
      if (stopping) break;
      say('The server has died; starting it again.');
      cluster?.ensure();
      server = await startServer({ host: options.host, port, databaseUrl });
    }
    clearInterval(revive);
    say('Stopping …');
    await stopServer(server.process);
    return GOOD;
  } finally {
    cluster?.stop();
    rmSync(lock, { force: true });
  }
}
