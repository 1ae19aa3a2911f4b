import { atom } from 'nanostores';

/** Where the work stands with the server. */
export type SaveState<F> =
  | { at: 'saved' }
  | { at: 'keeping' }
  | { at: 'draft' }
  | { at: 'offline'; why: string }
  /**
   * `theirs`: what is there in place of what was expected; `version` of the draft there is (0: none). `from`: what it and the work here grew from,
   * the newest last. `head` and `saved`: the revision that is worked on once both are brought together, where that is a newer one.
   */
  | { at: 'conflict'; theirs: F; version: number; base: number; from: readonly F[]; head?: number; saved?: F };

/** What a page knows of a document on the server: the revision that it works on, and the draft that it saw last (version 0: none) with its base. */
export interface Origin<F> {
  id: string;
  head: number;
  saved: F;
  draftVersion: number;
  draft?: { file: F; base: number };
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
  #origin: Origin<F>;
  #pending: F | null = null;
  /** What this page has kept in the browser, which another page may have written over. */
  #keptHere = '';
  #timer: ReturnType<typeof setTimeout> | undefined;
  #sending: Promise<void> | null = null;
  /** A revision of this page that is on its way. */
  #saving: Promise<unknown> | null = null;

  constructor(collection: 'tunings' | 'grounds', origin: Origin<F>, state: SaveState<F> = { at: 'saved' }) {
    this.#path = `/api/v1/${collection}/${origin.id}`;
    this.#origin = { ...origin };
    this.$head = atom(origin.head);
    this.$state.set(state);
  }

  /** The document that is kept. */
  get id(): string {
    return this.#origin.id;
  }

  /** A change that another run of this page could not send any more, if there is one that follows the server's revision and draft. */
  static unsent(id: string, head: number, draftVersion: number): unknown {
    try {
      const kept = JSON.parse(localStorage.getItem(keyOf(id)) ?? 'null') as { head: number; version: number; file: unknown } | null;
      return kept && kept.head === head && kept.version === draftVersion ? kept.file : null;
    } catch {
      return null;
    }
  }

  /** The file has changed: keep it here now and on the server soon. */
  keep(file: F): void {
    this.#pending = file;
    const { id, head, draftVersion } = this.#origin;
    this.#keptHere = JSON.stringify({ head, version: draftVersion, file });
    keepHere(keyOf(id), this.#keptHere);
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
    const { head, draftVersion } = this.#origin;
    const answer = await request('PUT', `${this.#path}/draft`, { file, base: head }, draftVersion);
    if (answer.ok) this.#arrived(Number(answer.body['version']), file, head);
    else if (answer.status === 409) {
      const current = answer.body['current'] as { file: F; version: number; base: number } | null;
      if (current && current.base === head && isSame(current.file, file)) {
        // What this page sent as it was left has come there after it was opened anew.
        this.#arrived(current.version, file, head);
        return;
      }
      this.#pending ??= file;
      await this.#meetConflict(current);
    } else {
      this.#pending ??= file;
      this.$state.set({ at: 'offline', why: answer.why });
      this.#schedule(RETRY);
    }
  }

  /** A draft is on the server; what was changed meanwhile follows. */
  #arrived(version: number, file: F, base: number): void {
    this.#origin.draftVersion = version;
    this.#origin.draft = { file, base };
    if (this.#pending === null) {
      this.#forgetHere();
      this.$state.set({ at: 'draft' });
    } else this.#schedule(PAUSE);
  }

  /** Somebody else wrote: show their draft, or, when it became a revision, that revision. */
  async #meetConflict(current: { file: F; version: number; base: number } | null): Promise<void> {
    if (current) {
      await this.#meetDraft(current);
      return;
    }
    const { draft, saved } = this.#origin;
    const answer = await request('GET', this.#path);
    if (answer.ok)
      this.$state.set({
        at: 'conflict',
        theirs: answer.body['file'] as F,
        version: 0,
        base: Number(answer.body['head']),
        head: Number(answer.body['head']),
        from: draft ? [saved, draft.file] : [saved],
      });
    else this.$state.set({ at: 'offline', why: answer.why });
  }

