import { log } from '../log.ts';
import { Problem } from '../problem.ts';

/** Errors of the driver and of the operating system that mean that the database cannot be reached now. */
const UNREACHABLE = /^(08|57|53300|55P03|25P03|ECONN|ENOTFOUND|ETIMEDOUT|EPIPE|ENOENT)/;

function isUnreachable(error: unknown): boolean {
  for (let e = error; e instanceof Error; e = e.cause) {
    if ('code' in e && UNREACHABLE.test(String(e.code))) return true;
    if (/connection (terminated|timeout|error)|timeout exceeded when trying to connect|query read timeout|not queryable/i.test(e.message))
      return true;
  }
  return false;
}

/** What the database refuses because of what was sent: text that it cannot hold, numbers that are too large, a document that is gone by now. */
function refusal(error: unknown): Problem | null {
  for (let e = error; e instanceof Error; e = e.cause) {
    const code = 'code' in e ? String(e.code) : '';
    if (code === '23503') return new Problem(404, 'The document was removed meanwhile');
    // Text that cannot be kept, a number out of range, a statement or a nesting that is too complex.
    if (code.startsWith('22') || code.startsWith('54')) return new Problem(422, 'The document holds text or numbers that cannot be kept');
  }
  return null;
}

/** What is told of whatever was thrown: a problem, never an exception's own words. */
export function problemOf(error: unknown, request: string): Problem {
  if (error instanceof Problem) return error;
  const refused = refusal(error);
  if (refused) return refused;
  if (isUnreachable(error)) return new Problem(503, 'The database cannot be reached; what was sent was not saved', { retryAfter: 2 });
  log.error({ request, error: error instanceof Error ? error.stack : String(error) }, 'an endpoint failed');
  return new Problem(500, 'The server failed; the fault is in its log', { request });
}
