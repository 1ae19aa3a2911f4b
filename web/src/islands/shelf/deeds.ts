import { documentText, fileStem, memberKinds } from '@zygopod/core';
import { download } from '../controls/download.ts';
import { createDocument, putAway, saveRevision } from '../work/deeds.ts';
import type { Collection } from '../work/listing.ts';
import { collectionOf, type ShelfItem, type ShelfWork } from './session.ts';

type File = Record<string, unknown> & { name: string };

/** The file of a document, its newest or one of its revisions; or why it cannot be had. */
export async function fileOf(item: Pick<ShelfItem, 'id' | 'kind'>, revision: number | null = null): Promise<File | { why: string }> {
  const path = `/api/v1/${collectionOf(item.kind)}/${item.id}${revision === null ? '' : `/revisions/${revision}`}`;
  try {
    const answer = await fetch(path);
    const body = (await answer.json()) as { file?: File; title?: string };
    return answer.ok && body.file ? body.file : { why: `${body.title ?? `The server said ${answer.status}`}.` };
  } catch {
    return { why: 'The server cannot be reached.' };
  }
}

/** Sends something without a body; says why it failed. */
export async function send(method: string, path: string, body?: unknown): Promise<string | null> {
  try {
    const json = body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
    const answer = await fetch(path, { method, ...json });
    if (answer.ok) return null;
    const told = (await answer.json().catch(() => ({}))) as { title?: string };
    return `${told.title ?? `The server said ${answer.status}`}.`;
  } catch {
    return 'The server cannot be reached.';
  }
}

const isWhy = (found: File | { why: string }): found is { why: string } => !('format' in found);

/** Makes a copy of a document; says why not. */
export async function duplicate(shelf: ShelfWork, item: ShelfItem): Promise<string | null> {
  const file = await fileOf(item);
  if (isWhy(file)) return file.why;
  const made = await createDocument(collectionOf(item.kind), { ...file, name: `${item.name.slice(0, 112)}, a copy` }, `From ${item.name}`);
  if ('why' in made) return made.why;
  await shelf.load();
  shelf.pick(made.id);
  return null;
}

/** Gives a document another name, as a revision of its own. */
export async function rename(shelf: ShelfWork, item: ShelfItem, name: string): Promise<string | null> {
  const file = await fileOf(item);
  if (isWhy(file)) return file.why;
  const saved = await saveRevision(collectionOf(item.kind), item.id, item.head, { ...file, name }, `Was called ${item.name}`.slice(0, 200));
  if ('why' in saved) return saved.why;
  await shelf.load();
  return null;
}

/** Makes what a document was at a revision its newest one. */
export async function goBack(shelf: ShelfWork, item: ShelfItem, revision: number): Promise<string | null> {
  const file = await fileOf(item, revision);
  if (isWhy(file)) return file.why;
  const saved = await saveRevision(collectionOf(item.kind), item.id, item.head, file, `Back to rev ${revision}`);
  if ('why' in saved) return saved.why;
  await shelf.load();
  shelf.pick(item.id);
  return null;
}

export async function away(shelf: ShelfWork, item: ShelfItem): Promise<string | null> {
  const why = await putAway(collectionOf(item.kind), item.id, item.head);
  if (!why) await shelf.load();
  return why;
}

export async function back(shelf: ShelfWork, item: ShelfItem): Promise<string | null> {
  const why = await send('POST', `/api/v1/${collectionOf(item.kind)}/${item.id}/back`);
  if (!why) await shelf.load();
  return why;
}

/** Gives a document as a file. */
export async function takeOut(item: ShelfItem): Promise<string | null> {
  const file = await fileOf(item);
  if (isWhy(file)) return file.why;
  download(`${fileStem(item.name)}.${item.kind}.json`, documentText(file));
  return null;
}

async function projectFile(shelf: ShelfWork): Promise<File | { why: string }> {
  try {
    const answer = await fetch(`/api/v1/projects/${shelf.project.id}/file`);
    const body = (await answer.json()) as File;
    return answer.ok ? body : { why: `${body['title'] ?? `The server said ${answer.status}`}.` };
  } catch {
    return { why: 'The server cannot be reached.' };
  }
}

/** Gives the whole project as one file. */
export async function takeProjectOut(shelf: ShelfWork): Promise<string | null> {
  const file = await projectFile(shelf);
  if (isWhy(file)) return file.why;
  download(`${fileStem(shelf.project.name)}.project.json`, documentText(file));
  return null;
}

/** Gives all documents of a kind as files of their own. */
export async function takeAllOut(shelf: ShelfWork, collection: Collection): Promise<string | null> {
  const file = await projectFile(shelf);
  if (isWhy(file)) return file.why;
  const seen = new Map<string, number>();
  for (const one of file[collection] as File[]) {
    const stem = fileStem(one.name);
    const times = (seen.get(stem) ?? 0) + 1;
    seen.set(stem, times);
    download(`${stem}${times > 1 ? `-${times}` : ''}.${memberKinds[collection]}.json`, documentText(one));
  }
  return null;
}
