import { atom } from 'nanostores';
import type { Copies, Copy } from './copies.ts';
import { type Answer, isAboutFile, mayPass, refusalOf, request } from './request.ts';
import { isSame, type Origin, type SaveState } from './state.ts';

/** Pause after the last change before the draft is sent; the first and the longest one between tries while the server is away (ms). */
const PAUSE = 300;
const RETRY = 2000;
const LONGEST_RETRY = 30_000;

/** States that were sent, and may have arrived, of which so many are remembered. */
const SENT = 20;

interface TheirDraft<F> {
  file: F;
  version: number;
  base: number;
}

/**
 * Keeps the draft on the server within a second of each change, and in this browser at once, so that a reload, a killed server and a lost
 * connection lose nothing. Writes name the version last seen: a draft that another tab has moved on is never overwritten but shown as a
 * conflict. The browser's copy is dropped only when the server has what it holds.
 */
export class Saving<F> {
  readonly $state = atom<SaveState<F>>({ at: 'saved' });
  readonly $head: ReturnType<typeof atom<number>>;
  /** Whether this browser keeps what the server doesn't have. */
  readonly $kept = atom(true);
  readonly #path: string;
  readonly #copies: Copies;
  readonly #page: string;
  #origin: Origin<F>;
  #pending: F | null = null;
  /** The work as it is. */
  #latest: F | null = null;
  #sent: F[] = [];
  #timer: ReturnType<typeof setTimeout> | undefined;
  #tries = 0;
  #sending: Promise<void> | null = null;
  /** The file that is on its way now. */
  #underWay: F | null = null;
  /** A revision of this page that is on its way. */
  #saving: Promise<unknown> | null = null;
  #turn = 0;
  #storing: Promise<void> | null = null;
  #isStoreDue = false;
  /** Called once what is worked on is on the server or kept in this browser. */
  #whenSafe: (() => void)[] = [];

  constructor(collection: 'tunings' | 'grounds', origin: Origin<F>, state: SaveState<F>, copies: Copies, page: string) {
    this.#path = `/api/v1/${collection}/${origin.id}`;
    this.#origin = { ...origin };
    this.#copies = copies;
    this.#page = page;
    this.$head = atom(origin.head);
    this.$state.set(state);
  }

  /** The document that is kept. */
  get id(): string {
    return this.#origin.id;
  }

  /** Whether something isn't known to be on the server. */
  get isUnsettled(): boolean {
    return this.#pending !== null || this.#underWay !== null;
  }

  /** The file has changed: keep it here now and on the server soon. */
  keep(file: F): void {
    this.#pending = file;
    this.#latest = file;
    this.#store();
    const state = this.$state.get();
    if (state.at === 'conflict' || (state.at === 'refused' && !isAboutFile(state.refusal))) return;
    if (state.at !== 'offline') this.$state.set({ at: 'keeping' });
    this.#schedule(PAUSE);
  }

  /** Calls back once all that is worked on is on the server, or kept in this browser. */
  whenSafe(call: () => void): void {
    this.#whenSafe.push(call);
    this.#tellSafe();
  }

