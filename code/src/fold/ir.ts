/** Motion code between TypeScript and the languages of games: numbers and truths, fields of the body and of the hands, and little else. */

export type Kind = 'number' | 'truth';

export type Expression =
  | { is: 'number'; value: number }
  | { is: 'truth'; value: boolean }
  | { is: 'local'; name: string; kind: Kind }
  | { is: 'body'; field: string }
  | { is: 'hands'; field: string; kind: Kind }
  | { is: 'control'; list: 'held' | 'order'; index: Expression }
  | { is: 'table'; name: string; index: Expression }
  | { is: 'not'; of: Expression }
  | { is: 'minus'; of: Expression }
  | { is: 'binary'; sign: Sign; left: Expression; right: Expression }
  | { is: 'choice'; test: Expression; yes: Expression; no: Expression }
  | { is: 'call'; name: string; args: Expression[]; kind: Kind }
  | { is: 'standard'; name: StandardName; args: Expression[] }
  /** The body's current path: its number of points, whether it arrives, whether it squeezes through a gap; and its points. */
  | { is: 'way'; part: 'count' | 'reached' | 'squeezed' }
  | { is: 'waypoint'; axis: 'x' | 'y'; index: Expression }
  /** The probe: its numbers and its lists of numbers. */
  | { is: 'walls'; field: string }
  | { is: 'list'; name: string; index: Expression }
  /** Calls the game: whether a straight line is clear, for a path, or to move the body along its walls. */
  | { is: 'ask'; of: Callback; args: Expression[] };

/** Callbacks into the game. */
export type Callback = 'contact' | 'isClear' | 'plan';
/** Arguments of a routine beside its own parameters. */
export type Used = 'body' | 'hands' | 'walls' | Callback;

export type Sign =
  | '+'
  | '-'
  | '*'
  | '/'
  | '%'
  | '<'
  | '<='
  | '>'
  | '>='
  | '==='
  | '!=='
  | '&&'
  | '||'
  | '&'
  | '|'
  | '^'
  | '<<'
  | '>>'
  | '>>>';

/** Operations that every language has, exactly rounded, or defines in a line of its own. */
export type StandardName = 'sqrt' | 'floor' | 'ceil' | 'trunc' | 'abs' | 'min' | 'max' | 'highWord' | 'fromHighWord' | 'withHighWord';

export type Statement =
  /** One that is `given` later is set before it is read, and its value only stands for its kind. */
  | { is: 'local'; name: string; value: Expression; given?: 'later' }
  | { is: 'set'; target: Expression; value: Expression }
  | { is: 'if'; test: Expression; yes: Statement[]; no: Statement[] }
  /** Tests, does, steps; a `next` steps and tests again. */
  | { is: 'loop'; test: Expression; body: Statement[]; step: Statement[] }
  | { is: 'next' }
  | { is: 'leave' }
  | { is: 'return'; value: Expression | null }
  | { is: 'do'; value: Expression };

export interface Routine {
  name: string;
  parameters: { name: string; kind: Kind }[];
  /** Null: it gives nothing. */
  gives: Kind | null;
  /** Everything that it or its callees read, write or call. */
  uses: ReadonlySet<Used>;
  body: Statement[];
  /** The text of its doc comment. */
  words: string;
  /** The file of the core that it is from. */
  source: string;
}

/** A tuning's motion: its routines, callees first, and the tables of numbers that they read. */
export interface Program {
  routines: Routine[];
  tables: { name: string; values: number[] }[];
}

export const kindOf = (e: Expression): Kind => {
  switch (e.is) {
    case 'truth':
    case 'not':
    case 'ask':
      return 'truth';
    case 'way':
      return e.part === 'count' ? 'number' : 'truth';
    case 'local':
    case 'hands':
    case 'call':
      return e.kind;
    case 'binary':
      return ['<', '<=', '>', '>=', '===', '!==', '&&', '||'].includes(e.sign) ? 'truth' : 'number';
    case 'choice':
      return kindOf(e.yes);
    default:
      return 'number';
  }
};

/** The negation of a condition. A comparison by order has none: both directions are false for NaN. */
export const opposite = (e: Expression): Expression => {
  if (e.is === 'not') return e.of;
  if (e.is === 'truth') return { is: 'truth', value: !e.value };
  return e.is === 'binary' && (e.sign === '===' || e.sign === '!==')
    ? { ...e, sign: e.sign === '===' ? '!==' : '===' }
    : { is: 'not', of: e };
};
