import { type Callback, type Expression, kindOf, type Routine, type StandardName } from './ir.ts';
import type { SourceOf } from './source.ts';

/**
 * The known arguments of a function: the body and the hands; the body's current path, with its points; and a list of which each element is its own
 * place.
 */
export const BODY = Symbol('body');
export const HANDS = Symbol('hands');
export const PATH = Symbol('path');
export const POINTS = Symbol('points');
export const PLACES = Symbol('places');

/** A value that is known when the code is made, or an expression that is not; `of` is what it stands for where it is there at all. */
export type Value = { known: unknown } | Unknown;
export interface Unknown {
  is: Expression;
  of?: unknown;
}
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
/** A list of numbers that is written while the code runs. */
export class List {
  readonly name: string;
  readonly room: number | null;

  constructor(name: string, room: number | null = null) {
    this.name = name;
    this.room = room;
  }
}

/** A setting that stays a variable in the code: a field of the body, or what follows from one. */
export class Live {
  readonly field: string;
  readonly is: Expression;

  constructor(field: string, is: Expression = { is: 'body', field }) {
    this.field = field;
    this.is = is;
  }

  /** A number that follows this one by a link: times and plus. */
  linked(times: number, plus: number): Live {
    const product: Expression = times === 1 ? this.is : { is: 'binary', sign: '*', left: this.is, right: number(times) };
    return new Live(this.field, plus === 0 ? product : { is: 'binary', sign: '+', left: product, right: number(plus) });
  }
}

/** A number of what looks for walls that is written while the code runs. */
export class Written {
  readonly field: string;

  constructor(field: string) {
    this.field = field;
  }
}

export const number = (value: number): Expression => ({ is: 'number', value });
export const truth = (value: boolean): Expression => ({ is: 'truth', value });

/** A construct that code cannot be generated from: reported before anything is written. */
export class CannotHold extends Error {}

/** Scratch objects of a plan that are written: their parts become fields of the body. */
export const isScratch = (value: unknown): boolean => has(value, 'integral', 'time', 's');
/** True if a value is an object with such parts. */
export const has = (value: unknown, ...parts: string[]): boolean =>
  typeof value === 'object' && value !== null && parts.every((part) => part in value);
/** The probe, and the place known to be free of walls: without walls, nobody reads what is written into these. */
export const isProbe = (value: unknown): boolean => has(value, 'halfWidth', 'reach');
export const isCalm = (value: unknown): boolean => has(value, 'settled', 'square');
export const scratchField = (part: string) => `flow${part[0]?.toUpperCase()}${part.slice(1)}`;

/** Functions that stand for something else in the code that is made, by their names. */
export type Instead = Readonly<Record<string, (args: readonly Value[]) => Value>>;

const nothing = () => known(undefined);
const ask = (of: Callback, args: readonly (Value | undefined)[], stands?: unknown): Value => ({
  is: { is: 'ask', of, args: args.map((one) => expressionOf(one as Value)) },
  ...(stands === undefined ? {} : { of: stands }),
});

/**
 * Walls and paths are the game's: a callback moves the body along its walls and plans paths. Without walls nothing is collected, and a place to which
 * the body is moved is free as it is.
 */
export const byTheGame: Instead = {
  gather: nothing,
  settle: () => known(false),
  meetWalls: () => ask('contact', []),
  keepCalm: nothing,
  isClear: ([, ...ends]) => ask('isClear', ends),
  isFree: ([, x, y]) => ask('isClear', [x, y, x, y]),
  freePlace: ([, x, y]) => known(new Parts({ x: x as Value, y: y as Value })),
  findPath: ([, ...ends]) => ask('plan', ends, PATH),
  currentPath: () => known(PATH),
};

/** Walls are a plain list, in order: all are scanned, and nothing is searched or sorted first. */
export const amongWalls: Instead = { lookUp: nothing, reserve: nothing, putInOrder: nothing };

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
  throw new CannotHold(`${String(value)} isn’t a number`);
}

/** A number is true where it is not 0. */
export function asTruth(e: Expression): Expression {
  if (kindOf(e) === 'truth') return e;
  if (e.is === 'number') return truth(e.value !== 0);
  return { is: 'binary', sign: '!==', left: e, right: number(0) };
}
