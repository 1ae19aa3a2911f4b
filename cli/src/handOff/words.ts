import { type GameUnits, printable, readUnits, specs } from '@zygopod/core';
import { readText } from '../files.ts';
import { Misuse } from '../misuse.ts';

/** Says a line on stderr. */
export const say = (line: string): unknown => process.stderr.write(`${printable(line)}\n`);

/** The units that a word says. Throws what is wrong with it. */
export function gameUnits(words: string): GameUnits {
  const units = readUnits(words);
  if (typeof units === 'string') throw new Misuse(`--units: ${units}`);
  return units;
}

/** A game's names for parameters, by path. */
export function gameNames(path: string | undefined): Record<string, string> {
  if (path === undefined) return {};
  let value: unknown;
  try {
    value = JSON.parse(readText(path));
  } catch (error) {
    if (error instanceof Misuse) throw error;
    throw new Misuse(`--names ${path}: found invalid JSON, expected an object with names by path`);
  }
  const own = (value as { names?: unknown } | null)?.names ?? value;
  if (typeof own !== 'object' || own === null || Array.isArray(own))
    throw new Misuse(`--names ${path}: expected an object with names by path`);
  for (const [key, name] of Object.entries(own)) {
    if (!specs.has(key)) throw new Misuse(`--names ${path}: ${key}: there is no such parameter`);
    if (typeof name !== 'string') throw new Misuse(`--names ${path}: ${key}: found ${JSON.stringify(name)}, expected a text`);
  }
  return own as Record<string, string>;
}