  /**
   * Somebody else's draft: to be brought together with what is here. Both grew from the older of the revisions that they were made from, and
   * theirs from the draft that was seen here last, too: every write names the one before it.
   */
  async #meetDraft({ file, version, base }: { file: F; version: number; base: number }, draft = this.#origin.draft): Promise<void> {
    const { head, saved } = this.#origin;
    const other = base === head ? null : await request('GET', `${this.#path}/revisions/${base}`);
    if (other && !other.ok) {
      this.$state.set({ at: 'offline', why: other.why });
      return;
    }
    const theirBase = other ? (other.body['file'] as F) : saved;
    const revision = base < head ? theirBase : saved;
    const isDraftNewer = draft !== undefined && draft.base >= Math.min(base, head);
    const from = !draft ? [revision] : isDraftNewer ? [revision, draft.file] : [draft.file, revision];
    this.$state.set({ at: 'conflict', theirs: file, version, base, from, ...(base > head ? { head: base, saved: theirBase } : {}) });
  }

  /**
   * Somebody saved first. If the draft that was seen here last is ended, it is in their revision: they went on from it, and what stands in it
   * is nobody's own any more. If it is still there they knew nothing of it.
   */
  async #meetRevision({ file, number }: { file: F; number: number }): Promise<void> {
    const { draftVersion, draft, saved } = this.#origin;
    const there = draftVersion > 0 ? await request('GET', `${this.#path}/draft`) : null;
    const isEnded = there !== null && !there.ok && there.status === 404;
    const from = isEnded && draft ? [saved, draft.file] : [saved];
    this.$state.set({ at: 'conflict', theirs: file, version: isEnded ? 0 : draftVersion, base: number, head: number, from });
  }

  /**
   * Somebody saved a newer revision: where this page has nothing of its own, it is what is worked on from now on, and given; else both are to
   * be brought together. Null where there is nothing to take.
   */
  async look(): Promise<F | null> {
    await this.#saving;
    await this.#sending;
    const answer = await request('GET', this.#path);
    if (!answer.ok || this.$state.get().at === 'conflict' || this.#saving) return null;
    const { id, head, draftVersion } = this.#origin;
    const [file, number] = [answer.body['file'] as F, Number(answer.body['head'])];
    if (number <= head) return null;
    if (this.#pending !== null || draftVersion > 0 || this.$state.get().at !== 'saved') {
      await this.#meetRevision({ file, number });
      return null;
    }
    this.#origin = { id, head: number, saved: file, draftVersion: 0 };
    this.$head.set(number);
    return file;
  }

  /** Goes on from the other's state, with `file` as what is wanted now. */
  settle(file: F): F | null {
    const state = this.$state.get();
    if (state.at !== 'conflict') return null;
    const { draftVersion, head } = this.#origin;
    if (state.version === 0) delete this.#origin.draft;
    else if (state.version !== draftVersion) this.#origin.draft = { file: state.theirs, base: state.base };
    this.#origin.draftVersion = state.version;
    if (state.head !== undefined) this.#origin.saved = state.saved ?? state.theirs;
    this.#origin.head = Math.max(head, state.head ?? head);
    this.$head.set(this.#origin.head);
    this.$state.set({ at: 'keeping' });
    this.keep(file);
    return state.theirs;
  }

  /** Takes back what this page has kept in the browser; what another one has kept there stays. */
  #forgetHere(): void {
    const key = keyOf(this.#origin.id);
    if (localStorage.getItem(key) === this.#keptHere) localStorage.removeItem(key);
  }

  /** Saves a revision; returns null, or why it failed. The draft stays when it fails. */
  async saveRevision(file: F, note: string): Promise<string | null> {
    await this.flush();
    if (this.$state.get().at === 'conflict') return 'It was changed elsewhere: bring both together first. Nothing is lost.';
    const { id, head, draftVersion, draft } = this.#origin;
    const ends = draftVersion > 0 ? { draft: `"${draftVersion}"` } : {};
    const asked = request('POST', `${this.#path}/revisions`, { file, note, ...ends }, head);
    this.#saving = asked;
    const answer = await asked;
    this.#saving = null;
    if (answer.ok) {
      this.#origin = { id, head: Number(answer.body['number']), saved: file, draftVersion: 0 };
      this.$head.set(this.#origin.head);
      this.#forgetHere();
      const other = answer.body['draft'] as { file: F; version: number; base: number } | null | undefined;
      // Somebody else's draft is not in this revision: it is offered for merging.
      if (other) await this.#meetDraft(other, draft);
      else this.$state.set({ at: 'saved' });
      return null;
    }
    if (answer.status === 409) {
      const current = answer.body['current'] as { file: F; number: number } | undefined;
      if (current) await this.#meetRevision(current);
      return 'Somebody saved a newer revision meanwhile. Your draft is kept.';
    }
    return `${answer.why} Your draft is kept.`;
  }
}

/** Whether two files say the same, in whatever order their keys stand. */
function isSame(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  const [left, right] = [Object.entries(a), b as Record<string, unknown>];
  return (
    Array.isArray(a) === Array.isArray(b) &&
    left.length === Object.keys(right).length &&
    left.every(([key, value]) => Object.hasOwn(right, key) && isSame(value, right[key]))
  );
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
