import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../root.ts';
import { stopCluster } from './cluster.ts';

/** Processes that a sweeper ends: the server's process, and the cluster in a folder. */
interface Left {
  server?: number;
  cluster?: string;
}

/**
 * A separate process that waits for the end of this one, of any kind, and then ends its remaining children: a server without a supervisor, a database
 * without a server. It detects the end by its stdin, which the system closes.
 */
export class Sweeper {
  readonly #process: ChildProcess;

  constructor() {
    this.#process = spawn(process.execPath, [join(root, 'cli/src/up/sweeper.ts')], { stdio: ['pipe', 'ignore', 'ignore'], detached: true });
    this.#process.stdin?.on('error', () => undefined);
    this.#process.on('error', () => undefined);
    this.#process.unref();
  }

  get pid(): number | undefined {
    return this.#process.pid;
  }

  record(left: Left): void {
    this.#process.stdin?.write(`${JSON.stringify(left)}\n`);
  }

  /** Nothing is left: it may go. */
  dismiss(): void {
    this.#process.kill('SIGKILL');
  }
}

const isServer = (pid: number): boolean => {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('front/serve.ts');
  } catch {
    return false;
  }
};

async function sweep({ server, cluster }: Left): Promise<void> {
  if (server !== undefined && isServer(server)) {
    process.kill(server, 'SIGTERM');
    for (let waited = 0; isServer(server) && waited < 4000; waited += 50) await new Promise((next) => setTimeout(next, 50));
    if (isServer(server)) process.kill(server, 'SIGKILL');
  }
  if (cluster !== undefined) await stopCluster(cluster);
}

if (process.argv[1] === import.meta.filename) {
  let received = '';
  process.stdin.setEncoding('utf8');
  for await (const chunk of process.stdin) received += chunk;
  const lines = received.split('\n').filter((line) => line !== '');
  await sweep(Object.assign({}, ...lines.map((line) => JSON.parse(line) as Left)));
}
