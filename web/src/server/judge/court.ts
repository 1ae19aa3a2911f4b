import { once } from 'node:events';
import { resolve } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Kind } from '../kinds.ts';
import { Problem } from '../problem.ts';
import { type JudgedBody, judge, type Verdict } from './judge.ts';

/** Bodies up to this many bytes are judged at once, in place. */
const SMALL = 256 * 1024;

/** Limits of a worker: milliseconds for one body, megabytes of heap. */
const TIME = 10_000;
const HEAP = 1024;

/** Large bodies that may be read or wait to be judged at a time; more are sent away. */
const WAITING = 8;

/** The worker's file, from the folder that the server runs in. */
const WORKER = resolve('src/server/judge/worker.ts');

let worker: Worker | undefined;
let inside = 0;
let last: Promise<unknown> = Promise.resolve();

/** Whether a body of this size is large: it waits for its turn, and is judged in a worker. */
export const isLarge = (size: number): boolean => size > SMALL;

/** Does work that holds a large body in memory, one of a few; 503 where there are too many. */
export async function insideCourt<T>(work: () => Promise<T>): Promise<T> {
  if (inside >= WAITING) throw new Problem(503, 'Too many large files are being judged; try again in a moment', { retryAfter: 5 });
  inside++;
  try {
    return await work();
  } finally {
    inside--;
  }
}

/** What a body holds; throws a problem where it is not good. Takes the bytes over. */
export async function judgeBody(bytes: Uint8Array<ArrayBuffer>, kind: Kind): Promise<JudgedBody> {
  const verdict = isLarge(bytes.length) ? await inTurn(() => judgeAway(bytes, kind)) : judge(bytes, kind);
  if (!verdict.ok) throw new Problem(verdict.status, verdict.title, verdict.members);
  return verdict.body;
}

/** One large body after the other. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const done = last.then(work);
  last = done.catch(() => undefined);
  return done;
}

async function judgeAway(bytes: Uint8Array<ArrayBuffer>, kind: Kind): Promise<Verdict> {
  worker ??= start();
  const own = worker;
  const over = new AbortController();
  try {
    const told = once(own, 'message', { signal: over.signal });
    // A worker that runs out of memory ends with an error, which `once` throws.
    const late = AbortSignal.timeout(TIME);
    late.addEventListener('abort', () => over.abort());
    own.postMessage({ bytes, kind }, [bytes.buffer]);
    const [verdict] = (await told) as [Verdict];
    return verdict;
  } catch {
    worker = undefined;
    void own.terminate();
    return { ok: false, status: 422, title: `The document takes more than ${TIME / 1000} s or ${HEAP} MB to judge` };
  }
}

function start(): Worker {
  const started = new Worker(WORKER, { resourceLimits: { maxOldGenerationSizeMb: HEAP } });
  // Nobody has to wait for it when the server ends.
  started.unref();
  started.on('error', () => undefined);
  return started;
}