  #tellSafe(): void {
    if (this.isUnsettled && (this.#storing !== null || !this.$kept.get())) return;
    for (const call of this.#whenSafe.splice(0)) call();
  }

  /** The copy of what isn't settled. */
  #copy(file: F): Copy<F> {
    const { id, saved, draft } = this.#origin;
    const sent = this.#underWay === null ? this.#sent : [...this.#sent, this.#underWay];
    return { id, page: this.#page, turn: ++this.#turn, at: Date.now(), from: draft ? [saved, draft.file] : [saved], sent, file };
  }

  /** Keeps the copy in this browser; changes while one is being written make one more. */
  #store(): void {
    this.#isStoreDue = true;
    this.#storing ??= this.#storeAll().finally(() => {
      this.#storing = null;
      this.#tellSafe();
    });
  }

  async #storeAll(): Promise<void> {
    while (this.#isStoreDue) {
      this.#isStoreDue = false;
      const file = this.#pending ?? this.#underWay;
      if (file !== null) this.$kept.set(await this.#copies.put(this.#copy(file)));
      // It may have arrived while its copy was being written.
      if (!this.isUnsettled && !this.#isStoreDue) await this.#forget();
    }
  }

  async #forget(): Promise<void> {
    this.$kept.set(true);
    await this.#copies.drop(this.id, this.#page);
  }

  /** The page is being left: keeps at once what isn't settled. False: it can't be kept, and would be lost. */
  leave(): boolean {
    const file = this.#pending ?? this.#underWay;
    if (file === null) return true;
    const isKept = this.#copies.putNow(this.#copy(file)) || (this.$kept.get() && this.#storing === null);
    this.$kept.set(isKept);
    return isKept;
  }

  /** Gives up what isn't settled: it was saved as another document. */
  async abandon(): Promise<void> {
    clearTimeout(this.#timer);
    await this.#sending;
    await this.#storing;
    this.#pending = null;
    await this.#forget();
  }

  #schedule(delay: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.flush(), delay);
  }

  /** Somebody archived the document: nothing is sent until it is restored. */
  archived(): void {
    clearTimeout(this.#timer);
    this.$state.set({ at: 'refused', refusal: 'archived', why: 'It was archived.', details: {} });
  }

  /** Tries again now, whatever stood in the way. */
  async retry(): Promise<void> {
    const { at } = this.$state.get();
    if (at !== 'refused' && at !== 'offline') return;
    this.#tries = 0;
    if (this.#pending === null && at === 'refused') {
      const answer = await request('GET', this.#path);
      if (!answer.ok) this.#refuse(answer);
      else this.$state.set({ at: this.#origin.draftVersion > 0 ? 'draft' : 'saved' });
      return;
    }
    this.$state.set({ at: 'keeping' });
    await this.flush();
  }

  /** Sends what is pending now; one request at a time. */
  async flush(): Promise<void> {
    clearTimeout(this.#timer);
    if (this.#sending) {
      await this.#sending;
      return this.flush();
    }
    const file = this.#pending;
    const state = this.$state.get();
    if (!file || state.at === 'conflict' || (state.at === 'refused' && !isAboutFile(state.refusal))) return;
    this.#pending = null;
    this.#underWay = file;
    this.#sending = this.#send(file).finally(() => {
      this.#sending = null;
    });
    await this.#sending;
  }

  async #send(file: F): Promise<void> {
    const { head, draftVersion } = this.#origin;
    const answer = await request('PUT', `${this.#path}/draft`, { file, base: head }, draftVersion);
    this.#underWay = null;
    if (answer.ok) return this.#arrived(Number(answer.body['version']), file, head);
    const current = answer.body['current'] as TheirDraft<F> | null | undefined;
    // What this page sent as it was left has come there after it was opened anew.
    if (answer.status === 409 && current && current.base === head && isSame(current.file, file))
      return this.#arrived(current.version, file, head);
    this.#pending ??= file;
    // Without an answer nobody knows whether it arrived.
    if (answer.status === 0 || answer.status >= 500) this.#sent = [...this.#sent, file].slice(-SENT);
    if (answer.status === 409) await this.#meetConflict(current ?? null);
    else this.#refuse(answer);
  }

  /** The server didn't take it: says why, and tries again where that can help. */
  #refuse(answer: Extract<Answer, { ok: false }>): void {
    const refusal = refusalOf(answer);
    if (refusal === null) this.$state.set({ at: 'offline', why: answer.why });
    else this.$state.set({ at: 'refused', refusal, why: answer.why, details: answer.body });
    // The browser may have room again.
    if (this.#pending !== null && !this.$kept.get()) this.#store();
    if (this.#pending === null || (refusal !== null && !mayPass(refusal))) return;
    this.#schedule(Math.max(answer.retryAfter, Math.min(LONGEST_RETRY, RETRY * 2 ** this.#tries++)));
  }

  /** A draft is on the server; what was changed meanwhile follows. */
  #arrived(version: number, file: F, base: number): void {
    this.#origin.draftVersion = version;
    this.#origin.draft = { file, base };
    this.#sent = [file];
    this.#tries = 0;
    if (this.#pending === null) {
      this.$state.set({ at: 'draft' });
      if (this.#storing === null) void this.#forget();
      this.#tellSafe();
    } else {
      this.$state.set({ at: 'keeping' });
      this.#schedule(PAUSE);
    }
  }

  /** Somebody else wrote: show their draft, or, when it became a revision, that revision. */
  async #meetConflict(current: TheirDraft<F> | null): Promise<void> {
    if (current) return this.#meetDraft(current);
    const { draft, saved } = this.#origin;
    const answer = await request('GET', this.#path);
    if (!answer.ok) return this.#refuse(answer);
    const head = Number(answer.body['head']);
    this.$state.set({
      at: 'conflict',
      theirs: answer.body['file'] as F,
      version: 0,
      base: head,
      head,
      from: draft ? [saved, draft.file] : [saved],
      sent: this.#sent,
    });
  }

  /**
   * Somebody else's draft: to be merged with what is here. Both grew from the older of the revisions that they were made from, and theirs from
   * the draft that was seen here last, too: every write names the one before it.
   */
  async #meetDraft({ file, version, base }: TheirDraft<F>, draft = this.#origin.draft): Promise<void> {
    const { head, saved } = this.#origin;
    const other = base === head ? null : await request('GET', `${this.#path}/revisions/${base}`);
    if (other && !other.ok) return this.#refuse(other);
    const theirBase = other ? (other.body['file'] as F) : saved;
    const revision = base < head ? theirBase : saved;
    const isDraftNewer = draft !== undefined && draft.base >= Math.min(base, head);
    const from = !draft ? [revision] : isDraftNewer ? [revision, draft.file] : [draft.file, revision];
    const newer = base > head ? { head: base, saved: theirBase } : {};
    this.$state.set({ at: 'conflict', theirs: file, version, base, from, sent: this.#sent, ...newer });
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
    const version = isEnded ? 0 : draftVersion;
    this.$state.set({ at: 'conflict', theirs: file, version, base: number, head: number, from, sent: this.#sent });
  }

  /**
   * Somebody saved a newer revision: where this page has nothing of its own, it is what is worked on from now on, and returned; else both are to
   * be merged. Null where there is nothing to take.
   */
  async look(): Promise<F | null> {
    await this.#saving;
    await this.#sending;
    const answer = await request('GET', this.#path);
    if (!answer.ok) {
      const refusal = refusalOf(answer);
      if (refusal === 'archived' || refusal === 'gone') this.#refuse(answer);
      return null;
    }
    if (this.$state.get().at === 'refused') await this.retry();
    if (this.$state.get().at === 'conflict' || this.#saving) return null;
    const { id, head, draftVersion } = this.#origin;
    const [file, number] = [answer.body['file'] as F, Number(answer.body['head'])];
    if (number <= head) return null;
    if (this.isUnsettled || draftVersion > 0 || this.$state.get().at !== 'saved') {
      await this.#meetRevision({ file, number });
      return null;
    }
    this.#origin = { id, head: number, saved: file, draftVersion: 0 };
    this.#sent = [];
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
    this.#sent = [];
    this.$head.set(this.#origin.head);
    this.$state.set({ at: 'keeping' });
    this.keep(file);
    return state.theirs;
  }

  /** Saves a revision; returns null, or why it failed. The draft stays when it fails. */
  async saveRevision(file: F, note: string): Promise<string | null> {
    await this.flush();
    const before = this.$state.get();
    if (before.at === 'conflict') return 'It was changed elsewhere: merge both first. Nothing is lost.';
    if (before.at === 'refused') return `${before.why} Your changes are kept.`;
    const { id, head, draftVersion, draft } = this.#origin;
    // A draft that holds what was typed since stays.
    const ends = draftVersion > 0 && isSame(draft?.file, file) ? { draft: `"${draftVersion}"` } : {};
    const asked = request('POST', `${this.#path}/revisions`, { file, note, ...ends }, head);
    this.#saving = asked;
    const answer = await asked;
    this.#saving = null;
    if (answer.ok) {
      const other = answer.body['draft'] as TheirDraft<F> | null | undefined;
      const own = other?.version === draftVersion ? { draftVersion, draft: other } : { draftVersion: 0 };
      this.#saved({ id, head: Number(answer.body['number']), saved: file, ...own });
      // Somebody else's draft is not in this revision: it is offered for merging.
      if (other && own.draftVersion === 0) await this.#meetDraft(other, draft);
      return null;
    }
    const current = answer.body['current'] as { file: F; number: number } | undefined;
    if (answer.status === 409 && current) {
      // The answer to an earlier try was lost, and it had arrived.
      if (isSame(current.file, file)) {
        this.#saved({ id, head: current.number, saved: file, draftVersion: 0 });
        return null;
      }
      await this.#meetRevision(current);
      return 'Somebody saved a newer revision meanwhile. Your draft is kept.';
    }
    return `${answer.why} Your draft is kept.`;
  }

  /** A revision is on the server; what was changed since it was sent follows. */
  #saved(origin: Origin<F>): void {
    this.#origin = origin;
    this.#sent = [];
    this.$head.set(origin.head);
    if (this.#latest !== null && !isSame(this.#latest, origin.saved)) this.#pending ??= this.#latest;
    if (this.#pending === null) {
      this.$state.set({ at: 'saved' });
      if (this.#storing === null) void this.#forget();
      this.#tellSafe();
    } else {
      this.#store();
      this.$state.set({ at: 'keeping' });
      this.#schedule(PAUSE);
    }
  }
}
