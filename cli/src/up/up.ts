import { Application } from '../files/application.ts';
import { Live } from '../files/live.ts';
import { folderAt, openMirror } from '../files/open.ts';
import { GOOD, Misuse } from '../misuse.ts';
import { stateFolder } from '../root.ts';
import { buildIfChanged } from './build.ts';
import { type Cluster, startCluster } from './cluster.ts';
import { checkDatabase, createDatabase, keepSpareLog } from './database.ts';
import { Lock, runningNow } from './lock.ts';
import { freeOrMisuse, startServer } from './server.ts';
import { Supervisor } from './supervisor.ts';
import { Sweeper } from './sweeper.ts';

interface UpOptions {
  port: string;
  host: string;
  resetDemo?: boolean;
  files?: string;
  project?: string;
}

const say = (line: string) => process.stderr.write(`${line}\n`);

/** Milliseconds that the server may take for its first start, with the demo data to load. */
const FIRST_START = 30_000;

/** The requested port and host; refuses those that are unavailable. */
async function placeOf(options: UpOptions): Promise<{ host: string; port: number }> {
  const port = Number(options.port);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Misuse(`--port: found ${options.port}, expected a whole number from 1 to 65535`);
  const loopback = /^(127\.|localhost$|::1$)/.test(options.host);
  if (!loopback && !process.env['ZYGOPOD_TOKEN'])
    throw new Misuse(`--host ${options.host} allows other machines: set ZYGOPOD_TOKEN to the access token that they must use.`);
  return { host: options.host, port };
}

/** Sets up the database, builds, serves, and runs until it is stopped. */
export async function up(options: UpOptions): Promise<number> {
  const place = await placeOf(options);
  const folder = options.files === undefined ? null : folderAt(options.files);
  const live = new Live();
  let cluster: Cluster | undefined;
  let supervisor: Supervisor | undefined;
  const stop = new AbortController();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.on(signal, () => {
      stop.abort();
      supervisor?.stop();
    });
  const lock = new Lock(stateFolder);
  await lock.take(stateFolder, say);
  const sweeper = new Sweeper();
  try {
    if (sweeper.pid) lock.record({ sweeper: runningNow(sweeper.pid) });
    await freeOrMisuse(place);
    const own = process.env['DATABASE_URL'];
    if (own) await checkDatabase(own);
    else {
      cluster = await startCluster(stateFolder, 'postgres', (data) => sweeper.record({ cluster: data }));
      await createDatabase(cluster.url('postgres'), 'zygopod');
      // A disk that is too full for that is no reason not to start.
      await keepSpareLog(cluster.url('postgres')).catch(() => undefined);
    }
    const databaseUrl = () => own ?? (cluster as Cluster).url('zygopod');
    await buildIfChanged(say, stop.signal);
    const env: Record<string, string> = options.resetDemo ? { ZYGOPOD_RESET_DEMO: '1' } : {};
    if (stop.signal.aborted) return said('Stopped.');
    // The sweeper knows a server before it is healthy: killing this process then leaves none behind.
    const spawned = (pid: number) => sweeper.record({ server: pid });
    const server = await startServer({ ...place, databaseUrl: databaseUrl(), env, patience: FIRST_START, stop: stop.signal, spawned });
    lock.record({ address: server.address });
    supervisor = new Supervisor(
      {
        database: cluster ?? null,
        startServer: (patience) => startServer({ ...place, databaseUrl: databaseUrl(), patience, spawned }),
        say,
      },
      server,
    );
    if (folder) {
      const app = new Application(server.address);
      const { mirror, project } = await openMirror(folder, app, options.project, 'both');
      say(`${project.name} is kept in ${folder.root}`);
      live.start(mirror, folder, app, say);
    }
    if (stop.signal.aborted) supervisor.stop();
    else process.stdout.write(`Zygopod is on ${server.address}\n`);
    await supervisor.run();
    return said('Stopped.');
  } catch (error) {
    if (stop.signal.aborted) return said('Stopped.');
    throw error;
  } finally {
    await live.stop();
    await cluster?.stop();
    sweeper.dismiss();
    lock.release();
  }
}

function said(line: string): number {
  say(line);
  return GOOD;
}
