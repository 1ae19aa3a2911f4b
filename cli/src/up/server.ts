import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Misuse } from '../misuse.ts';
import { root } from '../root.ts';

interface ServerOptions {
  host: string;
  port: number;
  databaseUrl: string;
  env?: Record<string, string>;
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

/** Whether something listens on the port already. */
async function taken(host: string, port: number): Promise<boolean> {
  const probe = createServer();
  return new Promise((answer) => {
    probe.once('error', () => answer(true));
    probe.listen(port, host, () => probe.close(() => answer(false)));
  });
}

/** Starts the built server and waits until it says that it is healthy. */
export async function startServer(options: ServerOptions): Promise<{ address: string; process: ChildProcess }> {
  const { host, port } = options;
  if (await taken(host, port))
    throw new Misuse(`Port ${port} on ${host} is taken by another program. Choose another: ./zygopod up --port ${port + 1}`);
  const server = spawn(process.execPath, [join(root, 'web/src/server/front/serve.ts')], {
    cwd: join(root, 'web'),
    env: { ...process.env, ...options.env, NODE_ENV: 'production', HOST: host, PORT: String(port), DATABASE_URL: options.databaseUrl },
    stdio: ['ignore', 'ignore', 'inherit'],
    // A group of its own: Ctrl-C reaches `up`, which ends the server and then the cluster, in that order.
    detached: true,
  });
  const address = `http://${host.includes(':') ? `[${host}]` : host}:${port}`;
  const gone = once(server, 'exit').then(([code]) => {
    throw new Misuse(`The server ended at its start (exit code ${code}).`);
  });
  try {
    await Promise.race([healthy(address, process.env['ZYGOPOD_TOKEN']), gone]);
  } catch (error) {
    await stopServer(server);
    throw error;
  }
  gone.catch(() => undefined);
  return { address, process: server };
}

async function healthy(address: string, token: string | undefined): Promise<void> {
  let last = 'no answer';
  for (let attempt = 0; attempt < 300; attempt++) {
    try {
      const answer = await fetch(`${address}/api/v1/health`, token ? { headers: { authorization: `Bearer ${token}` } } : {});
      if (answer.ok) return;
      last = await answer.text();
    } catch {
      last = 'no answer';
    }
    await new Promise((next) => setTimeout(next, 100));
  }
  throw new Misuse(`The server did not become healthy: ${last}`);
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
