import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { kindNames } from '@zygopod/core';
import { z } from 'zod';

/** A document and its file as both were alike last. */
const pair = z.object({
  kind: z.enum(kindNames),
  path: z.string(),
  head: z.number(),
  /** The server's name of that revision's contents. */
  serverHash: z.string(),
  /** Hash of the content of both. */
  hash: z.string(),
  /** Earlier hashes, the newest last: a branch switch may restore any of them. */
  past: z.array(z.string()).default([]),
  /** The document's last name, and the inode identity of its file. */
  name: z.string().default(''),
  inode: z.string().default(''),
  /** True if it was archived when its file was removed, or the other way round: a file that reappears belongs to this document. */
  isAway: z.boolean().default(false),
  /** Its content at that time, if small: the application returns no file of an archived document. */
  last: z.record(z.string(), z.unknown()).optional(),
  /** A step that was started and may or may not be complete: a revision written into the file, or sent from it. */
  begun: z.object({ is: z.enum(['write', 'send']), head: z.number(), hash: z.string(), serverHash: z.string() }).optional(),
});
export type Pair = z.infer<typeof pair>;

const schema = z.object({
  project: z.string(),
  projectText: z.string(),
  pairs: z.record(z.string(), pair),
  /** Hash of the text handed over last, by its path. */
  written: z.record(z.string(), z.string()).default({}),
});
type Kept = z.infer<typeof schema>;

/** Record of a folder and a project between runs: their last common state. Written whole, after each step. */
export class Memory {
  readonly #path: string;
  readonly pairs: Map<string, Pair>;
  readonly written: Map<string, string>;
  project: string;
  projectText: string;

  constructor(path: string) {
    this.#path = path;
    const kept = readKept(path);
    this.project = kept?.project ?? '';
    this.projectText = kept?.projectText ?? '';
    this.pairs = new Map(Object.entries(kept?.pairs ?? {}));
    this.written = new Map(Object.entries(kept?.written ?? {}));
  }

  keep(): void {
    mkdirSync(dirname(this.#path), { recursive: true });
    const { project, projectText } = this;
    const [pairs, written] = [Object.fromEntries(this.pairs), Object.fromEntries(this.written)];
    writeFileSync(`${this.#path}.new`, JSON.stringify({ project, projectText, pairs, written }), { flush: true });
    renameSync(`${this.#path}.new`, this.#path);
  }
}

/** Reads the record; null if there is none, or it is unreadable: then everything is compared again. */
function readKept(path: string): Kept | null {
  try {
    return schema.parse(JSON.parse(readFileSync(path, 'utf8')));
  } catch {
    return null;
  }
}
