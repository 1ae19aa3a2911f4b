import { atom } from 'nanostores';
import type { Copies, Copy } from './copies.ts';

/** Work of a page that may not be on the server. */
interface Unsettled<F> {
  /** The work that was entered; null if the server has it. */
  file: F | null;
  /** Files of the server that it grew from, the newest last. */
  from: readonly F[];
  /** States of it that were sent, and may have arrived. */
  sent: readonly F[];
}

/** Keeps a page's unsettled work in this browser, one copy a page. The copy is dropped only when the server has its content. */
export class Keeping<F> {
  /** True while this browser stores work that the server doesn't have. */
  readonly $kept = atom(true);
  readonly #copies: Copies;
  readonly #id: string;
  readonly #page: string;
  readonly #unsettled: () => Unsettled<F>;
  /** The present work including typed text that is not entered yet. */
  #typed: (() => F | null) | null = null;
  #turn = 0;
  #storing: Promise<void> | null = null;
  #isStoreDue = false;
  #whenSafe: (() => void)[] = [];

  constructor(copies: Copies, id: string, page: string, unsettled: () => Unsettled<F>) {
    this.#copies = copies;
    this.#id = id;
    this.#page = page;
    this.#unsettled = unsettled;
  }

  /** Stores the unsettled work; a change during a write causes one more write. Deletes the copy if nothing is unsettled. */
  store(): void {
    this.#isStoreDue = true;
    this.#storing ??= this.#storeAll().finally(() => {
      this.#storing = null;
      this.reportSafe();
    });
  }

  /** Stores the work with typed text that isn't entered yet. `typed` is called at each write, because the work may change beneath the text; null stops that. */
  hold(typed: (() => F | null) | null): void {
    if (typed === null && this.#typed === null) return;
    this.#typed = typed;
    this.store();
  }

  /** Stores unsettled work at once, because the page is being left. Returns false if it can't be stored and would be lost. */
  leave(): boolean {
    const copy = this.#copy();
    if (!copy) return true;
    const isKept = this.#copies.putNow(copy) || (this.$kept.get() && this.#storing === null);
    this.$kept.set(isKept);
    return isKept;
  }

  /** Everything entered is on the server; typed text stays stored. */
  settled(): void {
    if (this.#storing === null) this.store();
    this.reportSafe();
  }

  /** Settles once the copy is as it has to be. */
  async written(): Promise<void> {
    await this.#storing;
  }

  /** Calls back once all that is worked on is on the server, or kept in this browser. */
  whenSafe(call: () => void): void {
    this.#whenSafe.push(call);
    this.reportSafe();
  }

  reportSafe(): void {
    if (this.#unsettled().file !== null && (this.#storing !== null || !this.$kept.get())) return;
    for (const call of this.#whenSafe.splice(0)) call();
  }

  #copy(): Copy<F> | null {
    const { file, from, sent } = this.#unsettled();
    const kept = this.#typed?.() ?? file;
    return kept === null ? null : { id: this.#id, page: this.#page, turn: ++this.#turn, at: Date.now(), from, sent, file: kept };
  }

  async #storeAll(): Promise<void> {
    while (this.#isStoreDue) {
      this.#isStoreDue = false;
      const copy = this.#copy();
      if (copy) this.$kept.set(await this.#copies.put(copy));
      // It may have arrived while its copy was being written.
      if (this.#isStoreDue || this.#copy()) continue;
      this.$kept.set(true);
      await this.#copies.drop(this.#id, this.#page);
    }
  }
}
