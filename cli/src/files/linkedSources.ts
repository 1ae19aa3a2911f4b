import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
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

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex');

/** One link between a source and its file, as it is worked on. */
interface Link {
  linked: LinkedSource;
  tuning: Tuning;
  head: number;
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
  /** What was seen last of each link: it isn't worked on again. */
  readonly #seen = new Map<string, string>();

  constructor(folder: Folder, app: Application, project: string, direction: Direction) {
    this.#folder = folder;
    this.#app = app;
    this.#project = project;
    this.#direction = direction;
  }

  /** Works on each link whose file, tuning or source has changed; returns what was done, a line each. `heads`: the newest revisions of tunings. */
  async look(heads: ReadonlyMap<string, number>): Promise<string[]> {
    const lines: string[] = [];
    for (const linked of await this.#app.linkedSources(this.#project)) {
      const head = heads.get(linked.document);
      if (head === undefined) continue;
      const there = this.#read(linked.path);
      const key = JSON.stringify([head, linked.version, 'text' in there ? hashOf(there.text) : there.why]);
      if (this.#seen.get(linked.document) === key) continue;
      this.#seen.set(linked.document, key);
      if ('why' in there) lines.push(`${linked.path} is left alone: ${there.why}`);
      else await this.#work(linked, there, head, lines);
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

  async #work(linked: LinkedSource, there: SourceFile, head: number, lines: string[]): Promise<void> {
    const { path } = linked;
    const file = await this.#app.file({ id: linked.document, kind: 'tuning' }, head);
    const read = file && readTuning(file);
    if (!read?.ok) return;
    if (there.text.length > LONGEST_SOURCE) {
      lines.push(`${path} is left alone: ${there.text.length} characters, expected at most ${LONGEST_SOURCE}`);
      return;
    }
    if (!placeKept(linked.source, there.text).some((one) => one.path !== null && Object.values(linked.source.names).includes(one.path))) {
      lines.push(`${path} is left alone: it has none of the numbers that ${linked.source.name} had`);
      return;
    }
    const link: Link = { linked, tuning: read.value, head, lines };
    if (await this.#takeHandChanges(link, there.text)) await this.#write(link, there.encoding);
  }

  /** Makes a revision of numbers that were changed in the file. Returns false if nothing is to be written into it now. */
  async #takeHandChanges(link: Link, text: string): Promise<boolean> {
    const { linked, tuning, head, lines } = link;
    const { path, source } = linked;
    if (text === source.text) return true;
    const own = intoKept(source, tuning);
    // Written by this process or another one that was ended before it could say so.
    const byHand = text === own.text ? null : takeByHand(source, { ...source, text }, tuning.file);
    if (byHand?.why) {
      lines.push(`${path} is left alone: the numbers that were changed there can’t be a tuning: ${byHand.why}`);
      return false;
    }
    const changed = Object.entries(byHand?.values ?? {});
    if (byHand && changed.length > 0) {
      if (this.#direction === 'pull') {
        lines.push(`${path} is left alone: ${changed.length} of its numbers were changed by hand`);
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
    const into = intoKept(source, tuning, { gameNames: (await this.#app.project(this.#project)).names });
    for (const { line, name, why } of into.refused) lines.push(`${path}: line ${line}: ${name} stays as it is: ${why}`);
    if (into.text === source.text || this.#direction === 'push') return;
    const whole = join(this.#folder.root, path);
    // Somebody who has just written it comes first: it is seen at the next look.
    if (readSourceFile(whole).text !== source.text) return;
    writeSourceFile(whole, into.text, encoding);
    const count = into.edits.length;
    lines.push(`${path}: rev ${head} of ${tuning.file.name} written: ${count} ${count === 1 ? 'number' : 'numbers'}`);
    await this.#keep(link, into.next);
  }

  /** Keeps the source as it is now with its tuning. */
  async #keep(link: Link, source: KeptSource): Promise<void> {
    link.linked = await this.#app.keepSource(link.linked, source);
    this.#seen.set(link.linked.document, JSON.stringify([link.head, link.linked.version, hashOf(source.text)]));
  }
}
