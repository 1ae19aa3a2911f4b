import { createHash } from 'node:crypto';
import { handOver, writers } from '@zygopod/code/constants';
import { type Case, cases, handOffPathFault, readTuning, readUnits } from '@zygopod/core';
import { differing, isAsWritten, stamped } from '../handOff/stamp.ts';
import type { Application, Standing } from './application.ts';
import type { Folder } from './folder.ts';
import type { Memory } from './memory.ts';

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex');

/**
 * Writes hand-offs to their places in a folder, for each saved revision. A file that differs from the last written one was edited by somebody: it is
 * left as it is, and the new content is reported.
 */
export class StandingHandOffs {
  readonly #folder: Folder;
  readonly #app: Application;
  readonly #memory: Memory;
  readonly #project: string;
  /** Last fingerprint of each path, to skip unchanged ones. */
  readonly #last = new Map<string, string>();

  constructor(folder: Folder, app: Application, memory: Memory, project: string) {
    this.#folder = folder;
    this.#app = app;
    this.#memory = memory;
    this.#project = project;
  }

  /** Writes the hand-offs that are out of date; returns a line for each. `heads` are the newest revisions of tunings. */
  async look(heads: ReadonlyMap<string, number>): Promise<string[]> {
    const lines: string[] = [];
    const all = await this.#app.standing(this.#project);
    if (all.length === 0) return lines;
    const { names } = await this.#app.project(this.#project);
    for (const one of all) {
      const head = heads.get(one.tuning.id);
      if (head === undefined) continue;
      const there = this.#folder.text(one.path);
      const key = JSON.stringify([one, head, names, there === null ? null : hashOf(there)]);
      if (this.#last.get(one.path) === key) continue;
      const line = await this.#write(one, head, names, there);
      if (line) lines.push(line);
      const now = this.#folder.text(one.path);
      this.#last.set(one.path, JSON.stringify([one, head, names, now === null ? null : hashOf(now)]));
    }
    return lines;
  }

  async #write(one: Standing, head: number, names: Record<string, string>, there: string | null): Promise<string | null> {
    const { path, tuning } = one;
    const fault = handOffPathFault(path) ?? this.#folder.outside(path);
    if (fault) return `${path} is not written: ${fault}`;
    const file = await this.#app.file({ id: tuning.id, kind: 'tuning' }, head);
    const read = file && readTuning(file);
    const units = readUnits(one.units);
    const writer = writers.find(({ id }) => id === one.to);
    if (!read?.ok || typeof units === 'string' || !writer) return null;
    const style = cases.find((known) => known === one.style) ?? null;
    const handed = handOver(read.value, `rev ${head}`, { to: one.to, units, names, style: style as Case | null, all: one.all === true });
    if (handed.faults[0]) return `${path} is not written: ${handed.faults[0].path}: ${handed.faults[0].why}`;
    const text = stamped(handed.text, writer.comment);
    if (there === text) return null;
    if (there !== null && this.#memory.written.get(path) !== hashOf(there) && !isAsWritten(there, writer.comment)) {
      const [first = '', ...more] = differing(there, text);
      return `${path} was changed by hand and is not overwritten; rev ${head} has ${first}${more.length > 0 ? ` and ${more.length} more lines` : ''}`;
    }
    this.#folder.write(path, text);
    this.#memory.written.set(path, hashOf(text));
    this.#memory.keep();
    return `${path}: rev ${head} of ${tuning.name} handed over`;
  }
}
