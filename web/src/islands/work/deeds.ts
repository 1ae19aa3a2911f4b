import type { Collection } from './listing.ts';

/** Makes a document; gives its id, or why there is none, in words. */
export async function createDocument(collection: Collection, file: unknown, note = ''): Promise<{ id: string } | { why: string }> {
  const answer = await ask(`/api/v1/${collection}`, 'POST', {}, { file, note });
  return 'why' in answer ? answer : { id: String(answer.body['id']) };
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
