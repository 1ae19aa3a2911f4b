import type { JudgedBody } from '../judge/judge.ts';
import type { JudgedFile } from './documents.ts';
import { RawJson } from './rawJson.ts';

/** A judged file as it is kept. */
export function keptOf({ name, text, hash, line, numbers }: Pick<JudgedBody, 'name' | 'text' | 'hash' | 'line' | 'numbers'>): JudgedFile {
  return { name, file: new RawJson(text), hash, line, numbers: new RawJson(JSON.stringify(numbers)) };
}
