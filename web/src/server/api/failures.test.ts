import { describe, expect, it, vi } from 'vitest';

vi.mock('../log.ts', () => ({ log: { error: logged } }));
const { problemOf } = await import('./failures.ts');
const { Problem } = await import('../problem.ts');

/** The log entries, by call. */
function logged(...call: unknown[]): void {
  calls.push(call);
}
const calls: unknown[][] = [];

/** An error as a driver throws it, with a code, inside of another. */
const coded = (code: string) => new Error('insert into documents failed', { cause: Object.assign(new Error('secret words'), { code }) });

describe('the answer to a failure', () => {
  it.each([
    ['a connection that is refused', coded('ECONNREFUSED'), 503],
    ['a connection that was ended', coded('57P01'), 503],
    ['a database without connections left', coded('53300'), 503],
    ['a lock that was not had in time', coded('55P03'), 503],
    ['a disk without space', coded('53100'), 503],
    ['a read-only database', coded('25006'), 503],
    ['an input or output error', coded('58030'), 503],
    ['a missing file of the server', coded('58P01'), 503],
    ['memory that ran out', coded('53200'), 503],
    ['a broken protocol', coded('08P01'), 503],
    ['a transaction that another one overtook', coded('40001'), 503],
    ['a deadlock', coded('40P01'), 503],
    ['a silent database', new Error('Query read timeout'), 503],
    ['a pool that has none to give', new Error('timeout exceeded when trying to connect'), 503],
    ['text that cannot be kept', coded('22P05'), 422],
    ['a number that is too large', coded('22003'), 422],
    ['a statement that is too complex', coded('54001'), 422],
    ['a document that is gone', coded('23503'), 404],
    ['anything else', coded('XX000'), 500],
    ['what is no error at all', 'words', 500],
  ])('%s', (_, error, status) => {
    calls.length = 0;
    const problem = problemOf(error, 'request-7');
    expect(problem.status).toBe(status);
    expect(JSON.stringify([problem.message, problem.members])).not.toMatch(/secret|insert|documents failed/);
    // An unforeseen error is in the log, under the request's number in the answer.
    expect(calls).toHaveLength(status === 500 ? 1 : 0);
    if (status === 500) expect(problem.members).toEqual({ request: 'request-7' });
    if (status === 503) expect(problem.members).toHaveProperty('retryAfter');
  });

  it('is a problem as it was thrown', () => {
    const problem = new Problem(409, 'Changed elsewhere', { current: 1 });
    expect(problemOf(problem, '')).toBe(problem);
  });
});
