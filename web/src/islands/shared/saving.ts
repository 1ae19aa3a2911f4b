import { atom } from 'nanostores';

/** Where the work stands with the server. */
export type SaveState<F> =
  | { at: 'saved' }
  | { at: 'keeping' }
  | { at: 'draft' }
  | { at: 'offline'; why: string }
  | { at: 'conflict'; theirs: F; version: number; base: number; head?: number };

interface Origin {
  id: string;
  head: number;
  draftVersion: number;
}

/** Pause after the last change before the draft is sent, and between tries while the server is away (ms). */
const PAUSE = 300;
const RETRY = 2000;

/**
 * Keeps the draft on the server within a second of each change, and in this browser at once, so that a reload, a killed
 * server and a lost connection lose nothing. Writes name the version last seen: a draft that another tab has moved on
 * is never overwritten but shown as a conflict.
 */
export class Saving<F> {
  readonly $state = atom<SaveState<F>>({ at: 'saved' });
  readonly $head: ReturnType<typeof atom<number>>;
  readonly #path: string;
  #origin: Origin;
  #pending: F | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #sending: Promise<void> | null = null;

  constructor(collection: 'tunings' | 'grounds', origin: Origin) {
    this.#path = `/api/v1/${collection}/${origin.id}`;
    this.#origin = { ...origin };
    this.$head = atom(origin.head);
    if (origin.draftVersion > 0) this.$state.set({ at: 'draft' });
  }

  /** A change that another run of this page could not send any more, if there is one that is newer than the server's draft. */
  static unsent(id: string, draftVersion: number): unknown {
    try {
      const kept = JSON.parse(localStorage.getItem(keyOf(id)) ?? 'null') as { version: number; file: unknown } | null;
      return kept && kept.version === draftVersion ? kept.file : null;
    } catch {
      return null;
    }
  }

  /** The file has changed: keep it here now and on the server soon. */
  keep(file: F): void {
    this.#pending = file;
    keepHere(keyOf(this.#origin.id), JSON.stringify({ version: this.#origin.draftVersion, file }));
    if (this.$state.get().at === 'conflict') return;
    if (this.$state.get().at !== 'offline') this.$state.set({ at: 'keeping' });
    this.#schedule(PAUSE);
  }

  #schedule(delay: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.flush(), delay);
  }

  /** Sends what is pending now; one request at a time. */
  async flush(): Promise<void> {
    clearTimeout(this.#timer);
    if (this.#sending) {
      await this.#sending;
      return this.flush();
    }
    const file = this.#pending;
    if (!file || this.$state.get().at === 'conflict') return;
    this.#pending = null;
    this.#sending = this.#send(file).finally(() => {
      this.#sending = null;
    });
    await this.#sending;
  }

  async #send(file: F): Promise<void> {
    const { id, head, draftVersion } = this.#origin;
    const answer = await request('PUT', `${this.#path}/draft`, { file, base: head }, draftVersion);
    if (answer.ok) {
      this.#origin.draftVersion = Number(answer.body['version']);
      if (this.#pending === null) {
        localStorage.removeItem(keyOf(id));
        this.$state.set({ at: 'draft' });
      } else this.#schedule(PAUSE);
    } else if (answer.status === 409) {
      this.#pending ??= file;
      await this.#meetConflict(answer.body['current'] as { file: F; version: number; base: number } | null);
    } else {
      this.#pending ??= file;
      this.$state.set({ at: 'offline', why: answer.why });
      this.#schedule(RETRY);
    }
  }

  /** Somebody else wrote: show their draft, or, when it became a revision, that revision. */
  async #meetConflict(current: { file: F; version: number; base: number } | null): Promise<void> {
    if (current) {
      this.$state.set({ at: 'conflict', theirs: current.file, version: current.version, base: current.base });
      return;
    }
    const answer = await request('GET', this.#path);
    if (answer.ok)
      this.$state.set({
        at: 'conflict',
        theirs: answer.body['file'] as F,
        version: 0,
        base: Number(answer.body['head']),
        head: Number(answer.body['head']),
      });
    else this.$state.set({ at: 'offline', why: answer.why });
  }

  /** Goes on from the other's state, with `file` as what is wanted now. */
  settle(file: F): F | null {
    const state = this.$state.get();
    if (state.at !== 'conflict') return null;
    this.#origin.draftVersion = state.version;
    this.#origin.head = state.base;
    this.$head.set(state.base);
    this.$state.set({ at: 'keeping' });
    this.keep(file);
    return state.theirs;
  }

  /** Saves a revision; returns null, or why it failed. The draft stays when it fails. */
  async saveRevision(file: F, note: string): Promise<string | null> {
    await this.flush();
    const { id, head } = this.#origin;
    const answer = await request('POST', `${this.#path}/revisions`, { file, note }, head);
    if (answer.ok) {
      this.#origin = { id, head: Number(answer.body['number']), draftVersion: 0 };
      this.$head.set(this.#origin.head);
      localStorage.removeItem(keyOf(id));
      this.$state.set({ at: 'saved' });
      return null;
    }
    if (answer.status === 409) {
      const current = answer.body['current'] as { file: F; number: number } | undefined;
      if (current) this.$state.set({ at: 'conflict', theirs: current.file, version: 0, base: current.number, head: current.number });
      return 'Somebody saved a newer revision meanwhile. Your draft is kept.';
    }
    return `${answer.why} Your draft is kept.`;
  }
}

/** Keeps a text in this browser. A ground too large for its store goes to the server alone. */
function keepHere(key: string, text: string): void {
  try {
    localStorage.setItem(key, text);
  } catch {
    localStorage.removeItem(key);
  }
}

/** Bytes that a request may carry which has to outlive its page: browsers refuse more than 64 KB. */
const OUTLIVES = 60_000;

const keyOf = (id: string) => `zygopod-draft-${id}`;

type Answer = { ok: true; body: Record<string, unknown> } | { ok: false; status: number; why: string; body: Record<string, unknown> };

async function request(method: string, path: string, body?: unknown, version?: number): Promise<Answer> {
  const headers: Record<string, string> = {};
  if (body !== undefined) headers['content-type'] = 'application/json';
  if (version === 0) headers['if-none-match'] = '*';
  else if (version !== undefined) headers['if-match'] = `"${version}"`;
  const text = body === undefined ? null : JSON.stringify(body);
  const small = text !== null && new Blob([text]).size < OUTLIVES;
  try {
    const response = await fetch(path, { method, headers, body: text, keepalive: method === 'PUT' && small });
    const content = (await response.json().catch(() => ({}))) as Record<string, unknown>;
    if (response.ok) return { ok: true, body: content };
    return { ok: false, status: response.status, why: `${content['title'] ?? `The server said ${response.status}`}.`, body: content };
  } catch {
    return { ok: false, status: 0, why: 'The server cannot be reached.', body: {} };
  }
}
