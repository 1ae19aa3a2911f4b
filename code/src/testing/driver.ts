import { execFileSync } from 'node:child_process';
import type { Callback } from '../fold/ir.ts';

export const fields = ['pressed', 'stickX', 'stickY', 'pointX', 'pointY', 'swipe', 'spoke'];

/** Numbers of a line before the paths: a flag for the start of a run, the hands, and the start. */
export const HANDS = 32;
export const LINE = HANDS + 6;
/** Numbers of a path before its points: its four ends, flags for existence, arrival and squeezing, and the number of points. */
export const WAY = 8;

/** The inputs for a program that drives a motion's code. */
interface Driven {
  /** Sets fields of the body that begins, each from its place in a line. */
  begin(set: (field: string, at: number) => string): string;
  asks: readonly Callback[];
  /** The walls that the body meets, x0, y0, x1, y1 each; null: none, and cells that are solid for one that steps. */
  segments: readonly number[] | null;
}

/** A program that reads hands and paths, a tick per line, and prints the results of the generated file. */
export interface Driver {
  text(driven: Driven): string;
  /** True if it reads and writes doubles by their bits, because its language does so with decimals less than exactly. */
  isInBits?: boolean;
}

export const ran = (command: string, args: readonly string[], folder: string, input: string) =>
  execFileSync(command, args, { cwd: folder, input, encoding: 'utf8', maxBuffer: 1 << 28 });
export const built = (command: string, args: readonly string[], folder: string) =>
  execFileSync(command, args, { cwd: folder, stdio: 'pipe' });
