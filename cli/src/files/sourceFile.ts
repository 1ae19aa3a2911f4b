import { randomUUID } from 'node:crypto';
import { chmodSync, readFileSync, realpathSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { printable } from '@zygopod/core';
import { Misuse } from '../misuse.ts';

/** A source as its bytes are: text of UTF-8 with its byte order mark, else each byte as a letter. */
export interface SourceFile {
  text: string;
  encoding: 'utf8' | 'latin1';
}

/** Bytes of a source at most. */
const LARGEST = 4_000_000;

const whyOf = (error: unknown) => (error as NodeJS.ErrnoException).code ?? 'unknown';

export function readSourceFile(path: string): SourceFile {
  let bytes: Buffer;
  try {
    bytes = readFileSync(path);
  } catch (error) {
    throw new Misuse(`${printable(path)}: cannot be read (${whyOf(error)})`);
  }
  if (bytes.length > LARGEST) throw new Misuse(`${printable(path)}: found more than ${LARGEST} bytes, expected at most ${LARGEST}`);
  try {
    return { text: new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes), encoding: 'utf8' };
  } catch {
    return { text: bytes.toString('latin1'), encoding: 'latin1' };
  }
}

/** Writes a source as a whole or not at all, with the rights that it has; where a link leads to it, there. */
export function writeSourceFile(path: string, text: string, encoding: SourceFile['encoding']): void {
  let beside: string | undefined;
  try {
    const real = realpathSync(path);
    beside = `${real}.${randomUUID()}.tmp`;
    writeFileSync(beside, text, { encoding, flag: 'wx' });
    chmodSync(beside, statSync(real).mode & 0o7777);
    renameSync(beside, real);
  } catch (error) {
    if (beside) rmSync(beside, { force: true });
    throw new Misuse(`${printable(path)}: cannot be written (${whyOf(error)})`);
  }
}
