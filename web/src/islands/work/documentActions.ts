import { type Collection, canonicalText } from '@zygopod/core';
import { inProject } from './project.ts';
import { askServer, whyOf } from './server.ts';

/** Options for creating a document: its project, if not the page's; and the request's idempotency key, if it has its own. */
interface Making {
  project?: string | undefined;
  key?: string;
}

/** Makes a document in the page’s project, or in another one; returns its id, or why there is none, in words. */
export async function createDocument(
  collection: Collection,
  file: unknown,
  note = '',
  { project, key }: Making = {},
): Promise<{ id: string } | { why: string }> {
  const query = new URLSearchParams(project ? { project } : inProject());
  const answer = await askServer('POST', `/api/v1/${collection}?${query}`, {
    body: { file, note },
    ...(key ? { headers: { 'idempotency-key': key } } : {}),
  });
  return 'why' in answer ? { why: answer.why } : { id: String(answer.body['id']) };
}

/** Fetches the file of a document, as it is or as a revision has it, with the revision’s number; or why it cannot be had, in words. */
export async function fetchDocument(
  collection: Collection,
  id: string,
  revision: number | null = null,
): Promise<{ file: unknown; revision: number } | { why: string }> {
  const path = `/api/v1/${collection}/${id}${revision === null ? '' : `/revisions/${revision}`}`;
  const answer = await askServer<{ file: unknown; head?: number; number?: number }>('GET', path);
  if ('why' in answer) return { why: answer.why };
  return { file: answer.body.file, revision: answer.body.number ?? answer.body.head ?? 1 };
}

/** Maximum number of documents of one name that are compared. */
const ALIKE = 5;

/** The document of just this file, where there is one among the newest of its name, else a new one; why there is none, in words. */
export async function findOrCreate(collection: Collection, file: { name: string }): Promise<{ id: string } | { why: string }> {
  const query = new URLSearchParams({ limit: `${ALIKE}`, q: file.name, ...inProject() });
  const page = await askServer('GET', `/api/v1/${collection}?${query}`);
  if ('why' in page) return { why: page.why };
  for (const { id, name } of page.body['items'] as { id: string; name: string }[]) {
    const kept = name === file.name ? await fetchDocument(collection, id) : null;
    if (kept && 'file' in kept && canonicalText(kept.file) === canonicalText(file)) return { id };
  }
  return createDocument(collection, file);
}

/** Saves a file as the next revision of a document whose newest one is `head`; gives its number, or why there is none, in words. */
export async function saveRevision(
  collection: Collection,
  id: string,
  head: number,
  file: unknown,
  note: string,
): Promise<{ number: number } | { why: string }> {
  const answer = await askServer('POST', `/api/v1/${collection}/${id}/revisions`, { body: { file, note }, seen: head });
  return 'why' in answer ? { why: answer.why } : { number: Number(answer.body['number']) };
}

/** Puts a document away whose newest revision is `head`; says why where it cannot. */
export async function archive(collection: Collection, id: string, head: number): Promise<string | null> {
  return whyOf(await askServer('DELETE', `/api/v1/${collection}/${id}`, { seen: head }));
}
