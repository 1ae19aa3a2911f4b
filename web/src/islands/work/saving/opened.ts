import type { Opened } from '../../../server/data/openings.ts';
import type { Origin, SaveState } from './state.ts';

/** The start of work on a document: the current file, the file it is compared with, and the server's state. */
export interface Beginning<F> {
  now: F;
  before: F;
  origin: Origin<F>;
  state: SaveState<F>;
}

/**
 * Begins work on a document with its draft. A draft that was made from an older revision than the newest knows nothing of that one: both are to
 * be merged first.
 */
export function begin<F>({ id, head, saved, draft }: Opened<F>): Beginning<F> {
  if (!draft) return { now: saved, before: saved, origin: { id, head, saved, draftVersion: 0 }, state: { at: 'saved' } };
  const { version, base, from, file } = draft;
  if (base >= head)
    return {
      now: file,
      before: saved,
      origin: { id, head, saved, draftVersion: version, draft: { file, base } },
      state: { at: 'draft' },
    };
  return {
    now: file,
    before: from,
    origin: { id, head: base, saved: from, draftVersion: version, draft: { file, base } },
    state: { at: 'conflict', theirs: saved, version, base: head, head, from: [from], sent: [] },
  };
}
