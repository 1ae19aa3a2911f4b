import { collectionOf } from '@zygopod/core';
import { type Application, type Listed, Overtaken, Refused } from './application.ts';
import { Exchange, type MirrorReport } from './exchange.ts';
import { type DiskFile, type DiskFiles, type Folder, failureWords, isFileFailure } from './folder.ts';
import { filesOf, hashOf } from './identity.ts';
import { LinkedSources } from './linkedSources.ts';
import type { Memory, Pair } from './memory.ts';
import { type Direction, lookAtProject, PROJECT_FILE } from './projectFile.ts';
import { StandingHandOffs } from './standing.ts';

/** Milliseconds for which a file must be missing before its document is archived: editors and version control delete files to rewrite them. */
export const QUIET = 2000;
/** Milliseconds between two looks after which a file that is missing at both may have been there in between: a live folder is read more often. */
const UNSEEN = 8000;

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
  readonly #exchange: Exchange;
  readonly #standing: StandingHandOffs;
  readonly #sources: LinkedSources;
  readonly #reportedBroken = new Map<string, string>();
  readonly #quiet: number;
  readonly #now: () => number;
  /** When the files of documents were missed first. */
  readonly #missed = new Map<string, { since: number; last: number }>();

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
    this.#exchange = new Exchange(folder, app, memory, project);
    this.#standing = new StandingHandOffs(folder, app, memory, project);
    this.#sources = new LinkedSources(folder, app, project, direction);
    if (memory.project !== project) {
      memory.pairs.clear();
      memory.written.clear();
      Object.assign(memory, { project, projectText: '' });
    }
  }

  /** Looks at both sides once, and makes them alike. */
  async look(): Promise<MirrorReport> {
    const report: MirrorReport = { lines: [], broken: [], isWaiting: false };
    const isKnown = this.#memory.pairs.size > 0;
    if (isKnown && !this.#folder.isThere()) throw new Error(`${this.#folder.root} is unavailable: no file counts as removed`);
    const listed = new Map((await this.#app.list(this.#project)).map((one) => [one.id, one]));
    const disk = this.#folder.read();
    if (isKnown && disk.files.size === 0 && disk.unread.size === 0 && this.#folder.text(PROJECT_FILE) === null)
      throw new Error(`${this.#folder.root} is empty: no file counts as removed`);
    await this.#step(report, PROJECT_FILE, () => lookAtProject(this.#folder, this.#app, this.#memory, this.#direction, report.lines));
    this.#reportBroken(disk, report);
    const own = await this.#follow(disk, report);
    for (const [id, pair] of [...this.#memory.pairs])
      if (!disk.unread.has(pair.kind))
        await this.#step(report, pair.path, () => this.#known(id, pair, listed.get(id), own.get(id), report));
    await this.#strangers(listed, disk, new Set([...own.values()].map(({ path }) => path)), report);
    await this.#step(report, 'sources', async () => {
      report.lines.push(...(await this.#sources.look(await this.#headsNow(report, listed))));
    });
    if (this.#fetches)
      await this.#step(report, 'hand-offs', async () => {
        report.lines.push(...(await this.#standing.look(await this.#headsNow(report, listed))));
      });
    return report;
  }

  /** Finds the file of each known document, also at a new place, and records that. */
  async #follow(disk: DiskFiles, report: MirrorReport): Promise<Map<string, DiskFile>> {
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
      if (pair.path !== path) report.lines.push(`${pair.path} is ${path} now`);
      if (pair.path === path && pair.inode === inode) continue;
      this.#memory.pairs.set(id, { ...pair, path, inode, name: pair.name || (file?.name ?? '') });
      this.#memory.keep();
    }
    return own;
  }

  /** The newest revisions of tunings; requested again where this pass has changed something. */
  async #headsNow({ lines }: MirrorReport, listed: ReadonlyMap<string, Listed>): Promise<Map<string, number>> {
    const now = lines.length > 0 ? await this.#app.list(this.#project) : [...listed.values()];
    return new Map(now.flatMap(({ id, kind, head }) => (kind === 'tuning' ? [[id, head] as const] : [])));
  }

  /** One step; somebody who was faster is met at the next look. */
  async #step(report: MirrorReport, what: string, work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      if (error instanceof Overtaken) report.lines.push(`${what}: changed meanwhile, retrying`);
      else if (isFileFailure(error)) this.#leaveAlone(report, what, failureWords(error));
      else if (error instanceof Refused) this.#leaveAlone(report, what, error.message);
      else throw error;
    }
  }

  #reportBroken({ files, unread }: DiskFiles, report: MirrorReport): void {
    for (const [kind, why] of unread) this.#leaveAlone(report, collectionOf(kind), why);
    for (const { path, file, why } of files.values()) {
      if (file) this.#reportedBroken.delete(path);
      else this.#leaveAlone(report, path, why);
    }
  }

  /** Reports what can't be read or written, a line once. */
  #leaveAlone(report: MirrorReport, path: string, why: string): void {
    report.broken.push(`${path}: ${why}`);
    if (this.#reportedBroken.get(path) !== why) report.lines.push(`${path} is skipped: ${why}`);
    this.#reportedBroken.set(path, why);
  }

  /** A document and its file that were alike once. */
  async #known(id: string, known: Pair, server: Listed | undefined, there: DiskFile | undefined, report: MirrorReport): Promise<void> {
    const { path } = known;
    if (there) this.#missed.delete(id);
    if (there && !there.file) return;
    const here = there?.file ?? null;
    if (known.isAway) return this.#away(id, known, server, here, report);
    if (!here && server && !this.#isMissing(id, report)) return;
    const pair = await this.#exchange.settled(id, known, server, here);
    const isDiskChanged = here !== null && hashOf(here) !== pair.hash;
    if (!server) await this.#putAwayThere(id, pair, here, isDiskChanged, report);
    else if (!here) await this.#removedHere(server, pair, report);
    else {
      const isServerChanged = server.head !== pair.head || server.hash !== pair.serverHash;
      if (!isServerChanged && isDiskChanged && !pair.begun) {
        if (this.#sends) await this.#exchange.send(server, path, here, `From ${path}`, report);
      } else if (isServerChanged || isDiskChanged) await this.#meet(server, pair, here, isDiskChanged, report);
    }
  }

  /** Put away there: so is the file, unless it was changed since. */
  async #putAwayThere(id: string, { kind, path }: Pair, here: object | null, isDiskChanged: boolean, report: MirrorReport): Promise<void> {
    if (here && isDiskChanged && this.#sends) {
      await this.#app.restore({ id, kind });
      report.lines.push(`${path}: changed here and archived there: restored`);
      return;
    }
    if (here && this.#fetches) this.#folder.remove(path);
    if (here && !this.#fetches) return;
    report.lines.push(`${path}: archived`);
    this.#exchange.setAside(id, here);
    this.#missed.delete(id);
  }

  /** A document that was archived together with its file: whichever of them comes back brings the other along. */
  async #away(id: string, pair: Pair, server: Listed | undefined, here: object | null, report: MirrorReport): Promise<void> {
    const { kind, path } = pair;
    if (server) {
      this.#exchange.inUse(id, pair);
      if (!here && this.#fetches) await this.#exchange.fetch(server, path, report);
    } else if (here && this.#sends) {
      try {
        await this.#app.restore({ id, kind });
        report.lines.push(`${path}: exists again: restored`);
      } catch (error) {
        // It was deleted permanently, and the file is a new document's; or somebody else has just restored it.
        const isThere = error instanceof Overtaken && (await this.#app.list(this.#project)).some((one) => one.id === id);
        if (error instanceof Overtaken && !isThere) this.#exchange.forget(id);
        throw error;
      }
      this.#exchange.inUse(id, pair);
      report.isWaiting = true;
    }
  }

  /** True if a file has been missing for long enough to be taken for removed, without a time in which it may have been there unseen. */
  #isMissing(id: string, report: MirrorReport): boolean {
    const now = this.#now();
    const before = this.#missed.get(id);
    const since = before && now - before.last <= UNSEEN ? before.since : now;
    this.#missed.set(id, { since, last: now });
    if (now - since >= this.#quiet) return true;
    report.isWaiting = true;
    return false;
  }

  /** Removed here: archives it on the server, unless it was changed since, or was never written. */
  async #removedHere(server: Listed, { path, head, serverHash, hash }: Pair, report: MirrorReport): Promise<void> {
    const isChanged = server.head !== head || server.hash !== serverHash || hash === '';
    if (isChanged) {
      if (this.#fetches) await this.#exchange.fetch(server, path, report);
    } else if (this.#sends) {
      const last = await this.#app.file(server, server.head);
      await this.#app.archive(server);
      report.lines.push(`${path}: removed here, archived there`);
      this.#exchange.setAside(server.id, last);
      this.#missed.delete(server.id);
    }
  }

  /** There is a newer revision: it is written into the file; where that was changed, too, both are merged. */
  async #meet(server: Listed, pair: Pair, here: { name: string }, isDiskChanged: boolean, report: MirrorReport): Promise<void> {
    const theirs = await this.#app.file(server, server.head);
    if (!theirs) return;
    if (hashOf(theirs) === hashOf(here)) this.#exchange.remember(server, pair.path, here);
    else if (isDiskChanged) {
      const numbers = [pair.head, ...(pair.begun?.is === 'write' ? [pair.begun.head] : [])].filter((number) => number > 0);
      const from = await Promise.all(numbers.map((number) => this.#app.file(server, number)));
      await this.#exchange.merge(
        server,
        pair.path,
        from.filter((one) => one !== null),
        here,
        theirs,
        report,
      );
    } else if (this.#fetches) this.#exchange.write(server, pair.path, theirs, report);
  }

  /** Documents without files, and files without documents: those that say the same belong together, the others are new. */
  async #strangers(
    listed: ReadonlyMap<string, Listed>,
    { files: disk, unread }: DiskFiles,
    paths: ReadonlySet<string>,
    report: MirrorReport,
  ): Promise<void> {
    const files = [...disk.values()].filter(({ path, file }) => file && !paths.has(path));
    const documents = [...listed.values()].filter(({ id, kind }) => !this.#memory.pairs.has(id) && !unread.has(kind));
    for (const server of documents) {
      await this.#step(report, server.name, async () => {
        const alike = files.filter(({ kind, file }) => kind === server.kind && file?.name === server.name);
        if (alike.length === 0 && !this.#fetches) return;
        const theirs = await this.#app.file(server, server.head);
        if (!theirs) return;
        const same = files.find(({ kind, file }) => kind === server.kind && file && hashOf(file) === hashOf(theirs));
        const match = same ?? (alike.length === 1 ? alike[0] : undefined);
        if (match?.file) {
          files.splice(files.indexOf(match), 1);
          if (same) this.#exchange.remember(server, match.path, match.file);
          else if (this.#sends && this.#fetches) {
            // They have one name and no record: their first version is the common ancestor.
            const first = await this.#app.file(server, 1);
            await this.#exchange.merge(server, match.path, first ? [first] : [], match.file, theirs, report);
          } else report.lines.push(`${match.path} is skipped: it is not what ${server.name} is, and nothing is known of it`);
        } else if (this.#fetches) this.#exchange.write(server, this.#exchange.freePath(server.kind, server.name, disk), theirs, report);
      });
    }
    if (!this.#sends) return;
    for (const { path, kind, file } of files) {
      if (!file) continue;
      await this.#step(report, path, async () => {
        await this.#app.create(this.#project, kind, file, `From ${path}`);
        report.lines.push(`${path}: a new ${kind}`);
        // It is paired as a document with equal content; a process killed in between pairs it so, too.
        const created = (await this.#app.list(this.#project)).filter(({ id }) => !this.#memory.pairs.has(id));
        for (const one of created) {
          if (one.kind !== kind || one.name !== file.name) continue;
          const theirs = await this.#app.file(one, one.head);
          if (!theirs || hashOf(theirs) !== hashOf(file)) continue;
          this.#exchange.remember(one, path, file);
          break;
        }
      });
    }
  }

  get #sends(): boolean {
    return this.#direction !== 'pull';
  }

  get #fetches(): boolean {
    return this.#direction !== 'push';
  }
}
