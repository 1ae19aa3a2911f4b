import { createHash } from 'node:crypto';
import type { Database } from '../data/connection.ts';
import { keepAnswer, releaseKey, takeKey } from '../data/requests.ts';
import { Problem } from '../problem.ts';
import type { Operation } from './operation.ts';

/** The header that names a request, so that a repeated one is done once (draft-ietf-httpapi-idempotency-key-header). */
const HEADER = 'idempotency-key';

/** Letters of a key at most. */
const LONGEST = 200;

/** Milliseconds to wait for the same request in progress, and between checks. */
const PATIENCE = 5000;
const LOOK = 50;

/** True if each request creates something new. A revision needs no key: it names the one before it. */
export const createsDocument = ({ method, answers, condition }: Operation): boolean =>
  method === 'POST' && 201 in answers && condition === undefined;

/** Runs an operation once for each key of a request; without a key, directly. */
export async function once(request: Request, url: URL, database: () => Promise<Database>, run: () => Promise<Response>): Promise<Response> {
  const key = request.headers.get(HEADER);
  if (key === null) return run();
  if (key === '' || key.length > LONGEST) throw new Problem(400, `An idempotency key has 1 to ${LONGEST} characters`);
  const length = request.headers.get('content-length') ?? '';
  const name = createHash('sha256').update(`${request.method} ${url.pathname}${url.search} ${length}`).digest('hex');
  const db = await database();
  for (const end = performance.now() + PATIENCE; ; ) {
    const known = await takeKey(db, key, name);
    if (known.is === 'answered') return new Response(known.answer.body, known.answer);
    if (known.is === 'other') throw new Problem(422, 'This idempotency key was used for another request');
    if (known.is === 'new') break;
    if (performance.now() > end) throw new Problem(409, 'The same request is still in progress');
    await new Promise((next) => setTimeout(next, LOOK));
  }
  try {
    const response = await run();
    const body = await response.text();
    const answer = { status: response.status, headers: Object.fromEntries(response.headers), body };
    await keepAnswer(db, key, answer);
    return new Response(body, answer);
  } catch (error) {
    await releaseKey(db, key).catch(() => undefined);
    throw error;
  }
}
