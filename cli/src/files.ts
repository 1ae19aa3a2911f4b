import { readFileSync } from 'node:fs';
import {
  type Fault,
  faultText,
  type Ground,
  parseGround,
  parseTape,
  parseTuning,
  type Reading,
  type Tape,
  type Tuning,
} from '@zygopod/core';
import { Misuse } from './misuse.ts';

/** Files larger than this are refused unread. */
const LARGEST = 64 * 1024 * 1024;

/** The text of a file; `-` is stdin. */
export function readText(path: string): string {
  try {
    const bytes = readFileSync(path === '-' ? 0 : path);
    if (bytes.length > LARGEST) throw new Misuse(`${path}: found ${bytes.length} bytes, expected at most ${LARGEST}`);
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch (error) {
    if (error instanceof Misuse) throw error;
    if (error instanceof TypeError) throw new Misuse(`${path}: found bytes that are no UTF-8, expected a UTF-8 JSON file`);
    throw new Misuse(`${path}: cannot be read (${(error as NodeJS.ErrnoException).code ?? error})`);
  }
}

/** One line a fault: file, path, found, expected. */
function faultLines(path: string, faults: readonly Fault[]): string {
  return faults.map((fault) => `${path}: ${faultText(fault)}`).join('\n');
}

function must<T>(path: string, reading: Reading<T>): T {
  if (reading.ok) return reading.value;
  throw new Misuse(faultLines(path, reading.faults));
}

export function tuningFile(path: string): Tuning {
  return must(path, parseTuning(readText(path)));
}

export function groundFile(path: string): Ground {
  return must(path, parseGround(readText(path)));
}

export function tapeFile(path: string): Tape {
  return must(path, parseTape(readText(path)));
}
