import { execFileSync } from 'node:child_process';
import type { Asked } from '../fold/ir.ts';

export const fields = ['pressed', 'stickX', 'stickY', 'pointX', 'pointY', 'swipe', 'spoke'];

/** Numbers of a line before the ways: whether a run begins, the hands, and what it begins with. */
export const HANDS = 32;
export const LINE = HANDS + 6;
/** Numbers of a way before its points: its four ends, whether there is one, gets there, is squeezed, and how many points it has. */
export const WAY = 8;

/** What a program that drives the code of a motion is made for. */
interface Driven {
  /** Sets fields of the body that begins, each from its place in a line. */
  begin(set: (field: string, at: number) => string): string;
  asks: readonly Asked[];
  /** The walls that the body meets, x0, y0, x1, y1 each; null: none, and cells that are solid for one that steps. */
  segments: readonly number[] | null;
}

/** A program that reads hands and ways, a tick a line, and prints what the made file does with them. */
export interface Driver {
  text(driven: Driven): string;
  /** Whether it reads and writes doubles by their bits, because its language does so with decimals less than exactly. */
  isInBits?: boolean;
}

export const ran = (command: string, args: readonly string[], folder: string, input: string) =>
  execFileSync(command, args, { cwd: folder, input, encoding: 'utf8', maxBuffer: 1 << 28 });
export const built = (command: string, args: readonly string[], folder: string) =>
  execFileSync(command, args, { cwd: folder, stdio: 'pipe' });
