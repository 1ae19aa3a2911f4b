import { once } from 'node:events';
import { resolve } from 'node:path';
import { Worker } from 'node:worker_threads';
import { Problem } from '../problem.ts';

/** What is to be made of a tuning: its motion in a language, or a folder of checks for a build server. */
export type CodeAsked = { tuning: unknown } & ({ what: 'code'; to: string } | { what: 'checks'; targets: unknown; tapes: unknown[] });

/** The files that were made, or what no file can hold. */
export type CodeMade = { files: { path: string; text: string }[] } | { why: string };

/** Milliseconds for one of them, megabytes of heap, and how many may wait. */
const TIME = 20_000;
const HEAP = 512;
const WAITING = 8;

/** The worker's file, from the folder that the server runs in. */
const WORKER = resolve('src/server/code/worker.ts');

let worker: Worker | undefined;
let inside = 0;
let last: Promise<unknown> = Promise.resolve();

/** Makes code one after the other in a worker; 503 where too many wait. */
export async function makeCode(asked: CodeAsked): Promise<CodeMade> {
  if (inside >= WAITING) throw new Problem(503, 'Too much code is being made; try again in a moment', { retryAfter: 5 });
  inside++;
  const done = last.then(() => makeAway(asked));
  last = done.catch(() => undefined);
  try {
    return await done;
  } finally {
    inside--;
  }
}

async function makeAway(asked: CodeAsked): Promise<CodeMade> {
  worker ??= start();
  const own = worker;
  const over = new AbortController();
  const late = setTimeout(() => over.abort(), TIME);
  try {
    const told = once(own, 'message', { signal: over.signal });
    own.postMessage(asked);
    const [made] = (await told) as [CodeMade];
    return made;
  } catch {
    worker = undefined;
    void own.terminate();
    throw new Problem(422, `The code takes more than ${TIME / 1000} s or ${HEAP} MB to make`);
  } finally {
    clearTimeout(late);
  }
}

function start(): Worker {
  const started = new Worker(WORKER, { resourceLimits: { maxOldGenerationSizeMb: HEAP } });
  // Nobody has to wait for it when the server ends.
  started.unref();
  started.on('error', () => undefined);
  return started;
}
