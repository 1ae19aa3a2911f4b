import { documentText, fileStem, type MemberKind, mergeFiles } from '@zygopod/core';
import { type Application, type Listed, Overtaken, Refused } from './application.ts';
import { type DiskFile, type DiskFiles, endOf, type Folder, failureWords, folders, isFileFailure } from './folder.ts';
import { filesOf, hashOf } from './identity.ts';
import type { Memory, Pair } from './memory.ts';
import { type Direction, lookAtProject, PROJECT_FILE } from './projectFile.ts';
import { StandingHandOffs } from './standing.ts';

/** What a look at both sides has done. */
export interface Told {
  /** In a line each: what was written, saved, merged, and what could not be. */
  lines: string[];
  /** Files that are left alone, and why. */
  broken: string[];
  /** Whether a file is missing that may be back in a moment: it has to be looked at again. */
  isWaiting: boolean;
}

/** Milliseconds for which a file has to be missing before its document is archived: editors and version control remove files to write them anew. */
export const QUIET = 2000;

/** Letters of a document that is remembered whole while it is archived. */
const SMALL = 65_536;

/** Earlier contents of a document that are remembered. */
const PAST = 100;

/** The earlier contents of a document whose contents are these from now on. */
const pastOf = (known: Pair | undefined, hash: string): string[] =>
  known ? [...new Set([...known.past, known.hash])].filter((one) => one !== '' && one !== hash).slice(-PAST) : [];

/**
 * Keeps a folder and a project alike. Of each document it is known how both were alike last; what changed since on one side goes to the other,
 * what changed on both is merged by parts, and where both changed the same part the file's value counts: the other one is in the history, and
 * the note of the merge names it. Each step ends with what is known of it, and each can be taken again: whoever is killed between two loses nothing.
 */
export class Mirror {
  readonly #folder: Folder;
  readonly #app: Application;
  readonly #memory: Memory;
  readonly #project: string;
  readonly #direction: Direction;
  readonly #standing: StandingHandOffs;
  readonly #toldBroken = new Map<string, string>();
  readonly #quiet: number;
  readonly #now: () => number;
  /** When the files of documents were missed first. */
  readonly #missed = new Map<string, number>();

  /** `quiet`: see QUIET; `now`: a clock, ms. */
  constructor(
    folder: Folder,
    app: Application,
    memory: Memory,
    project: string,
    direction: Direction = 'both',
    { quiet = QUIET, now = () => performance.now() }: { quiet?: number; now?: () => number } = {},
  ) {
    this.#quiet = quiet;
    this.#now = now;
    this.#folder = folder;
    this.#app = app;
    this.#memory = memory;
    this.#project = project;
    this.#direction = direction;
    this.#standing = new StandingHandOffs(folder, app, memory, project);
    if (memory.project !== project) {
      memory.pairs.clear();
      memory.written.clear();
      Object.assign(memory, { project, projectText: '' });
    }
  }

