import { dequal } from 'dequal';
import { atom, type ReadableAtom } from 'nanostores';
import type { Failure, Outcome } from '../server.ts';
import { type Conflict, endedDraft, otherDraft, otherRevision, type TheirDraft } from './conflicts.ts';
import type { Copies } from './copies.ts';
import { Keeping } from './keeping.ts';
import { PAUSE, pauseAfter } from './pauses.ts';
import { isAboutFile, mayPass, refusalOf, request } from './request.ts';
import type { Origin, SaveState } from './state.ts';

/** States that were sent, and may have arrived, of which so many are remembered. */
const SENT = 20;

/**
 * Keeps the draft on the server within a second of each change, and in this browser at once, so that a reload, a killed server and a lost
 * connection lose nothing. Writes name the version last seen: a draft that another tab has moved on is never overwritten but shown as a
 * conflict. The browser's copy is dropped only when the server has what it holds.
 */
export class Saving<F> {
  readonly $state = atom<SaveState<F>>({ at: 'saved' });
  readonly $head: ReturnType<typeof atom<number>>;
  readonly #path: string;
  readonly #keeping: Keeping<F>;
  readonly #create: () => Promise<Outcome<unknown>>;
  #origin: Origin<F>;
  #pending: F | null = null;
  /** The work as it is. */
  #latest: F | null = null;
  #sent: F[] = [];
  #timer: ReturnType<typeof setTimeout> | undefined;
  #tries = 0;
  #sending: Promise<void> | null = null;
  #underWay: F | null = null;
  /** A revision that this page is saving. */
  #saving: Promise<unknown> | null = null;

  /** `create` has the server create the document; it is called before the first write of one that is not there yet (head 0). */
  constructor(
    collection: 'tunings' | 'grounds',
    origin: Origin<F>,
    state: SaveState<F>,
    copies: Copies,
    page: string,
    create: () => Promise<Outcome<unknown>> = () => Promise.resolve({ is: 'ok', body: null }),
  ) {
    this.#create = create;
    this.#path = `/api/v1/${collection}/${origin.id}`;
    this.#origin = { ...origin };
    this.#keeping = new Keeping(copies, origin.id, page, () => this.#unsettled());
    this.$head = atom(origin.head);
    this.$state.set(state);
  }

  /** The document that is kept. */
  get id(): string {
    return this.#origin.id;
  }

  /** True if something isn't known to be on the server; and whether this browser keeps it. */
  get isUnsettled(): boolean {
    return this.#pending !== null || this.#underWay !== null;
  }
  get $kept(): ReadableAtom<boolean> {
    return this.#keeping.$kept;
  }

