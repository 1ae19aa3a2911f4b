import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Misuse } from '../misuse.ts';
import { root } from '../root.ts';
import { Killed, type RunningServer } from './supervisor.ts';

interface ServerOptions {
  host: string;
  port: number;
  databaseUrl: string;
  env?: Record<string, string>;
  /** Milliseconds that it may take to become healthy. */
  patience?: number;
  stop?: AbortSignal;
  /** Called with the process's number as soon as there is one. */
  spawned?: (pid: number) => void;
}

/** A port on loopback that nothing listens on now. */
export function freePort(): Promise<number> {
  return new Promise((found, failed) => {
    const server = createServer().on('error', failed);
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => found(typeof address === 'object' && address ? address.port : 0));
    });
  });
}

/** Why nothing can listen on a port of a host; null if it can. */
async function obstacle(host: string, port: number): Promise<string | null> {
  const probe = createServer();
  return new Promise((answer) => {
    probe.once('error', (error: NodeJS.ErrnoException) => answer(error.code ?? 'unknown'));
    probe.listen(port, host, () => probe.close(() => answer(null)));
  });
}

/** Refuses a port that is in use, and suggests another. */
export async function freeOrMisuse({ host, port }: { host: string; port: number }): Promise<void> {
  const why = await obstacle(host, port);
  if (why === null) return;
  if (why === 'EADDRINUSE')
    throw new Misuse(`Port ${port} on ${host} is taken by another program. Choose another: ./zygopod up --port ${port + 1}`);
  throw new Misuse(`Nothing can listen on port ${port} of ${host} (${why}). Choose another: ./zygopod up --port 4380 --host 127.0.0.1`);
}

/** Starts the built server and waits until it says that it is healthy. */
export async function startServer(options: ServerOptions): Promise<RunningServer & { process: ChildProcess }> {
  const { host, port, patience = 30_000, stop } = options;
  await freeOrMisuse(options);
  const server = spawn(process.execPath, [join(root, 'web/src/server/front/serve.ts')], {
    cwd: join(root, 'web'),
    env: { ...process.env, ...options.env, NODE_ENV: 'production', HOST: host, PORT: String(port), DATABASE_URL: options.databaseUrl },
    // The channel carries nothing: the server ends when it closes, so that no kill of this process leaves a server behind.
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    // A group of its own: Ctrl-C reaches `up`, which ends the server and then the cluster, in that order.
    detached: true,
  });
  server.channel?.unref();
  if (server.pid) options.spawned?.(server.pid);
  const address = `http://${host.includes(':') ? `[${host}]` : host}:${port}`;
  const died = once(server, 'exit').then(() => undefined);
  const over = new AbortController();
  stop?.addEventListener('abort', () => over.abort());
  try {
    const gone = died.then(() => {
      const why = `The server ended at its start (${server.signalCode ?? `exit code ${server.exitCode}`}).`;
      throw server.signalCode ? new Killed(why) : new Misuse(why);
    });
    gone.catch(() => undefined);
    await Promise.race([healthy(address, process.env['ZYGOPOD_TOKEN'], patience, over.signal), gone]);
  } catch (error) {
    over.abort();
    await stopServer(server);
    throw error;
  }
  return {
    address,
    pid: server.pid as number,
    died,
    answers: () => answers(address),
    kill: () => server.kill('SIGKILL'),
    stop: () => stopServer(server),
    process: server,
  };
}

/** Milliseconds after which a silent server counts as not answering. */
const SILENCE = 5000;

/** Returns true if a server answers at all, with any status. */
async function answers(address: string): Promise<boolean> {
  try {
    const answer = await fetch(`${address}/api/v1/health`, { signal: AbortSignal.timeout(SILENCE) });
    await answer.body?.cancel();
    return true;
  } catch {
    return false;
  }
}

/** Milliseconds for a server's first answer of any kind: on a machine that is busy, or slow to read its files, the process alone takes seconds. */
const FIRST_ANSWER = 30_000;

/** Waits until a server says that it is healthy. Throws when it still says something else after so many milliseconds, or nothing at all. */
export async function healthy(
  address: string,
  token: string | undefined,
  patience: number,
  stop: AbortSignal,
  firstAnswer = Math.max(patience, FIRST_ANSWER),
): Promise<void> {
  let last: string | null = null;
  for (let end = performance.now() + firstAnswer; performance.now() < end && !stop.aborted; ) {
    try {
      const answer = await fetch(`${address}/api/v1/health`, {
        headers: token ? { authorization: `Bearer ${token}` } : {},
        signal: AbortSignal.any([stop, AbortSignal.timeout(3000)]),
      });
      const text = await answer.text();
      // An upgrade takes as long as it takes.
      if (last === null || /"database":"preparing"/.test(text)) end = performance.now() + patience;
      last = text;
      // One that cannot be written to can still be read, and says so itself.
      if (answer.ok || /"database":"(full|readOnly)"/.test(last)) return;
    } catch {
      // Not listening yet, or silent: retry.
    }
    await new Promise((next) => setTimeout(next, 100));
  }
  throw new Misuse(`The server did not become healthy: ${last ?? 'no answer'}`);
}

/** Ends a server and waits for it; by force when it takes too long. */
export async function stopServer(server: ChildProcess): Promise<void> {
  if (server.exitCode !== null || server.signalCode !== null) return;
  const ended = once(server, 'exit');
  server.kill('SIGTERM');
  const timer = setTimeout(() => server.kill('SIGKILL'), 5000);
  await ended;
  clearTimeout(timer);
}
