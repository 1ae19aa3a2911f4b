import { type Expression, kindOf, type Routine, type StandardName } from './ir.ts';
import type { SourceOf } from './source.ts';

/** The body and the hands, as a function is handed them. */
export const BODY = Symbol('body');
export const HANDS = Symbol('hands');

/** A value that is known when the code is made, or an expression that is not. */
export type Value = { known: unknown } | { is: Expression };
export const known = (value: unknown): Value => ({ known: value });
export const isKnown = (value: Value): value is { known: unknown } => 'known' in value;
/** A value as an expression. */
export const expressionOf = (value: Value): Expression => (isKnown(value) ? literal(value.known) : value.is);

/** An object of which it is known that it is there, with parts that may not be known. */
export class Parts {
  readonly parts: Readonly<Record<string, Value>>;

  constructor(parts: Readonly<Record<string, Value>>) {
    this.parts = parts;
  }
}
export const number = (value: number): Expression => ({ is: 'number', value });
export const truth = (value: boolean): Expression => ({ is: 'truth', value });

/** What cannot be made code of: said before anything is written. */
export class CannotHold extends Error {}

/** Scratch objects of a plan that are written: their parts become fields of the body. */
export const isScratch = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && 'integral' in value && 'time' in value && 's' in value;
/** What looks for walls: without any, what is written into it is read by nobody. */
export const isProbe = (value: unknown): boolean => typeof value === 'object' && value !== null && 'halfWidth' in value && 'reach' in value;
export const scratchField = (part: string) => `flow${part[0]?.toUpperCase()}${part.slice(1)}`;

/**
 * Functions that look for walls, which are the game's: where it has none in the way, nothing is gathered, and a place that the body is put to
 * is as free as it is.
 */
export const withoutWalls: Readonly<Record<string, (args: readonly Value[]) => Value>> = {
  gather: () => known(undefined),
  unsettle: () => known(undefined),
  isClear: ([, ...way]) => ({ is: { is: 'clear', args: way.map(expressionOf) } }),
  isFree: ([, x, y]) => ({ is: { is: 'clear', args: [x, y, x, y].map((one) => expressionOf(one as Value)) } }),
  freePlace: ([, x, y]) => known(new Parts({ x: x as Value, y: y as Value })),
};

/** Edges that hold the body are the game's: fields of the body, which it sets. */
export const edgeField = (part: string) => `edge${part[0]?.toUpperCase()}${part.slice(1)}`;
export const edgeStarts: Readonly<Record<string, number>> = {
  edgeLeft: -Infinity,
  edgeRight: Infinity,
  edgeTop: -Infinity,
  edgeBottom: Infinity,
};

/** Functions whose insides are bits of a double: each language has a line for them. */
export const standards: Readonly<Record<string, StandardName>> = {
  highWord: 'highWord',
  fromHighWord: 'fromHighWord',
  withHighWord: 'withHighWord',
};
export const mathNames = new Set(['sqrt', 'floor', 'ceil', 'trunc', 'abs', 'min', 'max']);

export interface Scope {
  file: SourceOf;
  names: Map<string, Value>;
  /** Names of locals that are taken, by what they are in the source. */
  taken: Map<string, number>;
  routine: Routine;
}

export function literal(value: unknown): Expression {
  if (typeof value === 'boolean') return truth(value);
  if (typeof value === 'number') return number(value);
  throw new CannotHold(`${String(value)} is no number`);
}

/** A number is true where it is not 0. */
export function asTruth(e: Expression): Expression {
  if (kindOf(e) === 'truth') return e;
  if (e.is === 'number') return truth(e.value !== 0);
  return { is: 'binary', sign: '!==', left: e, right: number(0) };
}
