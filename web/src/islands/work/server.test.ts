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

const make = (name: string) => askServer('POST', '/api/v1/tunings', { name });
const keys = () => sent.map(({ headers }) => headers['idempotency-key']);

it('two clicks at once are one request', async () => {
  answers = [{ body: { id: 'a' } }];
  expect(await Promise.all([make('twice'), make('twice')])).toEqual([{ body: { id: 'a' } }, { body: { id: 'a' } }]);
  expect(sent).toHaveLength(1);
});

it('a second click a moment later, and a try after a lost answer, bring the key of the first', async () => {
  answers = [null, { status: 503 }, { body: { id: 'a' } }, { body: { id: 'a' } }];
  for (let i = 0; i < 4; i++) await make('lost');
  expect(new Set(keys()).size).toBe(1);
});

it('what was refused, or is asked later on, is another request', async () => {
  answers = [{ status: 422 }, { body: {} }, { body: {} }];
  await make('other');
  await make('other');
  await vi.advanceTimersByTimeAsync(2000);
  await make('other');
  expect(new Set(keys()).size).toBe(3);
});

it('what makes nothing brings no key', async () => {
  answers = [{ body: {} }, { body: {} }];
  await askServer('GET', '/api/v1/tunings');
  await askServer('POST', '/api/v1/tunings/x/back');
  expect(keys()).toEqual([undefined, undefined]);
});
