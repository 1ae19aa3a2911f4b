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
  /** The way that the body is on: how many points it has, whether it gets there, whether it is squeezed through a gap; and its points. */
  | { is: 'way'; part: 'count' | 'reached' | 'squeezed' }
  | { is: 'waypoint'; axis: 'x' | 'y'; index: Expression }
  /** What looks for walls: its numbers and its lists of numbers. */
  | { is: 'walls'; field: string }
  | { is: 'list'; name: string; index: Expression }
  /** Asks the game: whether the body can go straight from one place to another, for a way, or to take the body along its walls. */
  | { is: 'ask'; of: Asked; args: Expression[] };

/** What the game is asked. */
export type Asked = 'contact' | 'isClear' | 'plan';
/** What a routine is handed beside its own parameters. */
export type Used = 'body' | 'hands' | 'walls' | Asked;

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

/** What every language has by itself, exactly rounded, or by a line of its own. */
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
  /** What it, or what it calls, reads, writes or asks. */
  uses: ReadonlySet<Used>;
  body: Statement[];
  /** What its doc comment says. */
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

/** What is true where something is not. Of an order there is none: of numbers that are none both ways are wrong. */
export const opposite = (e: Expression): Expression => {
  if (e.is === 'not') return e.of;
  if (e.is === 'truth') return { is: 'truth', value: !e.value };
  return e.is === 'binary' && (e.sign === '===' || e.sign === '!==')
    ? { ...e, sign: e.sign === '===' ? '!==' : '===' }
    : { is: 'not', of: e };
};
