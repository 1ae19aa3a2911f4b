import { createHash } from 'node:crypto';
import { canonicalText } from '@zygopod/core';
import type { DiskFile } from './folder.ts';
import type { Pair } from './memory.ts';

const hashes = new WeakMap<object, string>();

/** Hash of a document: the SHA-256 of its canonical text. */
export function hashOf(file: object): string {
  const hash = hashes.get(file) ?? createHash('sha256').update(canonicalText(file)).digest('hex');
  hashes.set(file, hash);
  return hash;
}

/** A document that equalled a file once, and the record of it. */
export interface Known {
  id: string;
  pair: Pair;
  /** Current content of the document for comparison; null if unknown. */
  file: () => Promise<object | null>;
}

/** Share of the parts of a document that have to be the same for it to be taken for the same document. */
const ALIKE = 0.5;

/** All values of a document by where they stand. */
function parts(value: unknown, path = '', into = new Map<string, string>()): Map<string, string> {
  if (typeof value === 'object' && value !== null && !Array.isArray(value))
    for (const [key, member] of Object.entries(value)) parts(member, `${path}.${key}`, into);
  else into.set(path, canonicalText(value));
  return into;
}

/** How much of two documents is the same, 0 to 1 (Jaccard index of their parts). */
function similarity(one: object, other: object): number {
  const [a, b] = [parts(one), parts(other)];
  const same = [...a].filter(([path, text]) => b.get(path) === text).length;
  return same / (a.size + b.size - same);
}

/** Those of a list by a key that only one of them has; '' is no key. */
function byOwn<T>(list: readonly T[], key: (one: T) => string): Map<string, T> {
  const own = new Map<string, T>();
  const twice = new Set<string>();
  for (const one of list) {
    const name = key(one);
    if (name === '') continue;
    if (own.has(name)) twice.add(name);
    own.set(name, one);
  }
  for (const name of twice) own.delete(name);
  return own;
}

/** Removes from both lists those that belong together by a key that only one of each has, and notes them. */
function pairBy(files: DiskFile[], known: Known[], found: Map<string, DiskFile>, key: (of: DiskFile | Pair) => string): void {
  const own = byOwn(files, key);
  for (const [name, one] of byOwn(known, ({ pair }) => key(pair))) {
    const file = own.get(name);
    if (!file) continue;
    found.set(one.id, file);
    files.splice(files.indexOf(file), 1);
    known.splice(known.indexOf(one), 1);
  }
}

const isPair = (of: DiskFile | Pair): of is Pair => 'hash' in of;
/** By contents; '' for a file that can't be read, and for a document that was never written. */
function contentOf(of: DiskFile | Pair): string {
  const hash = isPair(of) ? of.hash : of.file ? hashOf(of.file) : '';
  return hash === '' ? '' : `${of.kind} ${hash}`;
}

const nameOf = (of: DiskFile | Pair) => (isPair(of) ? of.name : (of.file?.name ?? ''));
const named = (of: DiskFile | Pair) => (nameOf(of) === '' ? '' : `${of.kind} ${nameOf(of)}`);

/** Pairs the rest by earlier contents of documents, as a branch of an earlier day restores them. */
function byPast(files: DiskFile[], known: Known[], found: Map<string, DiskFile>): void {
  for (const one of [...known]) {
    const past = new Set(one.pair.past);
    const own = files.filter((file) => file.kind === one.pair.kind && file.file && past.has(hashOf(file.file)));
    const [only] = own;
    if (!only || own.length > 1) continue;
    found.set(one.id, only);
    files.splice(files.indexOf(only), 1);
    known.splice(known.indexOf(one), 1);
  }
}

/**
 * Matches files to documents by identity, not by place. In this order: place and contents, place and name, contents, an earlier content; then name,
 * the file system's own number, place, and, for the rest, similarity. Documents in use have the first claim by each of both halves: contents
 * of an archived document are never taken for another one's that only has the same name. A file that matches none is new.
 */
export async function filesOf(disk: Iterable<DiskFile>, all: readonly Known[]): Promise<Map<string, DiskFile>> {
  const found = new Map<string, DiskFile>();
  const files = [...disk];
  const [inUse, archived] = [false, true].map((isAway) => all.filter(({ pair }) => pair.isAway === isAway)) as [Known[], Known[]];
  byContents(files, inUse, found);
  byContents(files, archived, found);
  await byRest(files, inUse, found, true);
  // A new document may have the name of one that is archived: its name alone doesn't restore that one.
  await byRest(files, archived, found, false);
  return found;
}

function byContents(files: DiskFile[], known: Known[], found: Map<string, DiskFile>): void {
  const by = (key: (of: DiskFile | Pair) => string) => pairBy(files, known, found, key);
  by((of) => (contentOf(of) === '' ? '' : `${of.path} ${contentOf(of)}`));
  by((of) => (named(of) === '' ? '' : `${of.path} ${named(of)}`));
  by(contentOf);
  byPast(files, known, found);
}

async function byRest(files: DiskFile[], known: Known[], found: Map<string, DiskFile>, isNameEnough: boolean): Promise<void> {
  const by = (key: (of: DiskFile | Pair) => string) => pairBy(files, known, found, key);
  if (isNameEnough) by(named);
  by((of) => (of.inode === '' ? '' : `${of.kind} ${of.inode}`));
  by(({ path, kind }) => `${kind} ${path}`);
  for (const one of known) {
    const alike = files.filter(({ kind, file }) => file && kind === one.pair.kind);
    const was = alike.length > 0 ? await one.file() : null;
    if (!was) continue;
    const [best] = alike
      .map((file) => ({ file, similarity: similarity(was, file.file as object) }))
      .filter((candidate) => candidate.similarity >= ALIKE)
      .sort((a, b) => b.similarity - a.similarity);
    if (!best) continue;
    found.set(one.id, best.file);
    files.splice(files.indexOf(best.file), 1);
  }
}
