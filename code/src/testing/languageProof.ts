import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Driver } from './driver.ts';

/** How tests run a language, and ask its own tools. */
export interface Proof {
  /** The program that runs or builds it, and its argument for printing its version (`--version`). */
  command: string;
  version?: string;
  driver: Driver;
  /** Builds and runs a program with the motion beside it, by the name of its file without the ending; gives what it prints. */
  run(stem: string, folder: string, input: string): string;
  /** The output of the language's own tool about files. */
  faults?(texts: readonly string[], folder: string): string[];
  /** Something of each file that is the same whatever stands in its comments. */
  withoutComments(texts: readonly string[], folder: string): string[];
  /** A program that finds more; where files are one, the second comes after the first in one file. */
  linter?: { program: string; options: readonly string[]; isOneFile?: boolean };
  /** True if its names are in camel case, or in snake case. */
  isCamel?: boolean;
  /** Names that it refuses, and odd ones that it takes. */
  names: { refused: readonly string[]; taken: readonly string[] };
}

/** Files with these texts; gives their paths. */
export const written = (texts: readonly string[], folder: string, extension = 'txt'): string[] =>
  texts.map((text, i) => {
    const path = join(folder, `file${i}.${extension}`);
    writeFileSync(path, text);
    return path;
  });

/** The output of a program. Throws if it fails. */
export function outputOf(program: string, args: readonly string[], folder: string): string {
  const { error, status, stdout, stderr } = spawnSync(program, args, { cwd: folder, encoding: 'utf8', maxBuffer: 1 << 28 });
  if (error || status !== 0 || stderr !== '') throw new Error(`${program}: ${error ?? status} ${stderr.slice(0, 500)}`);
  return stdout;
}

/** The output of a program for each file, a line each. */
export const linesBy = (program: string, args: readonly string[], texts: readonly string[], folder: string): string[] =>
  outputOf(program, [...args, ...written(texts, folder)], folder)
    .trim()
    .split('\n');

/** The messages of a program about each file; empty if the machine doesn't have it. */
export const faultsBy = (program: string, args: readonly string[], texts: readonly string[], folder: string): string[] =>
  written(texts, folder).flatMap((path, i) => {
    const { error, status, stderr } = spawnSync(program, [...args, path], { cwd: folder, encoding: 'utf8' });
    return error || (status === 0 && stderr === '') ? [] : [`${stderr.slice(0, 800)} of ${texts[i]?.slice(0, 3000)}`];
  });

/** Code of a language with braces without its comments: those from // to the end of the line, and between slashes and stars. */
export const withoutComments = (text: string): string =>
  text
    .replace(/\/\*[\s\S]*?\*\/|\/\/[^\n\r\u0085\u2028\u2029]*|"(?:[^"\\]|\\.)*"/g, (piece) => (piece.startsWith('"') ? piece : ' '))
    .replace(/\s+/g, ' ');
