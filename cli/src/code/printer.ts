import { type Expression, type Kind, kindOf, type Program, type Routine, type Sign, type StandardName, type Statement } from './ir.ts';

/** What the file of a tuning is made from. */
export interface Motion {
  tuning: string;
  program: Program;
  /** The routines of a tick in their order; null stands for the game's own contact. */
  tick: (Routine | null)[];
  /** The body's fields with how they start. */
  fields: [string, number][];
  /** The controls, by their place in the hands. */
  controls: readonly string[];
}

const level: Partial<Record<Sign, number>> = { '*': 2, '/': 2, '+': 1, '-': 1 };
const bits: ReadonlySet<Sign> = new Set(['&', '|', '^', '<<', '>>', '>>>']);

/** Prints a program in a language; what languages have in common is here. */
export abstract class Printer {
  abstract readonly id: string;
  abstract readonly extension: string;
  protected abstract readonly indent: string;
  /** And, or, not equal, equal, not, true and false. */
  protected abstract readonly words: { and: string; or: string; unlike: string; like: string; not: string; yes: string; no: string };
  abstract file(motion: Motion): string;

  protected abstract infinity: string;
  protected number(value: number): string {
    if (value === Infinity) return this.infinity;
    if (value === -Infinity) return `(-${this.infinity})`;
    if (Number.isNaN(value)) return `(${this.infinity} - ${this.infinity})`;
    const text = Object.is(value, -0) ? '-0.0' : /[.e]/.test(String(value)) ? String(value).replace('e+', 'e') : `${value}.0`;
    return value < 0 || Object.is(value, -0) ? `(${text})` : text;
  }

  protected bodyField(field: string): string {
    return `b.${field}`;
  }

  protected handsField(field: string): string {
    return `h.${field}`;
  }

  protected abstract control(list: string, index: string): string;
  protected abstract table(name: string, index: string): string;
  protected abstract choice(test: string, yes: string, no: string, kind: Kind): string;
  protected abstract bit(sign: Sign, left: string, right: string): string;
  protected abstract standard(name: StandardName, args: string[]): string;

  protected remainder(left: string, right: string): string {
    return `fmod(${left}, ${right})`;
  }

  protected divide(left: string, right: string, _isSafe: boolean): string {
    return `${left} / ${right}`;
  }

  protected call(name: string, args: string[], usesBody: boolean, usesHands: boolean): string {
    return `${name}(${[...(usesBody ? ['b'] : []), ...(usesHands ? ['h'] : []), ...args].join(', ')})`;
  }

  #routines = new Map<string, Routine>();
  protected know(program: Program): void {
    this.#routines = new Map(program.routines.map((routine) => [routine.name, routine]));
  }

  protected expression(e: Expression): string {
    switch (e.is) {
      case 'number':
        return this.number(e.value);
      case 'truth':
        return e.value ? this.words.yes : this.words.no;
      case 'local':
        return this.localName(e.name);
      case 'body':
        return this.bodyField(e.field);
      case 'hands':
        return this.handsField(e.field);
      case 'control':
        return this.control(e.list, this.expression(e.index));
      case 'table':
        return this.table(e.name, this.expression(e.index));
      case 'not':
        return `${this.words.not}(${this.expression(e.of)})`;
      case 'minus':
        return `(-${this.#within(e.of, 3, true)})`;
      case 'binary':
        return this.#binary(e.sign, e.left, e.right);
      case 'choice':
        return this.choice(this.expression(e.test), this.expression(e.yes), this.expression(e.no), kindOf(e));
      case 'call': {
        const { usesBody = false, usesHands = false } = this.#routines.get(e.name) ?? {};
        return this.call(
          this.routineName(e.name),
          e.args.map((arg) => this.expression(arg)),
          usesBody,
          usesHands,
        );
      }
      case 'standard':
        return this.standard(
          e.name,
          e.args.map((arg) => this.expression(arg)),
        );
    }
  }

  protected localName(name: string): string {
    return name;
  }

  protected routineName(name: string): string {
    return name;
  }

  /** A part of a larger expression, in brackets where it binds no closer. */
  #within(e: Expression, least: number, isRight: boolean): string {
    const text = this.expression(e);
    if (e.is !== 'binary' || bits.has(e.sign) || e.sign === '%') return text;
    const own = level[e.sign] ?? 0;
    return own > least || (own === least && !isRight && own > 0) ? text : `(${text})`;
  }

  #binary(sign: Sign, left: Expression, right: Expression): string {
    if (bits.has(sign)) return this.bit(sign, this.expression(left), this.expression(right));
    if (sign === '%') return this.remainder(this.expression(left), this.expression(right));
    const own = level[sign] ?? 0;
    const [a, b] = [this.#within(left, own, false), this.#within(right, own, true)];
    if (sign === '/') return this.divide(a, b, right.is === 'number' && right.value !== 0);
    const { and, or, unlike, like } = this.words;
    const word = { '&&': and, '||': or, '!==': unlike, '===': like }[sign as string] ?? sign;
    return `${a} ${word} ${b}`;
  }

  protected abstract statement(statement: Statement, depth: number, steps: Statement[]): string[];

  protected statements(all: readonly Statement[], depth: number, steps: Statement[] = []): string[] {
    return all.flatMap((one) => this.statement(one, depth, steps));
  }

  protected at(depth: number, line: string): string {
    return this.indent.repeat(depth) + line;
  }
}
