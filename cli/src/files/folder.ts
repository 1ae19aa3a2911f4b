import { closeSync, fsyncSync, mkdirSync, openSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { faultText, largest, type MemberKind, memberKinds, parseAny } from '@zygopod/core';

/** The folder of each kind, and how its files end. */
export const folders = Object.fromEntries(Object.entries(memberKinds).map(([folder, kind]) => [kind, folder])) as Record<
  MemberKind,
  string
>;

export const endOf = (kind: MemberKind): string => `.${kind}.json`;

/** A file of the folder as it is now: the document in it, or what is wrong with it. */
export interface DiskFile {
  /** Below the folder: `tunings/boots.tuning.json`. */
  path: string;
  kind: MemberKind;
  file: { name: string } | null;
  why: string;
}

/** What was read of a file last, as long as its time and size are those. */
interface Known {
  stamp: string;
  read: DiskFile;
}

const code = (error: unknown): string => String((error as { code?: unknown } | null)?.code ?? '');

/** The project's files in a folder: read as they are, written so that a reader finds the old or the new, and nothing between. */
export class Folder {
  readonly root: string;
  readonly #known = new Map<string, Known>();

  constructor(root: string) {
    this.root = root;
  }

  /** Whether the folder is there. */
  isThere(): boolean {
    try {
      return statSync(this.root).isDirectory();
    } catch {
      return false;
    }
  }

  /** All documents in it, by their paths; throws where the folder cannot be read. */
  read(): Map<string, DiskFile> {
    const found = new Map<string, DiskFile>();
    for (const [kind, folder] of Object.entries(folders) as [MemberKind, string][]) {
      let names: string[];
      try {
        names = readdirSync(join(this.root, folder));
      } catch (error) {
        if (code(error) === 'ENOENT') continue;
        throw error;
      }
      for (const name of names.sort()) {
        if (!name.endsWith(endOf(kind)) || name.startsWith('.')) continue;
        const file = this.#readFile(`${folder}/${name}`, kind);
        if (file) found.set(file.path, file);
      }
    }
    return found;
  }

  /** A text of the folder, null where there is none. */
  text(path: string): string | null {
    try {
      return readFileSync(join(this.root, path), 'utf8');
    } catch (error) {
      if (code(error) === 'ENOENT') return null;
      throw error;
    }
  }

  #readFile(path: string, kind: MemberKind): DiskFile | null {
    const none = (why: string): DiskFile => ({ path, kind, file: null, why });
    const whole = join(this.root, path);
    try {
      const { mtimeMs, size, ino, isFile } = { ...statOf(whole) };
      if (!isFile) return null;
      const stamp = `${mtimeMs} ${size} ${ino}`;
      const known = this.#known.get(path);
      // What was changed just now may be changed again within the same tick of the clock.
      if (known?.stamp === stamp && Date.now() - mtimeMs > 2000) return known.read;
      if (size > largest[kind]) return none(`${size} bytes, expected at most ${largest[kind]}`);
      const read = parseAny(readFileSync(whole, 'utf8'));
      const member = read.ok ? read.value.members[0] : undefined;
      const faults = read.ok ? (member && !member.reading.ok ? member.reading.faults : []) : read.faults;
      const file =
        member?.reading.ok && member.kind === kind
          ? { path, kind, file: member.reading.value, why: '' }
          : none(faults[0] ? faultText(faults[0]) : `it is no ${kind}`);
      this.#known.set(path, { stamp, read: file });
      return file;
    } catch (error) {
      if (code(error) === 'ENOENT') return null;
      return none(`it cannot be read (${code(error) || error})`);
    }
  }

  /** Writes a file whole: into another one beside it, which then takes its name. */
  write(path: string, text: string): void {
    const whole = join(this.root, path);
    mkdirSync(dirname(whole), { recursive: true });
    const other = join(dirname(whole), `.${basename(whole)}.${process.pid}`);
    try {
      const handle = openSync(other, 'w');
      try {
        writeSync(handle, text);
        fsyncSync(handle);
      } finally {
        closeSync(handle);
      }
      renameSync(other, whole);
    } catch (error) {
      rmSync(other, { force: true });
      throw error;
    }
  }

  remove(path: string): void {
    rmSync(join(this.root, path), { force: true });
  }
}

function statOf(path: string) {
  const stat = statSync(path);
  return { mtimeMs: stat.mtimeMs, size: stat.size, ino: stat.ino, isFile: stat.isFile() };
}
