import { existsSync, readFileSync } from 'node:fs';
import {
  type Case,
  cases,
  documentText,
  findNumbers,
  type GameUnits,
  handOver,
  inCase,
  type Placed,
  pastedTuning,
  placeNumbers,
  printable,
  readUnits,
  specs,
  type Tuning,
  wordsOfPath,
  writers,
} from '@zygopod/core';
import { readText, tuningFile, writeText } from '../files.ts';
import { differing, isAsWritten, stamped } from '../handOff/stamp.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';

interface ExportOptions {
  to: string;
  units: string;
  names?: string;
  case?: string;
  all?: boolean;
  code?: boolean;
  walls?: boolean;
  output?: string;
  force?: boolean;
}

const say = (line: string) => process.stderr.write(`${printable(line)}\n`);

function unitsOf(words: string): GameUnits {
  const units = readUnits(words);
  if (typeof units === 'string') throw new Misuse(`--units: ${units}`);
  return units;
}

/** What a game calls parameters, by their paths. */
function namesOf(path: string | undefined): Record<string, string> {
  if (path === undefined) return {};
  let value: unknown;
  try {
    value = JSON.parse(readText(path));
  } catch (error) {
    if (error instanceof Misuse) throw error;
    throw new Misuse(`--names ${path}: found no JSON, expected an object with names by path`);
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

/** What is handed over, and how its lines of comment begin; null where it cannot be: why was told. */
async function handedOf(tuning: Tuning, options: ExportOptions): Promise<{ text: string; comment: string | null } | null> {
  if (options.code || options.walls) {
    const { CannotHold, motionOf, motionPrinters, wallsOf } = await import('@zygopod/code');
    const printers = motionPrinters();
    const printer = printers.find(({ id }) => id === options.to);
    if (!printer)
      throw new Misuse(
        `--to: found ${options.to}, expected one of ${printers.map(({ id }) => id).join(', ')} with --${options.walls ? 'walls' : 'code'}`,
      );
    try {
      const text = options.walls ? printer.walls(wallsOf(tuning)) : printer.file(motionOf(tuning));
      return { text, comment: writers.find(({ id }) => id === options.to)?.comment ?? null };
    } catch (error) {
      if (!(error instanceof CannotHold)) throw error;
      say(`no file can hold it: ${error.message}`);
      return null;
    }
  }
  const writer = writers.find(({ id }) => id === options.to);
  if (!writer) throw new Misuse(`--to: found ${options.to}, expected one of ${writers.map(({ id }) => id).join(', ')}`);
  if (options.case !== undefined && !cases.includes(options.case as Case))
    throw new Misuse(`--case: found ${options.case}, expected one of ${cases.join(', ')}`);
  const handed = handOver(tuning, 'as a file', {
    to: options.to,
    units: unitsOf(options.units),
    names: namesOf(options.names),
    style: (options.case as Case | undefined) ?? null,
    all: options.all === true,
  });
  for (const { path: of, why } of handed.faults) say(`${of}: ${why}`);
  return handed.faults.length > 0 ? null : { text: handed.text, comment: writer.comment };
}

/** Hands a tuning over: its numbers, or its motion as code. A file that was changed by hand since is shown, not overwritten. */
export async function exportTuning(path: string, options: ExportOptions): Promise<number> {
  const handed = await handedOf(tuningFile(path), options);
  if (!handed) return FINDING;
  const { output } = options;
  if (output === undefined || output === '-') {
    process.stdout.write(handed.text);
    return GOOD;
  }
  const { comment } = handed;
  const text = stamped(handed.text, comment);
  if (existsSync(output)) {
    const there = readFileSync(output, 'utf8');
    if (there === text) return GOOD;
    const isOurs = isAsWritten(there, comment);
    for (const line of differing(there, text)) say(line);
    if (!isOurs && !options.force) {
      say(`${output} was changed by hand, or is not of Zygopod: it is left as it is (--force writes over it)`);
      return FINDING;
    }
  }
  writeText(output, text);
  return GOOD;
}

interface ImportOptions {
  units: string;
  names?: string;
  name: string;
  guess?: boolean;
  output?: string;
}

/** Makes a tuning of a game's numbers; what is not known is told on stderr. */
export async function importTuning(path: string, options: ImportOptions): Promise<number> {
  const units = unitsOf(options.units);
  const names = namesOf(options.names);
  const known = new Map(Object.entries(names).map(([own, name]) => [name, own]));
  // What was handed over with our own names comes back by them.
  for (const [own, { kind }] of specs)
    if (kind === 'number')
      for (const style of cases) if (!known.has(inCase(wordsOfPath(own), style))) known.set(inCase(wordsOfPath(own), style), own);
  const text = readText(path);
  const placed = placeNumbers(findNumbers(text)).map((one): Placed => {
    const own = known.get(one.found.name.split('.').at(-1) as string) ?? known.get(one.found.name);
    const { as: _, ...rest } = one;
    if (own) return { ...rest, path: own, isGuess: false, why: 'by its name' };
    return one.isGuess && !options.guess ? { ...rest, path: null, isGuess: false, why: `a guess: ${one.why}` } : one;
  });
  const pixels = units.length === 'm' ? units.metre : units.tile;
  const length = units.length === 'px' ? 'px' : 'tiles';
  const made = pastedTuning(options.name.slice(0, 120), placed, { length, tile: pixels, time: units.time, hz: units.hz });
  for (const { found, path: own, why } of placed) if (!own) say(`line ${found.line}: ${found.name} is left out: ${why}`);
  for (const { path: own, why } of made.refused) say(`${own}: ${why}`);
  const out = documentText(made.file);
  if (options.output === undefined || options.output === '-') process.stdout.write(out);
  else writeText(options.output, out);
  return Object.keys(made.values).length > 0 ? GOOD : FINDING;
}
