import { type Expression, kindOf, type Routine, type StandardName } from './ir.ts';
import type { SourceOf } from './source.ts';

/** The body and the hands, as a function is handed them. */
export const BODY = Symbol('body');
export const HANDS = Symbol('hands');

/** A value that is known when the code is made, or an expression that is not. */
export type Value = { known: unknown } | { is: Expression };
export const known = (value: unknown): Value => ({ known: value });
export const isKnown = (value: Value): value is { known: unknown } => 'known' in value;
export const number = (value: number): Expression => ({ is: 'number', value });
export const truth = (value: boolean): Expression => ({ is: 'truth', value });

/** What cannot be made code of: said before anything is written. */
export class CannotHold extends Error {}

/** Scratch objects of a plan that are written: their parts become fields of the body. */
export const isScratch = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && 'integral' in value && 'time' in value && 's' in value;
export const scratchField = (part: string) => `flow${part[0]?.toUpperCase()}${part.slice(1)}`;

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
