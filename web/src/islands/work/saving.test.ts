import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Saving } from './saving.ts';

interface Sent {
  path: string;
  init: RequestInit & { headers: Record<string, string> };
}
let sent: Sent[];
let answers: { status: number; body: unknown }[];
let kept: Map<string, string>;
let full: boolean;

beforeEach(() => {
  sent = [];
  answers = [];
  kept = new Map();
  full = false;
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    removeItem: (key: string) => kept.delete(key),
    setItem: (key: string, text: string) => {
      if (full) throw new DOMException('the store is full', 'QuotaExceededError');
      kept.set(key, text);
    },
  });
  vi.stubGlobal('fetch', async (path: string, init: Sent['init']) => {
    sent.push({ path, init });
    const answer = answers.shift();
    if (!answer) throw new TypeError('away');
    return new Response(JSON.stringify(answer.body), { status: answer.status });
  });
});
afterEach(() => vi.unstubAllGlobals());

const open = () => new Saving<{ name: string }>('grounds', { id: 'abc', head: 3, saved: { name: 'three' }, draftVersion: 0 });
const draft = (version: number) => ({ status: 200, body: { version } });

describe('saving', () => {
  it('takes a draft that says what is sent for its own: a page that was left has sent it already', async () => {
    const saving = open();
    answers = [{ status: 409, body: { current: { file: { name: 'again' }, version: 7, base: 3 } } }, draft(8)];
    saving.keep({ name: 'again' });
    await saving.flush();
    expect(saving.$state.get()).toEqual({ at: 'draft' });
    saving.keep({ name: 'more' });
    await saving.flush();
    expect(sent.at(-1)?.init.headers['if-match']).toBe('"7"');
  });

  it('keeps a draft here at once and on the server, naming the version that was last seen', async () => {
    const saving = open();
    answers.push(draft(1), draft(2));
    saving.keep({ name: 'one' });
    expect(Saving.unsent('abc', 3, 0)).toEqual({ name: 'one' });
    await saving.flush();
    saving.keep({ name: 'two' });
    await saving.flush();
    expect(sent.map(({ path, init }) => [path, init.method, init.headers['if-none-match'] ?? init.headers['if-match']])).toEqual([
      ['/api/v1/grounds/abc/draft', 'PUT', '*'],
      ['/api/v1/grounds/abc/draft', 'PUT', '"1"'],
    ]);
    expect(saving.$state.get()).toEqual({ at: 'draft' });
    expect(Saving.unsent('abc', 3, 2)).toBeNull();
  });

  it('asks only small requests to outlive the page: browsers refuse larger ones', async () => {
    const saving = open();
    answers.push(draft(1), draft(2));
    saving.keep({ name: 'small' });
    await saving.flush();
    saving.keep({ name: 'x'.repeat(70_000) });
    await saving.flush();
    expect(sent.map(({ init }) => init.keepalive)).toEqual([true, false]);
    expect(saving.$state.get()).toEqual({ at: 'draft' });
  });

  it('goes on without this browser’s store where that is full', async () => {
    const saving = open();
    full = true;
    answers.push(draft(1));
    saving.keep({ name: 'large' });
    await saving.flush();
    expect(saving.$state.get()).toEqual({ at: 'draft' });
  });

  it('says that it is offline, keeps the change here, and sends it once the server answers', async () => {
    const saving = open();
    saving.keep({ name: 'kept' });
    await saving.flush();
    expect(saving.$state.get()).toMatchObject({ at: 'offline' });
    expect(Saving.unsent('abc', 3, 0)).toEqual({ name: 'kept' });
    answers.push(draft(1));
    await saving.flush();
    expect(saving.$state.get()).toEqual({ at: 'draft' });
  });

  it('shows a conflict instead of overwriting, and goes on from the other’s version once it is settled', async () => {
    const saving = open();
    answers.push(
      { status: 409, body: { current: { file: { name: 'theirs' }, version: 5, base: 4 } } },
      { status: 200, body: { file: { name: 'four' } } },
    );
    saving.keep({ name: 'mine' });
    await saving.flush();
    expect(saving.$state.get()).toEqual({
      at: 'conflict',
      theirs: { name: 'theirs' },
      version: 5,
      base: 4,
      from: [{ name: 'three' }],
      head: 4,
      saved: { name: 'four' },
    });
    answers.push(draft(6));
    saving.settle({ name: 'both' });
    await saving.flush();
    expect(sent.at(-1)?.init.headers['if-match']).toBe('"5"');
    expect(saving.$head.get()).toBe(4);
  });

  it('saves a revision on top of the one that it knows; the draft is kept where that fails', async () => {
    const saving = open();
    answers.push({ status: 201, body: { number: 4 } });
    expect(await saving.saveRevision({ name: 'done' }, 'a note')).toBeNull();
    expect(saving.$head.get()).toBe(4);
    expect(sent[0]?.init.headers['if-match']).toBe('"3"');
    answers.push({ status: 409, body: { current: { file: { name: 'theirs' }, number: 5 } } });
    expect(await saving.saveRevision({ name: 'late' }, '')).toContain('newer revision');
    expect(saving.$state.get()).toMatchObject({ at: 'conflict', head: 5 });
  });

  it('names the draft that a revision ends, and offers another one that it did not', async () => {
    const saving = open();
    answers.push(draft(8));
    saving.keep({ name: 'mine' });
    await saving.flush();
    const other = { file: { name: 'theirs' }, version: 11, base: 3 };
    answers.push({ status: 201, body: { number: 4, draft: other } }, { status: 200, body: { file: { name: 'three' } } });
    expect(await saving.saveRevision({ name: 'mine' }, '')).toBeNull();
    expect(JSON.parse(sent[1]?.init.body as string)).toEqual({ file: { name: 'mine' }, note: '', draft: '"8"' });
    expect(saving.$state.get()).toEqual({
      at: 'conflict',
      theirs: other.file,
      version: 11,
      base: 3,
      from: [{ name: 'three' }, { name: 'mine' }],
    });
  });
});
