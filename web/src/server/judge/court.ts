import type { DocumentKind } from '@zygopod/core';
import { Problem } from '../problem.ts';
import { OneByOne } from '../worker.ts';
import { type JudgedBody, judge, type Verdict } from './judge.ts';

/** Bodies up to this many bytes are judged at once, in place. */
const SMALL = 256 * 1024;

/** Limits of a worker: milliseconds for one body, megabytes of heap. */
const TIME = 10_000;
const HEAP = 1024;

/** Large bodies that may be read or wait to be judged at a time; more are sent away. */
const WAITING = 8;

const court = new OneByOne<{ bytes: Uint8Array<ArrayBuffer>; kind: DocumentKind }, Verdict>('src/server/judge/worker.ts', {
  time: TIME,
  heap: HEAP,
});

let inside = 0;

/** True if a body of this size is large: it waits for its turn, and is judged in a worker. */
export const isLarge = (size: number): boolean => size > SMALL;

/** Runs work that holds a large body in memory, few at a time; 503 if there are too many. */
export async function insideCourt<T>(work: () => Promise<T>): Promise<T> {
  if (inside >= WAITING) throw new Problem(503, 'Too many large files are being judged; try again in a moment', { retryAfter: 5 });
  inside++;
  try {
    return await work();
  } finally {
    inside--;
  }
}

/** Parses and validates a body; throws a problem if it isn't valid. Transfers the bytes. */
export async function judgeBody(bytes: Uint8Array<ArrayBuffer>, kind: DocumentKind): Promise<JudgedBody> {
  const verdict = isLarge(bytes.length) ? await judgeAway(bytes, kind) : judge(bytes, kind);
  if (!verdict.ok) throw new Problem(verdict.status, verdict.title, verdict.members);
  return verdict.body;
}

async function judgeAway(bytes: Uint8Array<ArrayBuffer>, kind: DocumentKind): Promise<Verdict> {
  const verdict = await court.ask({ bytes, kind }, { transfer: [bytes.buffer] });
  return verdict ?? { ok: false, status: 422, title: `The document takes more than ${TIME / 1000} s or ${HEAP} MB to judge` };
}
