import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { BrowserCopies, type Copy } from './copies.ts';

/** A small store as a browser's: its keys are its own, and it has so much room. */
class SmallStore {
  static room = Infinity;
  constructor() {
    Object.defineProperties(this, {
      getItem: { value: (key: string) => (this as never as Record<string, string>)[key] ?? null },
      removeItem: { value: (key: string) => delete (this as never as Record<string, string>)[key] },
      setItem: {
        value: (key: string, text: string) => {
          const used = Object.entries(this).reduce((sum, [name, value]) => sum + (name === key ? 0 : String(value).length), 0);
          if (used + text.length > SmallStore.room) throw new DOMException('full', 'QuotaExceededError');
          (this as never as Record<string, string>)[key] = text;
        },
      },
    });
  }
}

const copy = (turn: number, over: Partial<Copy> = {}): Copy => ({
  id: 'doc',
  page: 'p',
  turn,
  at: turn,
  from: [{ a: 0 }],
  sent: [],
  file: { a: turn },
  ...over,
});

let small: Storage;
beforeEach(() => {
  vi.stubGlobal('indexedDB', new IDBFactory());
  SmallStore.room = Infinity;
  small = new SmallStore() as never;
  vi.stubGlobal('localStorage', small);
});
afterEach(() => vi.unstubAllGlobals());

describe('copies in a browser', () => {
  it('are kept one a page, the newest of each, and dropped', async () => {
    const copies = new BrowserCopies();
    expect(await copies.put(copy(1))).toBe(true);
    await copies.put(copy(2));
    await copies.put(copy(5, { page: 'q' }));
    await copies.put(copy(1, { id: 'other' }));
    expect((await copies.of('doc')).map(({ page, turn }) => [page, turn])).toEqual([
      ['p', 2],
      ['q', 5],
    ]);
    await copies.drop('doc', 'p');
    expect((await new BrowserCopies().of('doc')).map(({ page }) => page)).toEqual(['q']);
  });

  it('that were kept at once, as a page was left, count until a newer one is in the database', async () => {
    const copies = new BrowserCopies();
    await copies.put(copy(1));
    expect(copies.putNow(copy(2))).toBe(true);
    expect((await copies.of('doc'))[0]?.turn).toBe(2);
    await copies.put(copy(3));
    expect([(await copies.of('doc'))[0]?.turn, Object.keys(small)]).toEqual([3, []]);
  });

  it('go to the small store where there is no database, and recorded drives make room there', async () => {
    vi.stubGlobal('indexedDB', undefined);
    const copies = new BrowserCopies();
    small.setItem('zygopod-drive:t:1:0', 'x'.repeat(500));
    SmallStore.room = 520;
    expect(await copies.put(copy(1))).toBe(true);
    expect(Object.keys(small)).toEqual(['zygopod-copy:doc:p']);
    expect((await copies.of('doc'))[0]?.file).toEqual({ a: 1 });
    SmallStore.room = 10;
    expect(await copies.put(copy(2))).toBe(false);
    // The older one is better than none.
    expect((await copies.of('doc'))[0]?.file).toEqual({ a: 1 });
  });
});
