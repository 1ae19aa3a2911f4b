import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ShelfOpening } from '../../server/data/openings.ts';
import { fakeServer, fakeWindow, type Sent } from '../../testing/fakeServer.ts';
import { away, duplicate, fileOf, goBack, rename } from './actions.ts';
import { type ShelfItem, ShelfWork } from './shelfWork.ts';

const opening = { project: { id: 'P', name: 'Game', unit: 'px' } } as unknown as ShelfOpening;
const item = (id: string, over: Partial<ShelfItem> = {}) => ({ id, kind: 'tuning', name: `Doc ${id}`, head: 3, ...over }) as ShelfItem;
const counts = { tuning: 2, ground: 0, tape: 0, targets: 0, away: 0 };
let went: string[];

beforeEach(() => {
  vi.useFakeTimers();
  went = fakeWindow('/shelf/P?q=boots');
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A shelf whose pages come from `page`. */
function shelfOf(page: (query: Sent) => { items: ShelfItem[]; next?: string | null } | Promise<{ items: ShelfItem[] }>) {
  const sent = fakeServer(async (query) => ({ body: query.path.endsWith('/shelf') ? await page(query) : { counts } }));
  return { sent, shelf: new ShelfWork(opening) };
}
const ids = ({ $items }: ShelfWork) => $items.get()?.map(({ id }) => id);
const pages = (sent: Sent[]) => sent.filter(({ path }) => path.endsWith('/shelf')).map(({ query }) => query);

describe('a shelf', () => {
  it('asks for what its address says, counts, and picks the first', async () => {
    const { shelf, sent } = shelfOf(() => ({ items: [item('a'), item('b')] }));
    await shelf.load();
    expect(pages(sent)).toEqual([{ sort: 'changed', q: 'boots', kind: 'tunings' }]);
    expect(ids(shelf)).toEqual(['a', 'b']);
    expect(shelf.$counts.get()).toEqual(counts);
    expect(shelf.$picked.get()).toBe('a');
  });

  it('keeps the selection while it exists, with the shown revision', async () => {
    let all = [item('a'), item('b')];
    const { shelf } = shelfOf(() => ({ items: all }));
    await shelf.load();
    shelf.pick('b', 2);
    await shelf.load();
    expect([shelf.$picked.get(), shelf.$revision.get()]).toEqual(['b', 2]);
    all = [item('c'), item('a')];
    await shelf.load();
    expect([shelf.$picked.get(), shelf.$revision.get()]).toEqual(['c', null]);
    all = [];
    await shelf.load();
    expect(shelf.$picked.get()).toBeNull();
  });

  it('is requested once after much typing, and its address holds the query at once', async () => {
    const { shelf, sent } = shelfOf(() => ({ items: [] }));
    for (const q of ['w', 'wa', 'walk', 'walk > 80']) shelf.ask({ q }, true);
    expect(went.at(-1)).toBe('/shelf/P?q=walk+%3E+80');
    expect(sent).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(300);
    expect(pages(sent)).toEqual([{ sort: 'changed', q: 'walk > 80', kind: 'tunings' }]);
    shelf.ask({ board: 'away', q: '', sort: 'name' });
    await vi.advanceTimersByTimeAsync(0);
    expect(pages(sent).at(-1)).toEqual({ sort: 'name', away: 'true' });
    expect(went.at(-1)).toBe('/shelf/P?show=away&sort=name');
  });

  it('looks once after many changes elsewhere, and not at all once it is left', async () => {
    const { shelf, sent } = shelfOf(() => ({ items: [] }));
    for (let i = 0; i < 20; i++) {
      shelf.look();
      await vi.advanceTimersByTimeAsync(10);
    }
    await vi.advanceTimersByTimeAsync(300);
    expect(pages(sent)).toHaveLength(1);
    shelf.isLeft = true;
    shelf.look();
    await vi.advanceTimersByTimeAsync(300);
    expect(pages(sent)).toHaveLength(1);
  });

  it('adds a page after the other, and leaves what is picked', async () => {
    const { shelf } = shelfOf(({ query }) => (query['after'] === 'mark' ? { items: [item('c')] } : { items: [item('a')], next: 'mark' }));
    await shelf.load();
    expect(shelf.$more.get()).toBe('mark');
    await shelf.more();
    expect(ids(shelf)).toEqual(['a', 'c']);
    expect(shelf.$more.get()).toBeNull();
    expect(shelf.$picked.get()).toBe('a');
  });

  it('shows the last query’s rows, even if an older answer comes later', async () => {
    const waiting: { q: string | undefined; answer(): void }[] = [];
    const { shelf } = shelfOf(
      ({ query }) => new Promise((answer) => waiting.push({ q: query['q'], answer: () => answer({ items: [item(`of ${query['q']}`)] }) })),
    );
    const first = shelf.load();
    shelf.ask({ q: 'other' });
    await vi.advanceTimersByTimeAsync(0);
    for (const { answer } of waiting.toReversed()) answer();
    await first;
    await vi.advanceTimersByTimeAsync(0);
    expect(waiting.map(({ q }) => q)).toEqual(['boots', 'other']);
    expect(ids(shelf)).toEqual(['of other']);
    expect(shelf.$why.get()).toBeNull();
  });

  it('says why there is no answer, keeps what it had, and goes on with the next', async () => {
    const answers: unknown[] = [
      { body: { items: [item('a')] } },
      { status: 400, body: { title: 'walk must be compared with a number' } },
      null,
      { body: { items: [item('b')] } },
    ];
    fakeServer(({ path }) => (path.endsWith('/shelf') ? (answers.shift() as null) : { body: { counts } }));
    const shelf = new ShelfWork(opening);
    await shelf.load();
    await shelf.load();
    expect(shelf.$why.get()).toBe('walk must be compared with a number.');
    expect(ids(shelf)).toEqual(['a']);
    await shelf.load();
    expect(shelf.$why.get()).toBe('The server cannot be reached.');
    await shelf.load();
    expect([shelf.$why.get(), ids(shelf)]).toEqual([null, ['b']]);
  });
});

describe('what is done with a document of the shelf', () => {
  const file = { format: 'zygopod/tuning', version: 2, name: 'Doc a', pace: { walkSpeed: 90 } };
  /** The shelf's server, with a document `a` whose revision is 3, perhaps changed elsewhere since. */
  function serve({ isChanged = false } = {}) {
    const sent = fakeServer(({ method, path }) => {
      if (path.endsWith('/shelf')) return { body: { items: [item('made'), item('a')] } };
      if (path.startsWith('/projects')) return { body: { counts } };
      if (method === 'GET') return { body: { file: path.endsWith('/1') ? { ...file, name: 'First' } : file, head: 3 } };
      if (isChanged) return { status: 409, body: { title: 'It was changed elsewhere' } };
      return { status: 201, body: { id: 'made', number: 4 } };
    });
    return { shelf: new ShelfWork(opening), writes: () => sent.filter(({ method }) => method !== 'GET') };
  }

  it('makes a copy that says whose it is, and picks it', async () => {
    const { shelf, writes } = serve();
    expect(await duplicate(shelf, item('a'))).toBeNull();
    expect(writes()).toMatchObject([{ path: '/tunings', body: { file: { ...file, name: 'Doc a, a copy' }, note: 'From Doc a' } }]);
    expect(shelf.$picked.get()).toBe('made');
    const long = 'x'.repeat(120);
    await duplicate(shelf, item('a', { name: long }));
    const { name } = (writes() as unknown as { body: { file: { name: string } } }[])[1]?.body.file ?? { name: '' };
    expect(name).toBe(`${long.slice(0, 112)}, a copy`);
    expect(name.length).toBeLessThanOrEqual(120);
  });

  it('renames and goes back as a revision, against the one that was seen', async () => {
    const { shelf, writes } = serve();
    expect(await rename(shelf, item('a'), 'Miller')).toBeNull();
    expect(await goBack(shelf, item('a'), 1)).toBeNull();
    expect(writes()).toMatchObject([
      { path: '/tunings/a/revisions', headers: { 'if-match': '"3"' }, body: { file: { name: 'Miller' }, note: 'Was called Doc a' } },
      { path: '/tunings/a/revisions', headers: { 'if-match': '"3"' }, body: { file: { name: 'First' }, note: 'Back to rev 1' } },
    ]);
  });

  it('shows why it was not done, and the shelf stays as it was', async () => {
    const { shelf } = serve({ isChanged: true });
    for (const done of [
      rename(shelf, item('a'), 'Miller'),
      goBack(shelf, item('a'), 1),
      away(shelf, item('a')),
      duplicate(shelf, item('a')),
    ])
      expect(await done).toBe('It was changed elsewhere.');
    expect(shelf.$items.get()).toBeNull();
  });

  it('asks for each kind where it is kept', async () => {
    const sent = fakeServer(() => ({ body: { file, head: 1 } }));
    for (const kind of ['tuning', 'ground', 'tape', 'targets', 'sweep'] as const)
      await fileOf(item('x', { kind }), kind === 'tape' ? 2 : null);
    expect(sent.map(({ path }) => path)).toEqual(['/tunings/x', '/grounds/x', '/tapes/x/revisions/2', '/targets/x', '/sweeps/x']);
  });
});