  /** Looks at both sides once, and makes them alike. */
  async look(): Promise<Told> {
    const told: Told = { lines: [], broken: [], isWaiting: false };
    const isKnown = this.#memory.pairs.size > 0;
    if (isKnown && !this.#folder.isThere()) throw new Error(`${this.#folder.root} is away: nothing is taken for removed`);
    const listed = new Map((await this.#app.list(this.#project)).map((one) => [one.id, one]));
    const disk = this.#folder.read();
    if (isKnown && disk.files.size === 0 && disk.unread.size === 0 && this.#folder.text(PROJECT_FILE) === null)
      throw new Error(`${this.#folder.root} is empty: nothing is taken for removed`);
    await this.#step(told, PROJECT_FILE, () => lookAtProject(this.#folder, this.#app, this.#memory, this.#direction, told.lines));
    this.#tellBroken(disk, told);
    const own = await this.#follow(disk, told);
    for (const [id, pair] of [...this.#memory.pairs])
      if (!disk.unread.has(pair.kind)) await this.#step(told, pair.path, () => this.#known(id, pair, listed.get(id), own.get(id), told));
    await this.#strangers(listed, disk, new Set([...own.values()].map(({ path }) => path)), told);
    if (this.#fetches)
      await this.#step(told, 'hand-offs', async () => {
        told.lines.push(...(await this.#standing.look(await this.#headsNow(told, listed))));
      });
    return told;
  }

  /** Finds the file of each document that was alike with one, also where it lies elsewhere now, and remembers the new place. */
  async #follow(disk: DiskFiles, told: Told): Promise<Map<string, DiskFile>> {
    const known = [...this.#memory.pairs].filter(([, { kind }]) => !disk.unread.has(kind));
    const own = await filesOf(
      disk.files.values(),
      known.map(([id, pair]) => ({
        id,
        pair,
        file: async () => pair.last ?? this.#app.file({ id, kind: pair.kind }, pair.head).catch(() => null),
      })),
    );
    for (const [id, { path, inode, file }] of own) {
      const pair = this.#memory.pairs.get(id) as Pair;
      if (pair.path !== path) told.lines.push(`${pair.path} is ${path} now`);
      if (pair.path === path && pair.inode === inode) continue;
      this.#memory.pairs.set(id, { ...pair, path, inode, name: pair.name || (file?.name ?? '') });
      this.#memory.keep();
    }
    return own;
  }

  /** The newest revisions of tunings: where this look has changed something they are asked for again. */
  async #headsNow({ lines }: Told, listed: ReadonlyMap<string, Listed>): Promise<Map<string, number>> {
    const now = lines.length > 0 ? await this.#app.list(this.#project) : [...listed.values()];
    return new Map(now.flatMap(({ id, kind, head }) => (kind === 'tuning' ? [[id, head] as const] : [])));
  }

  /** One step; somebody who was faster is met at the next look. */
  async #step(told: Told, what: string, work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      if (error instanceof Overtaken) told.lines.push(`${what}: changed meanwhile, looked at again`);
      else if (isFileFailure(error)) this.#leaveAlone(told, what, failureWords(error));
      else if (error instanceof Refused) this.#leaveAlone(told, what, error.message);
      else throw error;
    }
  }

  #tellBroken({ files, unread }: DiskFiles, told: Told): void {
    for (const [kind, why] of unread) this.#leaveAlone(told, folders[kind], why);
    for (const { path, file, why } of files.values()) {
      if (file) this.#toldBroken.delete(path);
      else this.#leaveAlone(told, path, why);
    }
  }

  /** Reports what can't be read or written, a line once. */
  #leaveAlone(told: Told, path: string, why: string): void {
    told.broken.push(`${path}: ${why}`);
    if (this.#toldBroken.get(path) !== why) told.lines.push(`${path} is left alone: ${why}`);
    this.#toldBroken.set(path, why);
  }

  /** A document and its file that were alike once. */
  async #known(id: string, known: Pair, server: Listed | undefined, there: DiskFile | undefined, told: Told): Promise<void> {
    const { path } = known;
    if (there) this.#missed.delete(id);
    if (there && !there.file) return;
    const here = there?.file ?? null;
    if (known.isAway) return this.#away(id, known, server, here, told);
    if (!here && server && !this.#isMissing(id, told)) return;
    const pair = await this.#settled(id, known, server, here);
    const isDiskChanged = here !== null && hashOf(here) !== pair.hash;
    if (!server) await this.#putAwayThere(id, pair, here, isDiskChanged, told);
    else if (!here) await this.#removedHere(server, pair, told);
    else {
      const isServerChanged = server.head !== pair.head || server.hash !== pair.serverHash;
      if (!isServerChanged && isDiskChanged && !pair.begun) {
        if (this.#sends) await this.#send(server, path, here, `From ${path}`, told);
      } else if (isServerChanged || isDiskChanged) await this.#meet(server, pair, here, isDiskChanged, told);
    }
  }

  /** What is known of a pair once it was found out whether a step that was begun, and perhaps cut short, was done. */
  async #settled(id: string, pair: Pair, server: Listed | undefined, here: object | null): Promise<Pair> {
    const { begun, ...rest } = pair;
    if (!begun) return pair;
    const isSent = async () => {
      if (!server || server.head < begun.head) return false;
      const file = await this.#app.file(server, begun.head);
      return file !== null && hashOf(file) === begun.hash;
    };
    const isDone = begun.is === 'write' ? here !== null && hashOf(here) === begun.hash : await isSent();
    const isUndone = begun.is === 'send' || here === null || hashOf(here) === pair.hash;
    // Of a file that was changed since nobody can tell whether it was written before: both may be what it grew from.
    if (!isDone && !isUndone) return pair;
    const { head, hash, serverHash } = isDone ? begun : rest;
    const settled = { ...rest, head, hash, serverHash };
    if (pair.hash !== '' || isDone) {
      this.#memory.pairs.set(id, settled);
      this.#memory.keep();
    }
    return settled;
  }

  /** Put away there: so is the file, unless it was changed since. */
  async #putAwayThere(id: string, { kind, path }: Pair, here: object | null, isDiskChanged: boolean, told: Told): Promise<void> {
    if (here && isDiskChanged && this.#sends) {
      await this.#app.bringBack({ id, kind });
      told.lines.push(`${path}: changed here and put away there, brought back`);
      return;
    }
    if (here && this.#fetches) this.#folder.remove(path);
    if (here && !this.#fetches) return;
    told.lines.push(`${path}: put away`);
    this.#setAside(id, here);
  }

  /** A document that was archived together with its file: whichever of them comes back brings the other along. */
  async #away(id: string, pair: Pair, server: Listed | undefined, here: object | null, told: Told): Promise<void> {
    const { kind, path } = pair;
    if (server) {
      this.#inUse(id, pair);
      if (!here && this.#fetches) await this.#fetch(server, path, told);
    } else if (here && this.#sends) {
      try {
        await this.#app.bringBack({ id, kind });
        told.lines.push(`${path}: there again, brought back`);
      } catch (error) {
        // It was removed for good, and the file is a new document's; or somebody else has just brought it back.
        const isThere = error instanceof Overtaken && (await this.#app.list(this.#project)).some((one) => one.id === id);
        if (error instanceof Overtaken && !isThere) this.#forget(id);
        throw error;
      }
      this.#inUse(id, pair);
      told.isWaiting = true;
    }
  }

  /** Whether a file has been missing for long enough to be taken for removed. */
  #isMissing(id: string, told: Told): boolean {
    const since = this.#missed.get(id) ?? this.#now();
    this.#missed.set(id, since);
    if (this.#now() - since >= this.#quiet) return true;
    told.isWaiting = true;
    return false;
  }

  #inUse(id: string, { last: _, ...pair }: Pair): void {
    this.#memory.pairs.set(id, { ...pair, isAway: false });
    this.#memory.keep();
  }

  /** Keeps what is known of a document that is archived, so that its file is known when it comes back. */
  #setAside(id: string, last: object | null): void {
    const pair = this.#memory.pairs.get(id);
    if (!pair) return;
    const { begun: _, ...rest } = pair;
    const isSmall = last !== null && JSON.stringify(last).length < SMALL;
    this.#memory.pairs.set(id, { ...rest, isAway: true, ...(isSmall ? { last: last as Record<string, unknown> } : {}) });
    this.#missed.delete(id);
    this.#memory.keep();
  }

  /** Removed here: so it is put away there, unless it was changed since, or was never written. */
  async #removedHere(server: Listed, { path, head, serverHash, hash }: Pair, told: Told): Promise<void> {
    const isChanged = server.head !== head || server.hash !== serverHash || hash === '';
    if (isChanged) {
      if (this.#fetches) await this.#fetch(server, path, told);
    } else if (this.#sends) {
      const last = await this.#app.file(server, server.head);
      await this.#app.putAway(server);
      told.lines.push(`${path}: removed here, put away there`);
      this.#setAside(server.id, last);
    }
  }

  /** There is a newer revision: it is written into the file; where that was changed, too, both are merged. */
  async #meet(server: Listed, pair: Pair, here: { name: string }, isDiskChanged: boolean, told: Told): Promise<void> {
    const theirs = await this.#app.file(server, server.head);
    if (!theirs) return;
    if (hashOf(theirs) === hashOf(here)) this.#remember(server, pair.path, here);
    else if (isDiskChanged) {
      const numbers = [pair.head, ...(pair.begun?.is === 'write' ? [pair.begun.head] : [])].filter((number) => number > 0);
      const from = await Promise.all(numbers.map((number) => this.#app.file(server, number)));
      await this.#merge(
        server,
        pair.path,
        from.filter((one) => one !== null),
        here,
        theirs,
        told,
      );
    } else if (this.#fetches) this.#write(server, pair.path, theirs, told);
  }

  /** Both changed: what the file and the newest revision make together becomes a revision, and the file. */
  async #merge(
    server: Listed,
    path: string,
    from: readonly { name: string }[],
    here: { name: string },
    theirs: { name: string },
    told: Told,
  ): Promise<void> {
    const { file, conflicts } = mergeFiles(server.kind, from, here, theirs);
    const words = conflicts.length > 0 ? `; both changed ${conflicts.join(', ')}: the file's counts, rev ${server.head} has the other` : '';
    const note = `Merged from ${path}${words}`.slice(0, 1900);
    // The file comes first: killed in between, the next look merges the same again. One that was changed since is looked at again.
    const now = this.#folder.read().files.get(path)?.file;
    if (!now || hashOf(now) !== hashOf(here)) return;
    if (hashOf(file) !== hashOf(here)) this.#folder.write(path, documentText(file));
    if (hashOf(file) === hashOf(theirs)) this.#remember(server, path, file);
    else await this.#send(server, path, file, note, told);
    told.lines.push(`${path}: merged${words}`);
  }

  /** Documents without files, and files without documents: those that say the same belong together, the others are new. */
  async #strangers(
    listed: ReadonlyMap<string, Listed>,
    { files: disk, unread }: DiskFiles,
    paths: ReadonlySet<string>,
    told: Told,
  ): Promise<void> {
    const files = [...disk.values()].filter(({ path, file }) => file && !paths.has(path));
    const documents = [...listed.values()].filter(({ id, kind }) => !this.#memory.pairs.has(id) && !unread.has(kind));
    for (const server of documents) {
      await this.#step(told, server.name, async () => {
        const alike = files.filter(({ kind, file }) => kind === server.kind && file?.name === server.name);
        if (alike.length === 0 && !this.#fetches) return;
        const theirs = await this.#app.file(server, server.head);
        if (!theirs) return;
        const same = files.find(({ kind, file }) => kind === server.kind && file && hashOf(file) === hashOf(theirs));
        const match = same ?? (alike.length === 1 ? alike[0] : undefined);
        if (match?.file) {
          files.splice(files.indexOf(match), 1);
          if (same) this.#remember(server, match.path, match.file);
          else if (this.#sends && this.#fetches) {
            // They are of one name, and nothing is known of them: both grew from what it was at first.
            const first = await this.#app.file(server, 1);
            await this.#merge(server, match.path, first ? [first] : [], match.file, theirs, told);
          } else told.lines.push(`${match.path} is left alone: it is not what ${server.name} is, and nothing is known of it`);
        } else if (this.#fetches) this.#write(server, this.#freePath(server.kind, server.name, disk), theirs, told);
      });
    }
    if (!this.#sends) return;
    for (const { path, kind, file } of files) {
      if (!file) continue;
      await this.#step(told, path, async () => {
        await this.#app.make(this.#project, kind, file, `From ${path}`);
        told.lines.push(`${path}: a new ${kind}`);
        // It is met as what says the same; whoever is killed in between meets it so, too.
        const made = (await this.#app.list(this.#project)).filter(({ id }) => !this.#memory.pairs.has(id));
        for (const one of made) {
          if (one.kind !== kind || one.name !== file.name) continue;
          const theirs = await this.#app.file(one, one.head);
          if (!theirs || hashOf(theirs) !== hashOf(file)) continue;
          this.#remember(one, path, file);
          break;
        }
      });
    }
  }

  async #send(server: Listed, path: string, file: { name: string }, note: string, told: Told): Promise<void> {
    const known = this.#memory.pairs.get(server.id);
    const hash = hashOf(file);
    if (known) this.#begin(server.id, known, { is: 'send', head: server.head + 1, hash, serverHash: '' });
    const head = await this.#app.save(server, server.head, file, note);
    told.lines.push(`${path}: rev ${head} of ${file.name}`);
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

  /** Keeps that a step is begun, before it is taken. */
  #begin(id: string, pair: Pair, begun: NonNullable<Pair['begun']>): void {
    this.#memory.pairs.set(id, { ...pair, begun });
    this.#memory.keep();
  }

  async #fetch(server: Listed, path: string, told: Told): Promise<void> {
    const theirs = await this.#app.file(server, server.head);
    if (theirs) this.#write(server, path, theirs, told);
  }

  #write(server: Listed, path: string, file: { name: string }, told: Told): void {
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
    this.#begin(id, known, { is: 'write', head, hash: hashOf(file), serverHash });
    this.#folder.write(path, documentText(file));
    told.lines.push(`${path}: written, rev ${head}`);
    this.#remember(server, path, file);
  }

  #remember({ id, kind, head, hash }: Listed, path: string, file: { name: string }): void {
    const inode = this.#folder.inode(path);
    const own = hashOf(file);
    const past = pastOf(this.#memory.pairs.get(id), own);
    this.#memory.pairs.set(id, { kind, path, head, serverHash: hash, hash: own, past, name: file.name, inode, isAway: false });
    this.#memory.keep();
  }

  #forget(id: string): void {
    this.#memory.pairs.delete(id);
    this.#memory.keep();
  }

  /** A path that no other document has, nor any file: some systems take capitals for small letters. */
  #freePath(kind: MemberKind, name: string, disk: ReadonlyMap<string, DiskFile>): string {
    const taken = new Set([...disk.keys(), ...[...this.#memory.pairs.values()].map(({ path }) => path)].map((path) => path.toLowerCase()));
    const stem = fileStem(name);
    for (let i = 1; ; i++) {
      const path = `${folders[kind]}/${stem}${i > 1 ? `-${i}` : ''}${endOf(kind)}`;
      if (!taken.has(path.toLowerCase())) return path;
    }
  }

  get #sends(): boolean {
    return this.#direction !== 'pull';
  }

  get #fetches(): boolean {
    return this.#direction !== 'push';
  }
}
