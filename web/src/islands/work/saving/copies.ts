import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

/** Work of a page that isn't known to be on the server, as this browser keeps it. */
export interface Copy<F = unknown> {
  /** The document, and the page that worked on it. */
  id: string;
  page: string;
  /** Number of copies that the page has written; of two, the higher one wins. */
  turn: number;
  /** Time of writing, ms since 1970. */
  at: number;
  /** Files of the server that the work grew from, the newest last. */
  from: readonly F[];
  /** States of the work that were sent: each may have arrived. */
  sent: readonly F[];
  file: F;
}

/** Where copies are kept. */
export interface Copies {
  /** Keeps a copy in place of the page's earlier one; false if this browser can't. */
  put(copy: Copy): Promise<boolean>;
  /** The same at once, for a page that is being left. */
  putNow(copy: Copy): boolean;
  /** The copies of a document, one a page, the oldest first. */
  of(id: string): Promise<Copy[]>;
  drop(id: string, page: string): Promise<void>;
}

interface Schema extends DBSchema {
  copies: { key: [string, string]; value: Copy; indexes: { id: string } };
}

const PREFIX = 'zygopod-copy:';
/** Recorded drives lie in the browser's small store, too: they make room. */
const DRIVES = 'zygopod-drive:';

/** Milliseconds that the browser's database may take: one that another page blocks must not hold the work up. */
const PATIENCE = 3000;

const keyOf = (id: string, page: string) => `${PREFIX}${id}:${page}`;

async function inTime<T>(work: Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new Error('the browser’s database does not answer')), PATIENCE);
  });
  work.catch(() => undefined);
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
}

/** Copies in this browser: in its database, and, where that fails or there is no time for it, in its small store. */
export class BrowserCopies implements Copies {
  #opened: Promise<IDBPDatabase<Schema>> | null = null;

  #database(): Promise<IDBPDatabase<Schema>> {
    this.#opened ??= openDB<Schema>('zygopod-work', 1, {
      upgrade: (db) => {
        db.createObjectStore('copies', { keyPath: ['id', 'page'] }).createIndex('id', 'id');
      },
      terminated: () => {
        this.#opened = null;
      },
    });
    this.#opened.catch(() => {
      this.#opened = null;
    });
    return inTime(this.#opened);
  }

  async put(copy: Copy): Promise<boolean> {
    try {
      await inTime((await this.#database()).put('copies', copy));
    } catch {
      return this.putNow(copy);
    }
    const small = smallCopy(keyOf(copy.id, copy.page));
    if (small && small.turn <= copy.turn) localStorage.removeItem(keyOf(copy.id, copy.page));
    return true;
  }

  putNow(copy: Copy): boolean {
    const [key, text] = [keyOf(copy.id, copy.page), JSON.stringify(copy)];
    for (const isLast of [false, true])
      try {
        localStorage.setItem(key, text);
        return true;
      } catch {
        // An older copy stays: it is better than none.
        if (!isLast) dropDrives();
      }
    return false;
  }

  async of(id: string): Promise<Copy[]> {
    const found = new Map<string, Copy>();
    const take = (copy: Copy) => {
      if ((found.get(copy.page)?.turn ?? -1) < copy.turn) found.set(copy.page, copy);
    };
    try {
      for (const copy of await inTime((await this.#database()).getAllFromIndex('copies', 'id', id))) take(copy);
    } catch {
      // Local storage has all there is.
    }
    for (const key of smallKeys()) {
      const copy = key.startsWith(`${PREFIX}${id}:`) ? smallCopy(key) : null;
      if (copy) take(copy);
    }
    return [...found.values()].sort((a, b) => a.at - b.at);
  }

  async drop(id: string, page: string): Promise<void> {
    try {
      localStorage.removeItem(keyOf(id, page));
    } catch {
      // Nothing is there where there is no store.
    }
    try {
      await inTime((await this.#database()).delete('copies', [id, page]));
    } catch {
      // It is read and dropped when the document is opened again.
    }
  }
}

function smallKeys(): string[] {
  try {
    return Object.keys(localStorage);
  } catch {
    return [];
  }
}

function smallCopy(key: string): Copy | null {
  try {
    const copy = JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<Copy> | null;
    const isCopy = typeof copy?.turn === 'number' && typeof copy.page === 'string' && Array.isArray(copy.from) && Array.isArray(copy.sent);
    return isCopy ? (copy as Copy) : null;
  } catch {
    return null;
  }
}

function dropDrives(): void {
  for (const key of smallKeys()) if (key.startsWith(DRIVES)) localStorage.removeItem(key);
}
