import { closeSync, openSync, readSync, writeFileSync } from 'node:fs';
import {
  documentKinds,
  type Fault,
  faultText,
  type Ground,
  parseGround,
  parseTape,
  parseTargets,
  parseTuning,
  printable,
  type Reading,
  type Tape,
  type TargetSet,
  type Tuning,
} from '@zygopod/core';
import { Misuse } from './misuse.ts';

/** Bytes that are read at a time. */
const BLOCK = 1024 * 1024;

/** The bytes of a file, up to a size and one more block; a device or a pipe may have no end. */
function bytesOf(path: string, most: number): Uint8Array {
  const file = path === '-' ? 0 : openSync(path, 'r');
  const blocks: Buffer[] = [];
  let size = 0;
  try {
    while (size <= most) {
      const block = Buffer.allocUnsafe(BLOCK);
      const count = readBlock(file, block);
      if (count === 0) break;
      blocks.push(block.subarray(0, count));
      size += count;
    }
  } finally {
    if (path !== '-') closeSync(file);
  }
  return Buffer.concat(blocks);
}

/** Reads once; a terminal or a pipe that has nothing yet is waited for. */
function readBlock(file: number, block: Buffer): number {
  for (;;)
    try {
      return readSync(file, block, 0, block.length, null);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'EOF') return 0;
      if (code !== 'EAGAIN') throw error;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 10);
    }
}

/** The text of a file of at most so many bytes; `-` is stdin. */
export function readText(path: string, most: number = documentKinds.tape.largest): string {
  const name = printable(path);
  let bytes: Uint8Array;
  try {
    bytes = bytesOf(path, most);
  } catch (error) {
    throw new Misuse(`${name}: cannot be read (${(error as NodeJS.ErrnoException).code ?? 'unknown'})`);
  }
  if (bytes.length > most) throw new Misuse(`${name}: found more than ${most} bytes, expected at most ${most}`);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Misuse(`${name}: found bytes that aren’t UTF-8, expected a UTF-8 JSON file`);
  }
}

/** One line a fault: file, path, found, expected. */
function faultLines(path: string, faults: readonly Fault[]): string {
  return faults.map((fault) => `${printable(path)}: ${faultText(fault)}`).join('\n');
}

function must<T>(path: string, reading: Reading<T>): T {
  if (reading.ok) return reading.value;
  throw new Misuse(faultLines(path, reading.faults));
}

/** The stream for words about data that is written to `path`: stderr where the data itself is on stdout. */
export const besideData = (path: string | undefined): NodeJS.WriteStream => (path === '-' ? process.stderr : process.stdout);

/** Writes a text to a file, or to stdout for `-`; refuses where that can't be done. */
export function writeText(path: string, text: string): void {
  if (path === '-') {
    process.stdout.write(text);
    return;
  }
  try {
    writeFileSync(path, text);
  } catch (error) {
    throw new Misuse(`${printable(path)}: cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown'})`);
  }
}

export function tuningFile(path: string): Tuning {
  return must(path, parseTuning(readText(path, documentKinds.tuning.largest)));
}

export function groundFile(path: string): Ground {
  return must(path, parseGround(readText(path, documentKinds.ground.largest)));
}

export function tapeFile(path: string): Tape {
  return must(path, parseTape(readText(path, documentKinds.tape.largest)));
}

export function targetsFile(path: string): TargetSet {
  return must(path, parseTargets(readText(path, documentKinds.targets.largest)));
}
