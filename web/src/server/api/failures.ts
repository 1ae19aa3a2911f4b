import { noteTrouble } from '../data/trouble.ts';
import { log } from '../log.ts';
import { Problem } from '../problem.ts';

/** SQLSTATEs of transactions that conflicted with another one: the same request may succeed a moment later. */
const CONTENDED = /^(40|55P03)/;

/**
 * Errors of the database, its driver and the operating system that mean that it can't do its work now: classes 08 (connection), 53 (resources),
 * 57 (operator intervention) and 58 (system error), an idle transaction that was ended, and failures of the socket.
 */
const AWAY = /^(08|53|57|58|25P03|ECONN|ENOTFOUND|ETIMEDOUT|EPIPE|ENOENT)/;

function isAway(error: unknown): boolean {
  for (let e = error; e instanceof Error; e = e.cause) {
    if ('code' in e && AWAY.test(String(e.code))) return true;
    if (/connection (terminated|timeout|error)|timeout exceeded when trying to connect|query read timeout|not queryable/i.test(e.message))
      return true;
  }
  return false;
}

function isContended(error: unknown): boolean {
  for (let e = error; e instanceof Error; e = e.cause) if ('code' in e && CONTENDED.test(String(e.code))) return true;
  return false;
}

/** The reason why a request wasn't saved, in words, by the database's trouble. */
const words = {
  full: 'The database has no space left; the request was not saved',
  readOnly: 'The database is read-only now; the request was not saved',
  down: 'The database cannot be reached; the request was not saved',
} as const;

/** Converts database errors caused by the request: text it can't hold, numbers too large, a document deleted meanwhile. */
function refusal(error: unknown): Problem | null {
  for (let e = error; e instanceof Error; e = e.cause) {
    const code = 'code' in e ? String(e.code) : '';
    if (code === '23503') return new Problem(404, 'The document was removed meanwhile');
    // Text that cannot be kept, a number out of range, a statement or a nesting that is too complex.
    if (code.startsWith('22') || code.startsWith('54')) return new Problem(422, 'The document holds text or numbers that cannot be kept');
  }
  return null;
}

/** Converts anything thrown to a problem, never with an exception's own text. */
export function problemOf(error: unknown, request: string): Problem {
  if (error instanceof Problem) return error;
  const refused = refusal(error);
  if (refused) return refused;
  const trouble = noteTrouble(error) ?? (isAway(error) ? 'down' : null);
  if (trouble) return new Problem(503, words[trouble], { retryAfter: trouble === 'down' ? 2 : 10, database: trouble });
  if (isContended(error)) return new Problem(503, 'Others were writing the same; try again in a moment', { retryAfter: 1 });
  log.error({ request, error: error instanceof Error ? error.stack : String(error) }, 'an endpoint failed');
  return new Problem(500, 'The server failed; the fault is in its log', { request });
}
