import type { Token } from './tokens.ts';

/** The scope of a number: an object, a class, a section, a row. Its label may follow its numbers. */
export interface Scope {
  name: string;
  /** The value of `name: "…"` or `id = …` within it. */
  label?: string;
  /** A function's parameters and body: its name may say whose it is, not what. */
  isFunction?: boolean;
}

/** A list of numbers and texts, or of lists of them. */
export type ListValue = readonly (number | string | ListValue)[];

/** A number, flag, word or list that was found in a source, under its name. */
export interface Found {
  kind: 'number' | 'flag' | 'word' | 'list';
  /** Names of what it stands in, from the outside, and its own. */
  scopes: readonly string[];
  own: string;
  /** Both with dots between them. */
  name: string;
  value: number | boolean | string | ListValue;
  /** The exact decimal of a number. */
  decimal: string;
  /** A ratio to another name: `walk * 1.75`. */
  times?: { of: string; factor: string };
  line: number;
  /** The text beside it: a unit, a remark. */
  unit: string;
  remark: string;
  /** Where what was read begins and ends. */
  at: number;
  end: number;
  /** Its literals; more than one in an expression. */
  literals: readonly Token[];
}

/** A number as it is being read: its scopes may still get their labels. */
export interface Reading extends Omit<Found, 'name' | 'scopes' | 'remark'> {
  within: readonly Scope[];
}

/** Maximum depth of names within names. */
const DEEPEST = 6;

/** The finished finding: scopes by their labels, where they have any. */
export function foundOf({ within, ...reading }: Reading, remark: string): Found {
  const scopes = within
    .filter(({ isFunction, label }) => !isFunction || label)
    .flatMap(({ name, label }) => (label === undefined ? [name] : name === '' ? [label] : [name, label]))
    .filter((name) => name !== '')
    .slice(-DEEPEST);
  const parts = [...new Set([...scopes, reading.own])];
  return { ...reading, scopes, name: parts.join('.'), remark };
}
