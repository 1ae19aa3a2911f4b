import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { fakeServer, type Sent } from '../../testing/fakeServer.ts';
import { askServer } from './server.ts';

let sent: Sent[];
let answers: ({ status?: number; body?: unknown } | null)[];
beforeEach(() => {
  vi.useFakeTimers();
  answers = [];
  sent = fakeServer(() => answers.shift() ?? null);
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const create = (name: string) => askServer('POST', '/api/v1/tunings', { body: { name } });
const keys = () => sent.map(({ headers }) => headers['idempotency-key']);

it('two clicks at once are one request', async () => {
  answers = [{ body: { id: 'a' } }];
  expect(await Promise.all([create('twice'), create('twice')])).toEqual([
    { is: 'ok', body: { id: 'a' } },
    { is: 'ok', body: { id: 'a' } },
  ]);
  expect(sent).toHaveLength(1);
});

it('a second click a moment later, and a try after a lost answer, bring the key of the first', async () => {
  answers = [null, { status: 503 }, { body: { id: 'a' } }, { body: { id: 'a' } }];
  for (let i = 0; i < 4; i++) await create('lost');
  expect(new Set(keys()).size).toBe(1);
});

it('after a refusal, or later on, it is another request', async () => {
  answers = [{ status: 422 }, { body: {} }, { body: {} }];
  await create('other');
  await create('other');
  await vi.advanceTimersByTimeAsync(2000);
  await create('other');
  expect(new Set(keys()).size).toBe(3);
});

it('what makes nothing brings no key', async () => {
  answers = [{ body: {} }, { body: {} }];
  await askServer('GET', '/api/v1/tunings');
  await askServer('POST', '/api/v1/tunings/x/back');
  expect(keys()).toEqual([undefined, undefined]);
});

it('the end of a request is classified by what can be done about it', async () => {
  const kinds: [number, object, string][] = [
    [200, {}, 'ok'],
    [201, {}, 'ok'],
    [204, {}, 'ok'],
    [400, {}, 'invalid'],
    [422, {}, 'invalid'],
    [401, {}, 'unauthorised'],
    [403, {}, 'forbidden'],
    [421, {}, 'forbidden'],
    [404, {}, 'gone'],
    [404, { putAwayAt: '2026-01-01T00:00:00Z' }, 'archived'],
    [410, {}, 'gone'],
    [409, { current: { number: 3 } }, 'conflict'],
    [412, {}, 'conflict'],
    [413, {}, 'tooLarge'],
    [429, {}, 'offline'],
    [500, {}, 'failed'],
    [501, {}, 'failed'],
    [503, {}, 'offline'],
    [504, {}, 'offline'],
  ];
  for (const [status, body, is] of kinds) {
    answers = [{ status, body }];
    expect(await askServer('GET', '/api/v1/x'), String(status)).toMatchObject(is === 'ok' ? { is } : { is, status, problem: body });
  }
  answers = [null];
  expect(await askServer('GET', '/api/v1/x')).toMatchObject({ is: 'offline', status: 0 });
});

it('a request that the page ends itself is no lost server', async () => {
  const own = new AbortController();
  fakeServer(() => {
    own.abort();
    return { body: {} };
  });
  expect(await askServer('GET', '/api/v1/x', { signal: own.signal })).toMatchObject({ is: 'aborted' });
});

it('the version that was seen stands in the condition of a write; none seen is a condition, too', async () => {
  answers = [{ body: {} }, { body: {} }, { body: {} }];
  await askServer('PUT', '/api/v1/x', { body: {}, seen: 7 });
  await askServer('PUT', '/api/v1/x', { body: {}, seen: 0 });
  await askServer('PUT', '/api/v1/x', { body: {} });
  expect(sent.map(({ headers }) => [headers['if-match'], headers['if-none-match']])).toEqual([
    ['"7"', undefined],
    [undefined, '*'],
    [undefined, undefined],
  ]);
});
