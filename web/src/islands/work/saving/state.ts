import type { Refusal } from '../server.ts';

/** Where the work stands with the server. */
export type SaveState<F> =
  | { at: 'saved' }
  | { at: 'keeping' }
  | { at: 'draft' }
  /** The server can't be reached, or has no time; it is tried again. */
  | { at: 'offline'; why: string }
  /** The server said no. `details`: the members of its problem (RFC 9457). */
  | { at: 'refused'; refusal: Refusal; why: string; details: Readonly<Record<string, unknown>> }
  /**
   * `theirs`: what is there in place of what was expected; `version` of the draft there is (0: none). `from`: what it and the work here grew from,
   * the newest last; `sent`: states of the work here that it may hold. `head` and `saved`: the revision that is worked on once both are merged,
   * where that is a newer one.
   */
  | {
      at: 'conflict';
      theirs: F;
      version: number;
      base: number;
      from: readonly F[];
      sent: readonly F[];
      head?: number;
      saved?: F;
    };

/** A page's knowledge of a document on the server: its base revision, and the last draft it saw (version 0: none) with its base. */
export interface Origin<F> {
  id: string;
  head: number;
  saved: F;
  draftVersion: number;
  draft?: { file: F; base: number };
}
