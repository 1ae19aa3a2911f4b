import type { Collection } from './listing.ts';
import { inProject } from './project.ts';

/** Makes a document in the page’s project; gives its id, or why there is none, in words. */
export async function createDocument(collection: Collection, file: unknown, note = ''): Promise<{ id: string } | { why: string }> {
  const answer = await ask(`/api/v1/${collection}?${new URLSearchParams(inProject())}`, 'POST', {}, { file, note });
  return 'why' in answer ? answer : { id: String(answer.body['id']) };
}

/** JSON with its keys in order: what says the same is the same text. */
const inOrder = (value: unknown): string =>
  JSON.stringify(value, (_, held: unknown) =>
    typeof held === 'object' && held !== null && !Array.isArray(held)
      ? Object.fromEntries(Object.entries(held).sort(([a], [b]) => (a < b ? -1 : 1)))
      : held,
  );

/** Documents of a name that are looked at. */
const ALIKE = 5;

/** The document of just this file, where there is one among the newest of its name, else a new one; why there is none, in words. */
export async function findOrCreate(collection: Collection, file: { name: string }): Promise<{ id: string } | { why: string }> {
  const query = new URLSearchParams({ limit: `${ALIKE}`, q: file.name, ...inProject() });
  const page = await ask(`/api/v1/${collection}?${query}`, 'GET', {});
  if ('why' in page) return page;
  for (const { id, name } of page.body['items'] as { id: string; name: string }[]) {
    const kept = name === file.name ? await ask(`/api/v1/${collection}/${id}`, 'GET', {}) : null;
    if (kept && 'body' in kept && inOrder(kept.body['file']) === inOrder(file)) return { id };
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
  const answer = await ask(`/api/v1/${collection}/${id}/revisions`, 'POST', { 'if-match': `"${head}"` }, { file, note });
  return 'why' in answer ? answer : { number: Number(answer.body['number']) };
}

/** Puts a document away whose newest revision is `head`; says why where it cannot. */
export async function putAway(collection: Collection, id: string, head: number): Promise<string | null> {
  const answer = await ask(`/api/v1/${collection}/${id}`, 'DELETE', { 'if-match': `"${head}"` });
  return 'why' in answer ? answer.why : null;
}

async function ask(
  path: string,
  method: string,
  headers: Record<string, string>,
  body?: unknown,
): Promise<{ body: Record<string, unknown> } | { why: string }> {
  try {
    const response = await fetch(path, {
      method,
      headers: body === undefined ? headers : { 'content-type': 'application/json', ...headers },
      body: body === undefined ? null : JSON.stringify(body),
    });
    const content = (await response.json().catch(() => ({}))) as Record<string, unknown>;
    return response.ok ? { body: content } : { why: `${content['title'] ?? `The server said ${response.status}`}.` };
  } catch {
    return { why: 'The server cannot be reached.' };
  }
}
