import { createHash } from 'node:crypto';
import { existsSync, realpathSync } from 'node:fs';
import { join } from 'node:path';
import {
  handOffPathFault,
  intoKept,
  type KeptSource,
  LONGEST_SOURCE,
  placeKept,
  readTuning,
  shortNumber,
  specOf,
  type Tuning,
  takeByHand,
} from '@zygopod/core';
import { Misuse } from '../misuse.ts';
import type { Application, LinkedSource } from './application.ts';
import type { Folder } from './folder.ts';
import type { Direction } from './projectFile.ts';
import { readSourceFile, type SourceFile, writeSourceFile } from './sourceFile.ts';

/** Fingerprint of a link: the tuning's newest revision, the source's version, and the file's text or why it can't be used. */
const keyOf = (head: number, version: number, text: string): string =>
  `${head} ${version} ${createHash('sha256').update(text).digest('hex')}`;

/** The real place of a file, whatever links and letter cases lead to it. */
function realPlace(path: string): string {
  try {
    return realpathSync.native(path);
  } catch {
    return path;
  }
}

/** One link between a source and its file, as it is worked on. */
interface Link {
  linked: LinkedSource;
  tuning: Tuning;
  head: number;
  /** The game's names for parameters, by path. */
  names: Readonly<Record<string, string>>;
  lines: string[];
}

/**
 * Keeps source files of a folder and the tunings that they are linked to alike: each saved revision is written into the file's own text, and each
 * number that was changed there by hand becomes a revision. Each step can be taken again, so that a process that is killed between two loses nothing.
 */
export class LinkedSources {
  readonly #folder: Folder;
  readonly #app: Application;
  readonly #project: string;
  readonly #direction: Direction;
  /** Last fingerprint of each link, to skip unchanged ones. */
  readonly #seen = new Map<string, string>();

  constructor(folder: Folder, app: Application, project: string, direction: Direction) {
    this.#folder = folder;
    this.#app = app;
    this.#project = project;
    this.#direction = direction;
  }

  /** Processes each link whose file, tuning or source has changed; returns a line for each action. `heads`: the newest revisions of tunings. */
  async look(heads: ReadonlyMap<string, number>): Promise<string[]> {
    const lines: string[] = [];
    const all = await this.#app.linkedSources(this.#project);
    if (all.length === 0) return lines;
    const { names } = await this.#app.project(this.#project);
    const taken = new Set<string>();
    for (const linked of all) {
      const head = heads.get(linked.document);
      if (head === undefined) continue;
      // Two tunings would change one file in turns, forever.
      const place = realPlace(join(this.#folder.root, linked.path));
      const isTaken = taken.has(place);
      taken.add(place);
      const there = isTaken ? { why: 'another tuning is linked to it' } : this.#read(linked.path);
      const key = keyOf(head, linked.version, 'text' in there ? there.text : there.why);
      if (this.#seen.get(linked.document) === key) continue;
      if ('why' in there) lines.push(`${linked.path} is skipped: ${there.why}`);
      // Seen once it was worked on to the end: a failure in between is met again.
      const after = 'why' in there ? key : await this.#work({ linked, head, names, lines }, there);
      this.#seen.set(linked.document, after ?? key);
    }
    return lines;
  }

  /** A source file of the folder, or why it can't be used. */
  #read(path: string): SourceFile | { why: string } {
    const why = handOffPathFault(path) ?? this.#folder.outside(path);
    if (why !== null) return { why };
    const whole = join(this.#folder.root, path);
    if (!existsSync(whole)) return { why: 'it is not there' };
    try {
      return readSourceFile(whole);
    } catch (error) {
      if (error instanceof Misuse) return { why: error.message };
      throw error;
    }
  }

  /** Processes one link; returns the key of its new state, null if it is unchanged. */
  async #work(about: Omit<Link, 'tuning'>, there: SourceFile): Promise<string | null> {
    const { linked, head, lines } = about;
    const { path, source } = linked;
    const file = await this.#app.file({ id: linked.document, kind: 'tuning' }, head);
    const read = file && readTuning(file);
    if (!read?.ok) return null;
    if (there.text.length > LONGEST_SOURCE) {
      lines.push(`${path} is skipped: ${there.text.length} characters, expected at most ${LONGEST_SOURCE}`);
      return null;
    }
    const known = new Set(Object.values(source.names));
    if (!placeKept(source, there.text).some((one) => one.path !== null && known.has(one.path))) {
      lines.push(`${path} is skipped: it contains none of the numbers of ${source.name}`);
      return null;
    }
    const link: Link = { ...about, tuning: read.value };
    if (!(await this.#takeHandChanges(link, there.text))) return null;
    await this.#write(link, there.encoding);
    return keyOf(link.head, link.linked.version, link.linked.source.text);
  }

  /** Makes a revision of numbers that were changed in the file. Returns false if nothing is to be written into it now. */
  async #takeHandChanges(link: Link, text: string): Promise<boolean> {
    const { linked, tuning, head, lines } = link;
    const { path, source } = linked;
    if (text === source.text) return true;
    const own = intoKept(source, tuning, { gameNames: link.names });
    // Written by this process or another one that was ended before it could say so.
    const byHand = text === own.text ? null : takeByHand(source, { ...source, text }, tuning.file);
    if (byHand?.why) {
      lines.push(`${path} is skipped: its changed numbers make an invalid tuning: ${byHand.why}`);
      return false;
    }
    const changed = Object.entries(byHand?.values ?? {});
    if (byHand && changed.length > 0) {
      if (this.#direction === 'pull') {
        lines.push(`${path} is skipped: ${changed.length} of its numbers were changed by hand`);
        return false;
      }
      const words = changed.map(
        ([own, value]) => `${specOf(own).label} ${typeof value === 'number' ? shortNumber(value) : JSON.stringify(value)}`,
      );
      const over = byHand.conflicts.length > 0 ? `; rev ${head} had others for ${byHand.conflicts.join(', ')}` : '';
      link.head = await this.#app.save(
        { id: linked.document, kind: 'tuning' },
        head,
        byHand.file,
        `From ${path}: ${words.join(', ')}${over}`.slice(0, 1900),
      );
      lines.push(`${path}: ${words.join(', ')} changed by hand: rev ${link.head} of ${tuning.file.name}${over}`);
      const again = readTuning(byHand.file);
      if (again.ok) link.tuning = again.value;
    }
    await this.#keep(link, text === own.text ? own.next : { ...source, text });
    return true;
  }

  /** Writes the tuning's numbers into the file. */
  async #write(link: Link, encoding: SourceFile['encoding']): Promise<void> {
    const { linked, tuning, head, lines } = link;
    const { path, source } = linked;
    const into = intoKept(source, tuning, { gameNames: link.names });
    for (const { line, name, why } of into.refused) lines.push(`${path}: line ${line}: ${name} is unchanged: ${why}`);
    if (into.text === source.text || this.#direction === 'push') return;
    const whole = join(this.#folder.root, path);
    // Somebody has just written it and has priority: the next pass reads it.
    if (readSourceFile(whole).text !== source.text) return;
    writeSourceFile(whole, into.text, encoding);
    const count = into.edits.length;
    lines.push(`${path}: rev ${head} of ${tuning.file.name} written: ${count} ${count === 1 ? 'number' : 'numbers'}`);
    await this.#keep(link, into.next);
  }

  /** Keeps the source as it is now with its tuning. */
  async #keep(link: Link, source: KeptSource): Promise<void> {
    link.linked = await this.#app.keepSource(link.linked, source);
  }
}
