import { existsSync, readFileSync } from 'node:fs';
import { handOver, languageIds, languages, writers } from '@zygopod/code/constants';
import { type Case, cases, type Tuning } from '@zygopod/core';
import { tuningFile, writeText } from '../files.ts';
import { differing, isAsWritten, stamped } from '../handOff/stamp.ts';
import { gameNames, gameUnits, say } from '../handOff/words.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';

interface ExportOptions {
  to?: string;
  units?: string;
  names?: string;
  case?: string;
  all?: boolean;
  code?: boolean;
  walls?: boolean;
  output?: string;
  force?: boolean;
}

/** The text to hand over, and its comment prefix; null if there is none, after reporting why. */
async function handedOf(tuning: Tuning, options: ExportOptions): Promise<{ text: string; comment: string | null } | null> {
  if (options.code || options.walls) {
    const language = languages.find(({ id }) => id === options.to);
    if (!language)
      throw new Misuse(`--to: found ${options.to}, expected one of ${languageIds.join(', ')} with --${options.walls ? 'walls' : 'code'}`);
    const { CannotHold, motionOf, printerOf, wallsOf } = await import('@zygopod/code');
    const printer = printerOf(language.id);
    try {
      const text = options.walls ? printer.walls(wallsOf(tuning)) : printer.file(motionOf(tuning));
      return { text, comment: language.comment };
    } catch (error) {
      if (!(error instanceof CannotHold)) throw error;
      say(`can’t be written: ${error.message}`);
      return null;
    }
  }
  const writer = writers.find(({ id }) => id === options.to);
  if (!writer) throw new Misuse(`--to: found ${options.to}, expected one of ${writers.map(({ id }) => id).join(', ')}`);
  if (options.case !== undefined && !cases.includes(options.case as Case))
    throw new Misuse(`--case: found ${options.case}, expected one of ${cases.join(', ')}`);
  const handed = handOver(tuning, 'as a file', {
    to: writer.id,
    units: gameUnits(options.units ?? ''),
    names: gameNames(options.names),
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
      say(`${output} was changed by hand, or isn’t from Zygopod: not overwritten (use --force)`);
      return FINDING;
    }
  }
  writeText(output, text);
  return GOOD;
}
