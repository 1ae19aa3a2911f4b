import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { GOOD, Misuse } from '../misuse.ts';
import { root } from '../root.ts';
import { checkDatabase } from '../up/database.ts';

interface WorkerOptions {
  database?: string;
  concurrency: string;
}

/** Workers that one command runs, at most. */
const MOST = 256;
/** Milliseconds after which a worker that died is started again. */
const AGAIN = 1000;

/** Measures chunks of sweeps for the application whose database is named, until it is stopped. */
export async function worker({ database = process.env['DATABASE_URL'], concurrency }: WorkerOptions): Promise<number> {
  if (!database)
    throw new Misuse(
      '--database: found nothing, expected the address of the application’s PostgreSQL, such as postgres://zygopod@10.0.0.5/zygopod',
    );
  if (!/^postgres(ql)?:\/\//.test(database)) throw new Misuse('--database: expected an address that begins with postgres://');
  const count = Number(concurrency);
  if (!Number.isInteger(count) || count < 1 || count > MOST)
    throw new Misuse(`--concurrency: found ${concurrency}, expected a whole number from 1 to ${MOST}`);
  await checkDatabase(database);
  const over = new AbortController();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => over.abort());
  process.stderr.write(`${count} ${count === 1 ? 'worker' : 'workers'}; Ctrl-C stops\n`);
  await Promise.all(Array.from({ length: count }, () => keepRunning(database, over.signal)));
  return GOOD;
}

/** Runs one worker process after the other until the signal. */
async function keepRunning(database: string, over: AbortSignal): Promise<void> {
  while (!over.aborted) {
    const child: ChildProcess = spawn(process.execPath, [join(root, 'web/src/server/sweeps/main.ts')], {
      cwd: join(root, 'web'),
      env: { ...process.env, DATABASE_URL: database },
      // The channel carries nothing: a worker ends when it closes.
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      detached: true,
    });
    const end = () => child.kill('SIGTERM');
    over.addEventListener('abort', end, { once: true });
    await once(child, 'exit');
    over.removeEventListener('abort', end);
    if (!over.aborted) await new Promise((next) => setTimeout(next, AGAIN));
  }
}
