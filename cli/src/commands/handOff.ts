import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
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
  live?: string;
  link?: boolean;
  output?: string;
  force?: boolean;
}

/** Paths that are listed with commas between them. */
const pathsIn = (list = ''): string[] => [
  ...new Set(
    list
      .split(',')
      .map((path) => path.trim())
      .filter((path) => path !== ''),
  ),
];

/** A hand-off: its text, its comment prefix, and other files beside it. */
interface Handed {
  text: string;
  comment: string | null;
  beside?: readonly { name: string; text: string }[];
}

/** The hand-off of a tuning; null if there is nothing, after reporting why. */
async function handedOf(tuning: Tuning, options: ExportOptions): Promise<Handed | null> {
  for (const name of ['live', 'link'] as const)
    if (options[name] !== undefined && !options.code) throw new Misuse(`--${name}: expected with --code`);
  if (options.link && (options.output === undefined || options.output === '-'))
    throw new Misuse('--link: writes files beside the motion, expected with --output FILE');
  if (options.code || options.walls) {
    const language = languages.find(({ id }) => id === options.to);
    if (!language)
      throw new Misuse(`--to: found ${options.to}, expected one of ${languageIds.join(', ')} with --${options.walls ? 'walls' : 'code'}`);
    const { CannotHold, linkedFiles, motionOf, printerOf, wallsOf } = await import('@zygopod/code');
    const printer = printerOf(language.id);
    try {
      if (options.walls) return { text: printer.walls(wallsOf(tuning)), comment: language.comment };
      const motion = motionOf(tuning, { live: pathsIn(options.live) });
      const beside = options.link ? linkedFiles(language.id, motion.live, options.output as string) : [];
      return { text: printer.file(motion), comment: language.comment, beside };
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
  const files = [
    { path: output, text: handed.text },
    ...(handed.beside ?? []).map(({ name, text }) => ({ path: join(dirname(output), name), text })),
  ];
  const left = files.filter(({ path: to, text }) => !overwrite(to, stamped(text, handed.comment), handed.comment, options.force === true));
  return left.length > 0 ? FINDING : GOOD;
}

/** Writes a file, unless one that was changed by hand is there: that is shown. Returns false if it stays as it is. */
function overwrite(path: string, text: string, comment: string | null, isForced: boolean): boolean {
  if (existsSync(path)) {
    const there = readFileSync(path, 'utf8');
    if (there === text) return true;
    for (const line of differing(there, text)) say(line);
    if (!isAsWritten(there, comment) && !isForced) {
      say(`${path} was changed by hand, or isn’t from Zygopod: not overwritten (use --force)`);
      return false;
    }
  }
  writeText(path, text);
  return true;
}
