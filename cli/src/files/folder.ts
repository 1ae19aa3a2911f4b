import {
  closeSync,
  fsyncSync,
  lstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join, sep } from 'node:path';
import { type DocumentKind, documentKinds, faultText, kindNames, parseAny } from '@zygopod/core';

/** A file of the folder at present: its document, or its fault. */
export interface DiskFile {
  /** Below the folder: `tunings/boots.tuning.json`. */
  path: string;
  kind: DocumentKind;
  file: { name: string } | null;
  why: string;
  /** Inode identity of the file; '' if it can't be read. */
  inode: string;
}

/** Current content of a folder, and the kinds whose folders can't be read, with the reason. */
export interface DiskFiles {
  files: Map<string, DiskFile>;
  unread: Map<DocumentKind, string>;
}

/** Cached content of a file, valid for this time and size. */
interface Known {
  stamp: string;
  read: DiskFile;
}

const code = (error: unknown): string => String((error as { code?: unknown } | null)?.code ?? '');

const failures: Readonly<Record<string, string>> = {
  EACCES: 'no permission',
  EPERM: 'no permission',
  EROFS: 'the file system is read-only',
  ENOSPC: 'no space left on the disk',
  EDQUOT: 'no space left on the disk',
  ENOTDIR: 'a file stands where a folder should be',
  EISDIR: 'a folder stands where a file should be',
  ELINK: 'a link leads out of the folder',
};

/** True if something is a failure of the file system: of one file, and no reason to stop the others. */
export const isFileFailure = (error: unknown): boolean => error instanceof Error && /^E[A-Z]+$/.test(code(error));

/** A failure of the file system in words. */
export const failureWords = (error: unknown): string => failures[code(error)] ?? (code(error) || String(error));

/** The project's files in a folder: read as they are, written so that a reader finds the old or the new, and nothing between. */
export class Folder {
  readonly root: string;
  readonly #known = new Map<string, Known>();

  constructor(root: string) {
    this.root = root;
  }

  /** True if the folder is there. */
  isThere(): boolean {
    try {
      return statSync(this.root).isDirectory();
    } catch {
      return false;
    }
  }

  /** All documents in it, by their paths. */
  read(): DiskFiles {
    const files = new Map<string, DiskFile>();
    const unread = new Map<DocumentKind, string>();
    for (const kind of kindNames) {
      const { collection: folder, suffix } = documentKinds[kind];
      let names: string[];
      try {
        names = readdirSync(join(this.root, folder));
      } catch (error) {
        if (code(error) !== 'ENOENT') unread.set(kind, failureWords(error));
        continue;
      }
      for (const name of names.sort()) {
        if (!name.endsWith(suffix) || name.startsWith('.')) continue;
        const file = this.#readFile(`${folder}/${name}`, kind);
        if (file) files.set(file.path, file);
      }
    }
    return { files, unread };
  }

  /** A text of the folder, null if there is none. */
  text(path: string): string | null {
    try {
      return readFileSync(join(this.root, path), 'utf8');
    } catch (error) {
      if (code(error) === 'ENOENT') return null;
      throw error;
    }
  }

  /** Inode identity of a file; '' if there is none. */
  inode(path: string): string {
    try {
      return birthOf(statSync(join(this.root, path)));
    } catch {
      return '';
    }
  }

  #readFile(path: string, kind: DocumentKind): DiskFile | null {
    const whole = join(this.root, path);
    let inode = '';
    const none = (why: string): DiskFile => ({ path, kind, file: null, why, inode });
    try {
      const { mtimeMs, size, ino, isFile, birth } = { ...statOf(whole) };
      inode = birth;
      if (!isFile) return null;
      const stamp = `${mtimeMs} ${size} ${ino}`;
      const known = this.#known.get(path);
      // What was changed just now may be changed again within the same tick of the clock.
      if (known?.stamp === stamp && Date.now() - mtimeMs > 2000) return known.read;
      const { largest } = documentKinds[kind];
      if (size > largest) return none(`${size} bytes, expected at most ${largest}`);
      const read = parseAny(readFileSync(whole, 'utf8'));
      const member = read.ok ? read.value.members[0] : undefined;
      const faults = read.ok ? (member && !member.reading.ok ? member.reading.faults : []) : read.faults;
      const file =
        member?.reading.ok && member.kind === kind
          ? { path, kind, file: member.reading.value, why: '', inode }
          : none(faults[0] ? faultText(faults[0]) : `it isn’t a ${kind}`);
      this.#known.set(path, { stamp, read: file });
      return file;
    } catch (error) {
      if (code(error) === 'ENOENT') return null;
      return none(`it cannot be read (${code(error) || error})`);
    }
  }

  /** Writes a file whole or not at all: into another one beside it, which then takes its name. A link within the folder stays one. */
  write(path: string, text: string): void {
    const whole = this.#target(path);
    mkdirSync(dirname(whole), { recursive: true });
    const other = join(dirname(whole), `.zygopod-${process.pid}`);
    try {
      const handle = openSync(other, 'w');
      try {
        writeFileSync(handle, text);
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

  /** Why a place is not below the folder, where links lead out of it. */
  outside(path: string): string | null {
    const root = realpathSync(this.root);
    for (let at = join(root, path); at.length > root.length; at = dirname(at)) {
      try {
        const real = realpathSync(at);
        return real === root || real.startsWith(root + sep) ? null : 'a link leads out of the folder';
      } catch {
        // It is made when the file is.
      }
    }
    return null;
  }

  /** The target of a path: of a link, the file behind it, as long as it lies in the folder. */
  #target(path: string): string {
    const whole = join(this.root, path);
    try {
      if (!lstatSync(whole).isSymbolicLink()) return whole;
      const real = realpathSync(whole);
      if (real.startsWith(realpathSync(this.root) + sep)) return real;
    } catch (error) {
      if (code(error) === 'ENOENT') return whole;
      throw error;
    }
    throw Object.assign(new Error(`${path} is a link that leads out of the folder`), { code: 'ELINK' });
  }

  remove(path: string): void {
    rmSync(join(this.root, path), { force: true });
  }
}

/** The inode number of a file, and its time of creation: numbers are reused soon. */
const birthOf = ({ ino, birthtimeMs }: { ino: number; birthtimeMs: number }) => `${ino} ${birthtimeMs}`;

function statOf(path: string) {
  const stat = statSync(path);
  return { mtimeMs: stat.mtimeMs, size: stat.size, ino: stat.ino, isFile: stat.isFile(), birth: birthOf(stat) };
}
