import { mergeFiles } from '@zygopod/core';
import { dequal } from 'dequal';
import { atom } from 'nanostores';
import type { Steps } from '../steps.ts';
import type { Copies, Copy } from './copies.ts';
import { gone } from './pages.ts';
import type { Saving } from './saving.ts';

/** Work that this browser kept and that can't be merged by itself: the same values were changed elsewhere. */
export type Offer<F> = Pick<Copy<F>, 'id' | 'page' | 'at' | 'from' | 'sent' | 'file'>;

/** Milliseconds for which opening waits for a page that may be just going: the one that was reloaded. */
const GOING = 400;

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** Adopts copies left by closed pages: merges each into the current work, and offers values that both changed. */
export class Adopting<F extends object> {
  readonly $offers = atom<readonly Offer<F>[]>([]);
  readonly #kind: 'tuning' | 'ground';
  readonly #steps: Steps<F>;
  readonly #saving: Saving<F>;
  readonly #copies: Copies;
  readonly #readFile: (kept: unknown) => F | null;
  #isOver = false;

  constructor(
    kind: 'tuning' | 'ground',
    { steps, saving, copies, read }: { steps: Steps<F>; saving: Saving<F>; copies: Copies; read: (kept: unknown) => F | null },
  ) {
    this.#kind = kind;
    this.#steps = steps;
    this.#saving = saving;
    this.#copies = copies;
    this.#readFile = read;
  }

  /** Adopts the work of pages that are still open when they close. Call the returned function to stop. */
  follow(others: readonly Copy[]): () => void {
    for (const copy of others) void this.#follow(copy);
    return () => {
      this.#isOver = true;
    };
  }

  async #follow(copy: Copy): Promise<void> {
    await gone(copy.page);
    // Its page may have kept more since, or sent it all.
    const latest = (await this.#copies.of(copy.id)).find(({ page }) => page === copy.page);
    if (latest && !this.#isOver) this.take(latest);
  }

  /** Merges a copy of a page that is gone. */
  take(copy: Copy): void {
    const offer = this.#read(copy);
    // Unreadable copies stay: a newer version may have stored them.
    if (!offer) return;
    const { file, conflicts } = this.merged(offer, this.#steps.$now.get());
    if (conflicts.length > 0) {
      this.$offers.set([...this.$offers.get().filter(({ page }) => page !== offer.page), offer]);
      return;
    }
    if (!dequal(file, this.#steps.$now.get())) this.#put(file);
    this.#saving.whenSafe(() => void this.#copies.drop(copy.id, copy.page));
  }

  /** Merges stored work into `now`. Where both changed a value the stored one is taken, and its path is in `conflicts`. */
  merged({ from, sent, file }: Offer<F>, now: F): { file: F; conflicts: string[] } {
    return mergeFiles(this.#kind, from, file, now, sent);
  }

  #put(file: F): void {
    this.#steps.replace(file, 'work that this browser kept');
    // Nothing else reports this before the work is started.
    this.#saving.keep(this.#steps.$now.get());
  }

  #read({ id, page, at, from, sent, file }: Copy): Offer<F> | null {
    const read = (kept: readonly unknown[]) => kept.map(this.#readFile).filter((one) => one !== null);
    const mine = this.#readFile(file);
    return mine && { id, page, at, from: read(from), sent: read(sent), file: mine };
  }

  /** Decides an offer: the kept values, or those that are here. */
  decide(offer: Offer<F>, take: 'kept' | 'here'): void {
    this.$offers.set(this.$offers.get().filter(({ page }) => page !== offer.page));
    if (take === 'kept') this.#put(this.merged(offer, this.#steps.$now.get()).file);
    this.#saving.whenSafe(() => void this.#copies.drop(offer.id, offer.page));
  }
}

/** Stored copies of a document that is opened: those left by closed pages, and those of pages that are still open. */
export interface KeptWork {
  left: readonly Copy[];
  others: readonly Copy[];
}

/** Finds the stored copies of a document. A page that is just closing gets a moment to finish. */
export async function keptWork(copies: Copies, id: string): Promise<KeptWork> {
  const found = await copies.of(id);
  if (found.length === 0) return { left: [], others: [] };
  const away = new Set<string>();
  const going = found.map(({ page }) => gone(page).then(() => away.add(page)));
  await Promise.race([Promise.all(going), pause(GOING)]);
  const now = await copies.of(id);
  return { left: now.filter(({ page }) => away.has(page)), others: now.filter(({ page }) => !away.has(page)) };
}
