import type { Failure } from '../server.ts';
import { request } from './request.ts';
import type { Origin, SaveState } from './state.ts';

/** A draft of somebody else. */
export interface TheirDraft<F> {
  file: F;
  version: number;
  base: number;
}

export type Conflict<F> = Extract<SaveState<F>, { at: 'conflict' }>;

/** The knowledge of a page when a conflict occurs. */
interface Known<F> {
  /** The address of the document. */
  path: string;
  origin: Origin<F>;
  /** States of the work that were sent, and may have arrived. */
  sent: readonly F[];
}

/** The draft that was expected has become a revision: the newest one is to be merged. Fails where it can't be read. */
export async function endedDraft<F>({ path, origin: { draft, saved }, sent }: Known<F>): Promise<Conflict<F> | Failure> {
  const answer = await request('GET', path);
  if (answer.is !== 'ok') return answer;
  const head = Number(answer.body['head']);
  const from = draft ? [saved, draft.file] : [saved];
  return { at: 'conflict', theirs: answer.body['file'] as F, version: 0, base: head, head, from, sent };
}

/**
 * Somebody else's draft: to be merged with what is here. Both grew from the older of the revisions that they were made from, and theirs from
 * the draft that was seen here last, too: every write names the one before it.
 */
export async function otherDraft<F>(
  { path, origin: { head, saved, draft }, sent }: Known<F>,
  { file, version, base }: TheirDraft<F>,
): Promise<Conflict<F> | Failure> {
  const other = base === head ? null : await request('GET', `${path}/revisions/${base}`);
  if (other && other.is !== 'ok') return other;
  const theirBase = other ? (other.body['file'] as F) : saved;
  const revision = base < head ? theirBase : saved;
  const isDraftNewer = draft !== undefined && draft.base >= Math.min(base, head);
  const from = !draft ? [revision] : isDraftNewer ? [revision, draft.file] : [draft.file, revision];
  const newer = base > head ? { head: base, saved: theirBase } : {};
  return { at: 'conflict', theirs: file, version, base, from, sent, ...newer };
}

/**
 * Somebody saved first. If the draft that was seen here last is ended, it is in their revision: they continued from it, and its values are no
 * longer one person's own. If it still exists they knew nothing of it.
 */
export async function otherRevision<F>(
  { path, origin: { draftVersion, draft, saved }, sent }: Known<F>,
  { file, number }: { file: F; number: number },
): Promise<Conflict<F>> {
  const there = draftVersion > 0 ? await request('GET', `${path}/draft`) : null;
  const isEnded = there !== null && (there.is === 'gone' || there.is === 'archived');
  const from = isEnded && draft ? [saved, draft.file] : [saved];
  const version = isEnded ? 0 : draftVersion;
  return { at: 'conflict', theirs: file, version, base: number, head: number, from, sent };
}
