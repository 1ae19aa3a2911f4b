import { type DocumentKind, documentKinds, documentText, fileName, mergeFiles } from '@zygopod/core';
import type { Application, Listed } from './application.ts';
import type { DiskFile, Folder } from './folder.ts';
import { hashOf } from './identity.ts';
import type { Memory, Pair } from './memory.ts';

/** Result of comparing both sides. */
export interface MirrorReport {
  /** A line for each document that was written, saved, merged or refused. */
  lines: string[];
  /** Files that are left alone, and why. */
  broken: string[];
  /** True if a missing file may reappear in a moment: another pass is needed. */
  isWaiting: boolean;
}

/** Letters of a document that is remembered whole while it is archived. */
const SMALL = 65_536;

/** Earlier contents of a document that are remembered. */
const PAST = 100;

/** The earlier contents of a document whose contents are these from now on. */
const pastOf = (known: Pair | undefined, hash: string): string[] =>
  known ? [...new Set([...known.past, known.hash])].filter((one) => one !== '' && one !== hash).slice(-PAST) : [];

/**
 * Copies a document from one side to the other, and records that both are equal. Each step ends with a record and can be repeated: a process killed
 * between two of them loses nothing.
 */
export class Exchange {
  readonly #folder: Folder;
  readonly #app: Application;
  readonly #memory: Memory;
  readonly #project: string;

  constructor(folder: Folder, app: Application, memory: Memory, project: string) {
    this.#folder = folder;
    this.#app = app;
    this.#memory = memory;
    this.#project = project;
  }

  /** State of a pair after deciding whether an interrupted step was completed. */
  async settled(id: string, pair: Pair, server: Listed | undefined, here: object | null): Promise<Pair> {
    const { begun, ...rest } = pair;
    if (!begun) return pair;
    const isSent = async () => {
      if (!server || server.head < begun.head) return false;
      const file = await this.#app.file(server, begun.head);
      return file !== null && hashOf(file) === begun.hash;
    };
    const isDone = begun.is === 'write' ? here !== null && hashOf(here) === begun.hash : await isSent();
    const isUndone = begun.is === 'send' || here === null || hashOf(here) === pair.hash;
    // A file changed since may or may not have been written before: both versions may be its ancestor.
    if (!isDone && !isUndone) return pair;
    const { head, hash, serverHash } = isDone ? begun : rest;
    const settled = { ...rest, head, hash, serverHash };
    if (pair.hash !== '' || isDone) {
      this.#memory.pairs.set(id, settled);
      this.#memory.keep();
    }
    return settled;
  }

  inUse(id: string, { last: _, ...pair }: Pair): void {
    this.#memory.pairs.set(id, { ...pair, isAway: false });
    this.#memory.keep();
  }

  /** Keeps the record of an archived document, so that its file is recognised when it reappears. */
  setAside(id: string, last: object | null): void {
    const pair = this.#memory.pairs.get(id);
    if (!pair) return;
    const { begun: _, ...rest } = pair;
    const isSmall = last !== null && JSON.stringify(last).length < SMALL;
    this.#memory.pairs.set(id, { ...rest, isAway: true, ...(isSmall ? { last: last as Record<string, unknown> } : {}) });
    this.#memory.keep();
  }

  /** Both changed: the merge of the file and the newest revision becomes a revision, and the file. */
  async merge(
    server: Listed,
    path: string,
    from: readonly { name: string }[],
    here: { name: string },
    theirs: { name: string },
    report: MirrorReport,
  ): Promise<void> {
    const { file, conflicts } = mergeFiles(server.kind, from, here, theirs);
    const words = conflicts.length > 0 ? `; both changed ${conflicts.join(', ')}: the file's counts, rev ${server.head} has the other` : '';
    const note = `Merged from ${path}${words}`.slice(0, 1900);
    // The file comes first: if killed in between, the next pass merges the same again. A file changed in the meantime waits for the next pass.
    const now = this.#folder.read().files.get(path)?.file;
    if (!now || hashOf(now) !== hashOf(here)) return;
    if (hashOf(file) !== hashOf(here)) this.#folder.write(path, documentText(file));
    if (hashOf(file) === hashOf(theirs)) this.remember(server, path, file);
    else await this.send(server, path, file, note, report);
    report.lines.push(`${path}: merged${words}`);
  }

  async send(server: Listed, path: string, file: { name: string }, note: string, report: MirrorReport): Promise<void> {
    const known = this.#memory.pairs.get(server.id);
    const hash = hashOf(file);
    if (known) this.begin(server.id, known, { is: 'send', head: server.head + 1, hash, serverHash: '' });
    const head = await this.#app.save(server, server.head, file, note);
    report.lines.push(`${path}: rev ${head} of ${file.name}`);
    const [now] = (await this.#app.list(this.#project)).filter(({ id }) => id === server.id);
    // Somebody who saved since is met at the next look: this revision is where both were alike.
    const inode = known?.inode ?? '';
    const serverHash = now?.head === head ? now.hash : '';
    this.#memory.pairs.set(server.id, {
      ...{ kind: server.kind, path, head, serverHash, hash, name: file.name, inode },
      past: pastOf(known, hash),
      isAway: false,
    });
    this.#memory.keep();
  }

  /** Records a step before it is taken. */
  begin(id: string, pair: Pair, begun: NonNullable<Pair['begun']>): void {
    this.#memory.pairs.set(id, { ...pair, begun });
    this.#memory.keep();
  }

  async fetch(server: Listed, path: string, report: MirrorReport): Promise<void> {
    const theirs = await this.#app.file(server, server.head);
    if (theirs) this.write(server, path, theirs, report);
  }

  write(server: Listed, path: string, file: { name: string }, report: MirrorReport): void {
    const { id, kind, head, hash: serverHash } = server;
    const known = this.#memory.pairs.get(id) ?? {
      kind,
      path,
      head: 0,
      serverHash: '',
      hash: '',
      past: [],
      name: file.name,
      inode: '',
      isAway: false,
    };
    this.begin(id, known, { is: 'write', head, hash: hashOf(file), serverHash });
    this.#folder.write(path, documentText(file));
    report.lines.push(`${path}: written, rev ${head}`);
    this.remember(server, path, file);
  }

  remember({ id, kind, head, hash }: Listed, path: string, file: { name: string }): void {
    const inode = this.#folder.inode(path);
    const own = hashOf(file);
    const past = pastOf(this.#memory.pairs.get(id), own);
    this.#memory.pairs.set(id, { kind, path, head, serverHash: hash, hash: own, past, name: file.name, inode, isAway: false });
    this.#memory.keep();
  }

  forget(id: string): void {
    this.#memory.pairs.delete(id);
    this.#memory.keep();
  }

  /** A path that no other document has, nor any file: some systems take capitals for small letters. */
  freePath(kind: DocumentKind, name: string, disk: ReadonlyMap<string, DiskFile>): string {
    const taken = new Set([...disk.keys(), ...[...this.#memory.pairs.values()].map(({ path }) => path)].map((path) => path.toLowerCase()));
    const folder = documentKinds[kind].collection;
    return `${folder}/${fileName(kind, name, (free) => taken.has(`${folder}/${free}`))}`;
  }
}
