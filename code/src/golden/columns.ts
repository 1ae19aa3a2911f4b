import { snake } from '../casing/casing.ts';
import type { Callback } from '../fold/ir.ts';
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

/** A tick's arguments from the game, each after a comma. */
export const handed = (asks: readonly Callback[], of: Readonly<Record<Callback, string>>): string =>
  asks.map((one) => `, ${of[one]}`).join('');

/** A test of a language, and its file. */
export interface CheckFile {
  name: string;
  /** Its text; a motion with callbacks gets no walls and straight paths. */
  text(asks: readonly Callback[]): string;
  /** A shell line that runs it, and its message. */
  run: string;
  /** A file beside it in which the game's own movement takes the model's place. */
  adapter?: { name: string; text: string };
}