  #unsettled() {
    const { saved, draft } = this.#origin;
    return {
      file: this.#pending ?? this.#underWay,
      from: draft ? [saved, draft.file] : [saved],
      sent: this.#underWay === null ? this.#sent : [...this.#sent, this.#underWay],
    };
  }

  /** The file has changed: keep it here now and on the server soon. */
  keep(file: F): void {
    this.#pending = file;
    this.#latest = file;
    this.#keeping.store();
    const state = this.$state.get();
    if (state.at === 'conflict' || (state.at === 'refused' && !isAboutFile(state.refusal))) return;
    if (state.at !== 'offline') this.$state.set({ at: 'keeping' });
    this.#schedule(PAUSE);
  }

  /** Calls back once all that is worked on is on the server, or kept in this browser. */
  whenSafe(call: () => void): void {
    this.#keeping.whenSafe(call);
  }

  /** Stores the work including typed text that is not entered yet in this browser, without sending it; null ends that. */
  hold(typed: (() => F | null) | null): void {
    this.#keeping.hold(typed);
  }

  /** Stores unsettled work at once, because the page is being left. Returns false if it can't be stored and would be lost. */
  leave(): boolean {
    return this.#keeping.leave();
  }

  /** Drops unsettled work: it was saved as another document. */
  async abandon(): Promise<void> {
    clearTimeout(this.#timer);
    await this.#sending;
    this.#pending = null;
    this.#keeping.hold(null);
    this.#keeping.store();
    await this.#keeping.written();
  }

  #schedule(delay: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.flush(), delay);
  }

  /** Somebody archived the document: nothing is sent until it is restored. A response that is still pending would report success. */
  async archived(): Promise<void> {
    await Promise.all([this.#sending, this.#saving]);
    clearTimeout(this.#timer);
    this.$state.set({ at: 'refused', refusal: 'archived', why: 'It was archived.', details: {} });
  }

  /** Retries now. */
  async retry(): Promise<void> {
    const { at } = this.$state.get();
    if (at !== 'refused' && at !== 'offline') return;
    this.#tries = 0;
    if (this.#pending === null && at === 'refused') {
      const answer = await request('GET', this.#path);
      if (answer.is !== 'ok') this.#refuse(answer);
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

  /** Creates the document on the server if it isn't there yet; returns the failure, if any. */
  async #created(): Promise<Failure | null> {
    if (this.#origin.head > 0) return null;
    const answer = await this.#create();
    if (answer.is !== 'ok') return answer;
    this.#origin.head = 1;
    this.$head.set(1);
    return null;
  }

  async #send(file: F): Promise<void> {
    const failure = await this.#created();
    const { head, draftVersion } = this.#origin;
    const answer = failure ?? (await request('PUT', `${this.#path}/draft`, { file, base: head }, draftVersion));
    this.#underWay = null;
    if (answer.is === 'ok') return this.#arrived(Number(answer.body['version']), file, head);
    const current = answer.problem['current'] as TheirDraft<F> | null | undefined;
    // A request sent while the page was left arrived after it was reopened.
    if (answer.is === 'conflict' && current && current.base === head && dequal(current.file, file))
      return this.#arrived(current.version, file, head);
    this.#pending ??= file;
    // Without an answer nobody knows whether it arrived.
    if (answer.status === 0 || answer.status >= 500) this.#sent = [...this.#sent, file].slice(-SENT);
    if (answer.is === 'conflict') this.#meet(await (current ? otherDraft(this.#known, current) : endedDraft(this.#known)));
    else this.#refuse(answer);
  }

  /** The server didn't take it: says why, and tries again where that can help. */
  #refuse(answer: Failure): void {
    const refusal = refusalOf(answer);
    if (refusal === null) this.$state.set({ at: 'offline', why: answer.why });
    else this.$state.set({ at: 'refused', refusal, why: answer.why, details: answer.problem });
    // The browser may have room again.
    if (this.#pending !== null && !this.$kept.get()) this.#keeping.store();
    if (this.#pending === null || (refusal !== null && !mayPass(refusal))) return;
    this.#schedule(pauseAfter(this.#tries++, answer.retryAfter));
  }

  /** Handles a stored draft; later changes follow. */
  #arrived(version: number, file: F, base: number): void {
    this.#origin.draftVersion = version;
    this.#origin.draft = { file, base };
    this.#sent = [file];
    this.#tries = 0;
    if (this.#pending === null) {
      this.$state.set({ at: 'draft' });
      this.#keeping.settled();
    } else {
      this.$state.set({ at: 'keeping' });
      this.#schedule(PAUSE);
    }
  }

  /** The data that conflicts are derived from. */
  get #known() {
    return { path: this.#path, origin: this.#origin, sent: this.#sent };
  }

  #meet(found: Conflict<F> | Failure): void {
    if ('at' in found) this.$state.set(found);
    else this.#refuse(found);
  }

  /**
   * Somebody saved a newer revision: where this page has nothing of its own, it is what is worked on from now on, and returned; else both are to
   * be merged. Null if there is nothing to take.
   */
  async look(): Promise<F | null> {
    await this.#saving;
    await this.#sending;
    if (this.#origin.head === 0) return null;
    const answer = await request('GET', this.#path);
    if (answer.is !== 'ok') {
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
      this.#meet(await otherRevision(this.#known, { file, number }));
      return null;
    }
    this.#origin = { id, head: number, saved: file, draftVersion: 0 };
    this.#sent = [];
    this.$head.set(number);
    return file;
  }

  /** Continues from the other's state, with `file` as the current work. */
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
    const failure = await this.#created();
    if (failure) return `${failure.why} Your changes are kept.`;
    const { id, head, draftVersion, draft } = this.#origin;
    // A draft with later typing stays.
    const ends = draftVersion > 0 && dequal(draft?.file, file) ? { draft: `"${draftVersion}"` } : {};
    const sent = request('POST', `${this.#path}/revisions`, { file, note, ...ends }, head);
    this.#saving = sent;
    const answer = await sent;
    this.#saving = null;
    if (answer.is === 'ok') {
      const other = answer.body['draft'] as TheirDraft<F> | null | undefined;
      const own = other?.version === draftVersion ? { draftVersion, draft: other } : { draftVersion: 0 };
      this.#saved({ id, head: Number(answer.body['number']), saved: file, ...own });
      // Somebody else's draft is not in this revision: it is offered for merging.
      if (other && own.draftVersion === 0) {
        const origin = { ...this.#origin, ...(draft && { draft }) };
        this.#meet(await otherDraft({ ...this.#known, origin }, other));
      }
      return null;
    }
    const current = answer.problem['current'] as { file: F; number: number } | undefined;
    if (answer.is === 'conflict' && current) {
      // The answer to an earlier try was lost, and it had arrived.
      if (dequal(current.file, file)) {
        this.#saved({ id, head: current.number, saved: file, draftVersion: 0 });
        return null;
      }
      this.#meet(await otherRevision(this.#known, current));
      return 'Somebody saved a newer revision meanwhile. Your draft is kept.';
    }
    return `${answer.why} Your draft is kept.`;
  }

  /** Handles a stored revision; changes made since it was sent follow. */
  #saved(origin: Origin<F>): void {
    this.#origin = origin;
    this.#sent = [];
    this.$head.set(origin.head);
    if (this.#latest !== null && !dequal(this.#latest, origin.saved)) this.#pending ??= this.#latest;
    if (this.#pending === null) {
      this.$state.set({ at: 'saved' });
      this.#keeping.settled();
    } else {
      this.#keeping.store();
      this.$state.set({ at: 'keeping' });
      this.#schedule(PAUSE);
    }
  }
}
