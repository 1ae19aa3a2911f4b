import type { KeptSource } from '@zygopod/core';
import { atom } from 'nanostores';
import { fetchSource, forgetSource, type StoredSource, storeSource } from '../../source/kept.ts';
import type { NamedParameters } from '../../source/pasting.ts';
import { whyOf } from '../../work/server.ts';

/** The source that is kept with a tuning: undefined while it is being fetched, null if there is none. */
export class SourceStore {
  readonly $stored = atom<StoredSource | null | undefined>(undefined);
  readonly $why = atom<string | null>(null);
  readonly #tuning: string;

  constructor(tuning: string) {
    this.#tuning = tuning;
  }

  async load(): Promise<void> {
    const fetched = await fetchSource(this.#tuning);
    if ('why' in fetched) this.$why.set(fetched.why);
    else this.$stored.set(fetched.stored);
  }

  /** Keeps a source, or the one there is with other parts. Where somebody else changed it meanwhile, theirs is shown and nothing is changed. */
  async change(change: { source?: KeptSource; path?: string | null }, chosen: NamedParameters = {}): Promise<string | null> {
    const stored = this.$stored.get() ?? null;
    const source = change.source ?? stored?.source;
    if (!source) return null;
    const path = change.path === undefined ? (stored?.path ?? null) : change.path;
    const answer = await storeSource(this.#tuning, { source, path }, stored?.version ?? null, chosen);
    if ('body' in answer) {
      this.$stored.set(answer.body);
      return this.#said(null);
    }
    if (answer.is !== 'conflict') return this.#said(answer.why);
    await this.load();
    return this.#said(`${answer.why} It is shown as it is now: do it again if you still want to.`);
  }

  async forget(): Promise<void> {
    const stored = this.$stored.get();
    if (!stored) return;
    const answer = await forgetSource(this.#tuning, stored.version);
    this.#said(whyOf(answer));
    if ('body' in answer) this.$stored.set(null);
    else await this.load();
  }

  #said(why: string | null): string | null {
    this.$why.set(why);
    return why;
  }
}
