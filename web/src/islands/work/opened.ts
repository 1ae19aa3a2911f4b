import type { Opened } from '../../server/data/openings.ts';
import type { Origin, SaveState } from './saving.ts';

/** Where work on a document begins: what is worked on, what it is compared with, where it stands with the server. */
export interface Beginning<F> {
  now: F;
  before: F;
  origin: Origin<F>;
  state: SaveState<F>;
}

/**
 * Begins work on a document with its draft, or with a change that this browser could not send. A draft that was made from an older revision
 * than the newest knows nothing of that one: both are to be brought together first.
 */
export function begin<F>({ id, head, saved, draft }: Opened<F>, unsent: F | null): Beginning<F> {
  const now = unsent ?? draft?.file ?? saved;
  if (!draft) return { now, before: saved, origin: { id, head, saved, draftVersion: 0 }, state: { at: 'saved' } };
  const { version, base, from } = draft;
  if (base >= head)
    return {
      now,
      before: saved,
      origin: { id, head, saved, draftVersion: version, draft: { file: draft.file, base } },
      state: { at: 'draft' },
    };
  return {
    now,
    before: from,
    origin: { id, head: base, saved: from, draftVersion: version, draft: { file: draft.file, base } },
    state: { at: 'conflict', theirs: saved, version, base: head, head, from: [from] },
  };
}
