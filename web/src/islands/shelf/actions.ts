import { type Collection, collectionOf, documentText, fileName, fileStem, kindIn } from '@zygopod/core';
import { download } from '../controls/download.ts';
import { archive, createDocument, fetchDocument, saveRevision } from '../work/documentActions.ts';
import { askServer, whyOf } from '../work/server.ts';
import type { ShelfItem, ShelfWork } from './shelfWork.ts';

type File = Record<string, unknown> & { name: string };

/** The file of a document, its newest or one of its revisions; or why it cannot be had. */
export async function fileOf(item: Pick<ShelfItem, 'id' | 'kind'>, revision: number | null = null): Promise<File | { why: string }> {
  const kept = await fetchDocument(collectionOf(item.kind), item.id, revision);
  return 'why' in kept ? kept : (kept.file as File);
}

/** True if there is no file, but a reason. */
export const isWhy = (found: File | { why: string }): found is { why: string } => !('format' in found);

/** Makes a copy of a document; says why not. */
export async function duplicate(shelf: ShelfWork, item: ShelfItem): Promise<string | null> {
  const file = await fileOf(item);
  if (isWhy(file)) return file.why;
  const created = await createDocument(
    collectionOf(item.kind),
    { ...file, name: `${item.name.slice(0, 112)}, a copy` },
    `From ${item.name}`,
  );
  if ('why' in created) return created.why;
  await shelf.load();
  shelf.pick(created.id);
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

/** Saves an earlier revision of a document as its newest one. */
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
  const why = await archive(collectionOf(item.kind), item.id, item.head);
  if (!why) await shelf.load();
  return why;
}

export async function back(shelf: ShelfWork, item: ShelfItem): Promise<string | null> {
  const why = whyOf(await askServer('POST', `/api/v1/${collectionOf(item.kind)}/${item.id}/back`));
  if (!why) await shelf.load();
  return why;
}

/** Gives a document as a file. */
export async function exportItem(item: ShelfItem): Promise<string | null> {
  const file = await fileOf(item);
  if (isWhy(file)) return file.why;
  download(fileName(item.kind, item.name), documentText(file));
  return null;
}

/** The whole project as one file; or why it cannot be had. */
export async function projectFile(shelf: ShelfWork): Promise<File | { why: string }> {
  const answer = await askServer<File>('GET', `/api/v1/projects/${shelf.project.id}/file`);
  return 'why' in answer ? answer : answer.body;
}

/** Gives the whole project as one file. */
export async function exportProject(shelf: ShelfWork): Promise<string | null> {
  const file = await projectFile(shelf);
  if (isWhy(file)) return file.why;
  download(`${fileStem(shelf.project.name)}.project.json`, documentText(file));
  return null;
}

/** Gives all documents of a kind as files of their own. */
export async function exportAll(shelf: ShelfWork, collection: Collection): Promise<string | null> {
  const file = await projectFile(shelf);
  if (isWhy(file)) return file.why;
  const taken = new Set<string>();
  for (const one of file[collection] as File[]) {
    const name = fileName(kindIn(collection), one.name, (free) => taken.has(free));
    taken.add(name.toLowerCase());
    download(name, documentText(one));
  }
  return null;
}
