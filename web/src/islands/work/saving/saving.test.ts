import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { MemoryCopies } from '../../../testing/memoryCopies.ts';
import type { Outcome } from '../server.ts';
import { Saving } from './saving.ts';

interface Sent {
  path: string;
  init: RequestInit & { headers: Record<string, string> };
}
let sent: Sent[];
let answers: { status: number; body: unknown }[];
let copies: MemoryCopies;

beforeEach(() => {
  vi.useFakeTimers();
  sent = [];
  answers = [];
  copies = new MemoryCopies();
  vi.stubGlobal('fetch', async (path: string, init: Sent['init']) => {
    sent.push({ path, init });
    const answer = answers.shift();
    if (!answer) throw new TypeError('away');
    return new Response(JSON.stringify(answer.body), { status: answer.status });
  });
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const open = () =>
  new Saving<{ name: string }>('grounds', { id: 'abc', head: 3, saved: { name: 'three' }, draftVersion: 0 }, { at: 'saved' }, copies, 'p');
/** The browser's copies of the page's work. */
const kept = async () => (await copies.of('abc'))[0]?.file ?? null;
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
    await null;
    await null;
    expect(await kept()).toEqual({ name: 'one' });
    await saving.flush();
    saving.keep({ name: 'two' });
    await saving.flush();
    expect(sent.map(({ path, init }) => [path, init.method, init.headers['if-none-match'] ?? init.headers['if-match']])).toEqual([
      ['/api/v1/grounds/abc/draft', 'PUT', '*'],
      ['/api/v1/grounds/abc/draft', 'PUT', '"1"'],
    ]);
    expect(saving.$state.get()).toEqual({ at: 'draft' });
    await vi.advanceTimersByTimeAsync(0);
    expect(await kept()).toBeNull();
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
    copies.isFull = true;
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
    expect(await kept()).toEqual({ name: 'kept' });
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
      sent: [],
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
      sent: [],
    });
  });

  it('says that what cannot be sent cannot be kept here either, and that leaving would lose it', async () => {
    const saving = open();
    copies.isFull = true;
    saving.keep({ name: 'nowhere' });
    await saving.flush();
    expect([saving.$kept.get(), saving.leave()]).toEqual([false, false]);
    copies.isFull = false;
    expect(saving.leave()).toBe(true);
    expect(await kept()).toEqual({ name: 'nowhere' });
  });

  it.each([
    [404, { title: 'Away', putAwayAt: 'now' }, 'archived', 0],
    [404, { title: 'None' }, 'gone', 0],
    [401, {}, 'unauthorised', 0],
    [403, {}, 'forbidden', 0],
    [413, { found: 9, most: 8 }, 'tooLarge', 0],
    [422, {}, 'invalid', 0],
    [500, {}, 'failed', 5],
    [503, {}, null, 5],
    [429, {}, null, 5],
  ] as const)('after %i tries again only where that can help', async (status, body, refusal, times) => {
    const saving = open();
    answers = Array.from({ length: 100 }, () => ({ status, body }));
    saving.keep({ name: 'again' });
    await vi.advanceTimersByTimeAsync(300);
    expect(saving.$state.get()).toMatchObject(refusal ? { at: 'refused', refusal } : { at: 'offline' });
    // 2, 4, 8, 16 and 30 s: growing pauses.
    await vi.advanceTimersByTimeAsync(61_000);
    expect(sent).toHaveLength(1 + times);
    expect(await kept()).toEqual({ name: 'again' });
    answers = [draft(1)];
    await saving.retry();
    expect(saving.$state.get()).toEqual({ at: 'draft' });
  });

  it('says that the document was archived, also where the answer to a draft of before comes after that', async () => {
    const saving = open();
    let answer: (response: Response) => void = () => undefined;
    vi.stubGlobal('fetch', () => {
      const { promise, resolve } = Promise.withResolvers<Response>();
      answer = resolve;
      return promise;
    });
    saving.keep({ name: 'sent' });
    const flushed = saving.flush();
    await vi.advanceTimersByTimeAsync(0);
    const archived = saving.archived();
    answer(new Response(JSON.stringify({ version: 1 }), { status: 200 }));
    await Promise.all([flushed, archived]);
    expect(saving.$state.get()).toMatchObject({ at: 'refused', refusal: 'archived' });
  });

  describe('of a document that is not on the server yet', () => {
    const created: string[] = [];
    let outcomes: Outcome<unknown>[];
    const away: Outcome<unknown> = { is: 'offline', status: 0, why: 'The server cannot be reached.', problem: {}, retryAfter: 0 };
    const unsaved = () =>
      new Saving<{ name: string }>(
        'grounds',
        { id: 'abc', head: 0, saved: { name: 'none' }, draftVersion: 0 },
        { at: 'saved' },
        copies,
        'p',
        () => {
          created.push(`after ${sent.length} requests`);
          return Promise.resolve(outcomes.shift() ?? { is: 'ok', body: null });
        },
      );
    beforeEach(() => {
      created.length = 0;
      outcomes = [];
    });

    it('creates it before the first draft, once, and stands on its first revision', async () => {
      const saving = unsaved();
      answers = [draft(1), draft(2)];
      expect(await saving.look()).toBeNull();
      expect(sent).toEqual([]);
      saving.keep({ name: 'one' });
      await saving.flush();
      saving.keep({ name: 'two' });
      await saving.flush();
      expect(created).toEqual(['after 0 requests']);
      expect(sent.map(({ init }) => JSON.parse(String(init.body)).base)).toEqual([1, 1]);
      expect([saving.$head.get(), saving.$state.get()]).toEqual([1, { at: 'draft' }]);
    });

    it('keeps what is typed in the browser while it cannot be created, and tries again', async () => {
      const saving = unsaved();
      outcomes = [away, away];
      answers = [draft(1)];
      saving.keep({ name: 'typed' });
      await saving.flush();
      expect(saving.$state.get()).toMatchObject({ at: 'offline' });
      expect(await kept()).toEqual({ name: 'typed' });
      await vi.advanceTimersByTimeAsync(20_000);
      expect(created).toHaveLength(3);
      expect(saving.$state.get()).toEqual({ at: 'draft' });
    });

    it('creates it before a revision, which is its second', async () => {
      const saving = unsaved();
      outcomes = [away];
      expect(await saving.saveRevision({ name: 'as it was' }, '')).toContain('cannot be reached');
      expect(sent).toEqual([]);
      answers = [{ status: 201, body: { number: 2 } }];
      expect(await saving.saveRevision({ name: 'as it was' }, '')).toBeNull();
      expect(sent[0]?.init.headers['if-match']).toBe('"1"');
      expect(saving.$head.get()).toBe(2);
    });
  });

  it('sends another file where the one before was refused for what it was', async () => {
    const saving = open();
    answers = [{ status: 413, body: {} }, draft(1)];
    saving.keep({ name: 'too large' });
    await vi.advanceTimersByTimeAsync(300);
    saving.keep({ name: 'smaller' });
    await vi.advanceTimersByTimeAsync(300);
    expect(saving.$state.get()).toEqual({ at: 'draft' });
  });

  it('takes a revision whose answer was lost for its own when it is saved again', async () => {
    const saving = open();
    expect(await saving.saveRevision({ name: 'done' }, '')).toContain('Your draft is kept');
    answers = [{ status: 409, body: { current: { file: { name: 'done' }, number: 4 } } }];
    expect(await saving.saveRevision({ name: 'done' }, '')).toBeNull();
    expect([saving.$head.get(), saving.$state.get()]).toEqual([4, { at: 'saved' }]);
  });

  it('goes on with further typing while a revision is in transit', async () => {
    const saving = open();
    answers = [{ status: 201, body: { number: 4 } }, draft(1)];
    const saved = saving.saveRevision({ name: 'done' }, '');
    await null;
    saving.keep({ name: 'more' });
    await saved;
    expect(await kept()).toEqual({ name: 'more' });
    await vi.advanceTimersByTimeAsync(300);
    expect(JSON.parse(sent.at(-1)?.init.body as string)).toEqual({ file: { name: 'more' }, base: 4 });
    expect(saving.$state.get()).toEqual({ at: 'draft' });
  });
});
