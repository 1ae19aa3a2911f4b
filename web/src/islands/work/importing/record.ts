import { type Collection, collections } from '@zygopod/core';
import { forget, remember, rememberedJson } from '../../controls/remember.ts';
import { archive } from '../documentActions.ts';
import { gone, holdPage } from '../saving/pages.ts';
import { askServer } from '../server.ts';

/** An import of files that is running, or was interrupted. */
export interface ImportRecord {
  /** Identifies the import: in the note of each document, and in the idempotency key of each request. */
  key: string;
  /** The project that the documents go to. */
  project: string;
  /** Identifies the list of files. */
  files: string;
  total: number;
  /** When it began, ms since 1970. */
  at: number;
}

const PREFIX = 'zygopod-import:';

/** Milliseconds for which an import can be continued: the server remembers idempotency keys for a day. */
const CONTINUABLE = 23 * 3_600_000;

/** Time (ms) after which an import that still holds its lock counts as running. */
const PATIENCE = 500;

/** Identifies a list of files by names and sizes. */
const filesKey = (files: readonly Pick<File, 'name' | 'size'>[]): string => JSON.stringify(files.map(({ name, size }) => [name, size]));

/** The note of the first revision of each document that an import creates. */
export const importNote = (key: string): string => `Imported, ${key}`;

/** Records the start of an import; the returned function ends it. */
export function beginImport(key: string, project: string, files: readonly Pick<File, 'name' | 'size'>[], total: number): () => void {
  const release = holdPage(`import-${key}`);
  const record: ImportRecord = { key, project, files: filesKey(files), total, at: Date.now() };
  // A browser without room can't report the interruption; nothing else depends on it.
  remember(PREFIX + key, JSON.stringify(record));
  return () => {
    release();
    dropRecord(key);
  };
}

export const dropRecord = (key: string): void => forget(PREFIX + key);

function allRecords(): ImportRecord[] {
  try {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(PREFIX))
      .map((key) => rememberedJson(key) as ImportRecord)
      .filter((record) => typeof record?.key === 'string' && typeof record.at === 'number');
  } catch {
    return [];
  }
}

/** Interrupted imports that `is` accepts: no page works on them any more. */
async function interrupted(is: (record: ImportRecord) => boolean): Promise<ImportRecord[]> {
  const records = allRecords().filter(is);
  const isGone = await Promise.all(
    records.map(({ key }) =>
      Promise.race([gone(`import-${key}`).then(() => true), new Promise<boolean>((over) => setTimeout(() => over(false), PATIENCE))]),
    ),
  );
  return records.filter((_, i) => isGone[i]);
}

/** Interrupted imports into a project. */
export const interruptedIn = (project: string): Promise<ImportRecord[]> => interrupted((record) => record.project === project);

/** The interrupted import of these files that can be continued, if there is one. */
export async function continuable(files: readonly Pick<File, 'name' | 'size'>[]): Promise<ImportRecord | undefined> {
  const key = filesKey(files);
  return (await interrupted((record) => record.files === key && Date.now() - record.at < CONTINUABLE))[0];
}

interface Imported {
  collection: Collection;
  id: string;
  name: string;
}

/** The documents in use that an import has created, by their notes; or why they can't be listed. */
export async function imported({ project, key }: Pick<ImportRecord, 'project' | 'key'>): Promise<readonly Imported[] | { why: string }> {
  const found: Imported[] = [];
  for (const collection of collections)
    for (let next: string | null = ''; next !== null; ) {
      const query: URLSearchParams = new URLSearchParams({ kind: collection, q: key, limit: '200', ...(next && { after: next }) });
      const page = await askServer<{ items: { id: string; name: string }[]; next: string | null }>(
        'GET',
        `/api/v1/projects/${project}/shelf?${query}`,
      );
      if ('why' in page) return { why: page.why };
      found.push(...page.body.items.map(({ id, name }) => ({ collection, id, name })));
      next = page.body.next;
    }
  return found;
}

/** Archives the documents that an import has created. Returns why some are left: they were changed since, or the server refused. */
export async function undoImport(record: Pick<ImportRecord, 'project' | 'key'>): Promise<string[]> {
  const all = await imported(record);
  if ('why' in all) return [all.why];
  const left: string[] = [];
  for (const { collection, id, name } of all) {
    const why = await archive(collection, id, 1);
    if (why) left.push(`${name}: ${why}`);
  }
  if (left.length === 0) dropRecord(record.key);
  return left;
}
