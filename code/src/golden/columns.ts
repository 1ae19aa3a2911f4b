import { snake } from '../casing/casing.ts';
import type { Asked } from '../fold/ir.ts';
import { compared } from './modelRun.ts';

const controls = Array.from({ length: 11 }, (_, i) => i);

/** The columns of a golden: whether a run begins, the hands, and what the model makes of them (`is_…`). */
export const columns: readonly string[] = [
  'start',
  ...controls.map((i) => `held${i}`),
  ...controls.map((i) => `order${i}`),
  ...['pressed', 'stickX', 'stickY', 'pointX', 'pointY', 'swipe', 'spoke', 'pointed', 'changed'],
  ...compared.map((field) => `is_${field}`),
];

/** How many of them are the hands', with the start before them. */
export const HANDS = columns.length - compared.length;

/** Numbers of the hands one by one, by where they stand in a line. */
export const single: readonly (readonly [string, number])[] = ['pressed', 'stickX', 'stickY', 'pointX', 'pointY', 'swipe', 'spoke'].map(
  (field) => [field, columns.indexOf(field)],
);
export const POINTED = columns.indexOf('pointed');
export const CHANGED = columns.indexOf('changed');

/** The fields that are compared, as texts of a list. */
export const quoted = compared.map((field) => `"${field}"`).join(', ');

/** The same in snake case. */
export const quotedSnake = compared.map((field) => `"${snake(field)}"`).join(', ');

/** What a tick is handed of the game, each after a comma. */
export const handed = (asks: readonly Asked[], of: Readonly<Record<Asked, string>>): string => asks.map((one) => `, ${of[one]}`).join('');

/** A test of a language, and its file. */
export interface CheckFile {
  name: string;
  /** Its text; a motion that asks is answered that nothing is in the way, and that ways are straight. */
  text(asks: readonly Asked[]): string;
  /** A line for a shell that runs it, and what it is told by. */
  run: string;
  /** A file beside it in which the game's own movement takes the model's place. */
  adapter?: { name: string; text: string };
}
