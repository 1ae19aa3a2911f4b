import {
  type Callback,
  type Expression,
  type Kind,
  kindOf,
  type Program,
  type Routine,
  type Sign,
  type StandardName,
  type Statement,
  type Used,
} from '../fold/ir.ts';
import { languages } from './list.ts';
import { callbacks, callbacksUsed, edgeSettings, type Motion, type Walls } from './program.ts';

/** The precedence of an operator; comparisons by order and equality have the same, and don't follow each other without brackets. */
const level: Partial<Record<Sign, number>> = { '*': 2, '/': 2, '+': 1, '-': 1, '&&': -1, '||': -2 };
const bits: ReadonlySet<Sign> = new Set(['&', '|', '^', '<<', '>>', '>>>']);

/** Prints a program in a language; what languages have in common is here. */
export abstract class Printer {
  abstract readonly id: string;
  abstract readonly extension: string;
  protected abstract readonly indent: string;
  /** And, or, not equal, equal, not, true and false. */
  protected abstract readonly words: { and: string; or: string; unlike: string; like: string; not: string; yes: string; no: string };
  abstract file(motion: Motion): string;
  /** The second file: what holds the body among walls, each a segment x0, y0, x1, y1. */
  abstract walls(walls: Walls): string;

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
  /** A double as a whole number, a whole number as a double, and a double as the index of a list. */
  protected abstract whole(text: string): string;
  protected abstract real(text: string): string;
  protected abstract index(text: string): string;
  /** Bits are worked on as whole numbers, which are 32 bits wide in the model and never negative here. */
  protected bit(sign: Sign, left: string, right: string): string {
    return `${left} ${sign === '>>>' ? '>>' : sign} ${right}`;
  }
  protected abstract standard(name: StandardName, args: string[]): string;

  protected remainder(left: string, right: string): string {
    return `fmod(${left}, ${right})`;
  }

  protected divide(left: string, right: string, _isSafe: boolean): string {
    return `${left} / ${right}`;
  }

  /** How what a routine is handed beside its own parameters is declared, and what it is called. */
  protected abstract readonly handed: Readonly<Record<Used, string>>;
  protected readonly names: Readonly<Record<Used, string>> = {
    body: 'b',
    hands: 'h',
    walls: 'w',
    contact: 'contact',
    isClear: 'isClear',
    plan: 'plan',
  };

  /** The arguments of a routine, its own parameters between the state and the callbacks. */
  protected arranged(own: readonly string[], { uses }: Pick<Routine, 'uses'>, text: Readonly<Record<Used, string>>): string {
    const of = (some: readonly Used[]) => some.filter((one) => uses.has(one)).map((one) => text[one]);
    return [...of(['body', 'hands', 'walls']), ...own, ...of(callbacks)].join(', ');
  }

  protected call(name: string, args: readonly string[], routine: Pick<Routine, 'uses'>): string {
    return `${name}(${this.arranged(args, routine, this.names)})`;
  }

  /** A call from a method of what looks for walls. */
  protected callOn(self: string, routine: Routine, args: readonly string[] = []): string {
    return `${this.routineName(routine.name)}(${this.arranged(args, routine, { ...this.names, walls: self })})`;
  }

  /** The parameters of a routine as they are declared. */
  protected parameters(routine: Routine, own: (parameter: Routine['parameters'][number]) => string): string {
    return this.arranged(routine.parameters.map(own), routine, this.handed);
  }

  /** A tick's arguments from the game, each after a comma. */
  protected callbacksOf(motion: Pick<Motion, 'tick'>): string {
    return callbacksUsed(motion)
      .map((one) => `, ${this.handed[one]}`)
      .join('');
  }

  protected way(part: string): string {
    return `b.way.${part}`;
  }

  protected abstract waypoint(at: string, offset: number): string;

  protected wallsField(field: string): string {
    return `w.${field}`;
  }

  protected list(name: string, at: string): string {
    return `w.${name}[${at}]`;
  }

  protected ask(of: Callback, args: readonly string[]): string {
    return of === 'contact' ? 'contact(b)' : `${of}(${[...args, ...(of === 'plan' ? [this.way('').slice(0, -1)] : [])].join(', ')})`;
  }

  /** The function that holds a body in an area by its edges; none where the tuning meets none. */
  protected edges(motion: Motion): string {
    const settings = edgeSettings(motion, (value) => this.number(value));
    return settings.length === 0 ? '' : this.edgesText(settings);
  }

  /** The same in the language: each field of the body with its expression of `left`, `top`, `right` and `bottom`. */
  protected abstract edgesText(settings: readonly (readonly [string, string])[]): string;

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
        return this.control(e.list, this.place(e.index));
      case 'table':
        return this.table(e.name, this.place(e.index));
      case 'not':
        return this.words.not + (e.of.is === 'binary' ? `(${this.expression(e.of)})` : this.expression(e.of));
      case 'minus':
        return `(-${this.#within(e.of, 3, true)})`;
      case 'binary':
        return this.#binary(e.sign, e.left, e.right);
      case 'choice':
        return this.choice(this.expression(e.test), this.expression(e.yes), this.expression(e.no), kindOf(e));
      case 'call': {
        return this.call(
          this.routineName(e.name),
          e.args.map((arg) => this.expression(arg)),
          this.#routines.get(e.name) ?? { uses: new Set() },
        );
      }
      case 'way':
        return this.way(e.part);
      case 'waypoint':
        return this.waypoint(this.place(e.index), e.axis === 'x' ? 0 : 1);
      case 'walls':
        return this.wallsField(e.field);
      case 'list':
        return this.list(e.name, this.place(e.index));
      case 'ask':
        return this.ask(
          e.of,
          e.args.map((arg) => this.expression(arg)),
        );
      case 'standard':
        return this.standard(
          e.name,
          e.args.map((arg) => this.expression(arg)),
        );
    }
  }

  #taken: ReadonlySet<string> | null = null;

  /** A local by a name that it can have: no word of the language, nor of what a routine is handed. */
  protected localName(name: string): string {
    this.#taken ??= new Set([...Object.values(this.names), 'way', ...(languages.find(({ id }) => id === this.id)?.reserved ?? [])]);
    return this.#taken.has(name) ? `${name}_` : name;
  }

  protected routineName(name: string): string {
    return name;
  }

  /** A part of a larger expression, in brackets where it binds no closer. */
  #within(e: Expression, least: number, isRight: boolean): string {
    const text = this.expression(e);
    // Not every language accepts a bare `not` beside an equality.
    if (e.is === 'not' && least === 0) return `(${text})`;
    if (e.is !== 'binary' || bits.has(e.sign) || e.sign === '%') return text;
    const own = level[e.sign] ?? 0;
    // Of "and" within "or" compilers ask for brackets.
    const isPlain = own > least ? own !== -1 : own === least && own !== 0 && !isRight;
    return isPlain ? text : `(${text})`;
  }

  /** An index of a list. */
  protected place(e: Expression): string {
    return e.is === 'number' ? String(e.value) : this.index(this.#inBrackets(e));
  }

  #bits(sign: Sign, left: Expression, right: Expression): string {
    return this.bit(sign, this.#whole(left), this.#whole(right, sign === '<<' || sign === '>>' || sign === '>>>'));
  }

  /** An expression as a whole number: bits of bits are not made doubles in between. */
  #whole(e: Expression, isShift = false): string {
    if (e.is === 'number' && Number.isInteger(e.value)) return this.wholeNumber(e.value, isShift);
    if (e.is === 'binary' && bits.has(e.sign)) return `(${this.#bits(e.sign, e.left, e.right)})`;
    if (e.is === 'choice') return this.choice(this.expression(e.test), this.#whole(e.yes), this.#whole(e.no), 'number');
    return isShift ? this.shift(this.#inBrackets(e)) : this.whole(this.#inBrackets(e));
  }

  protected wholeNumber(value: number, _isShift: boolean): string {
    return value < 0 ? `(${value})` : String(value);
  }

  protected shift(text: string): string {
    return this.whole(text);
  }

  #inBrackets(e: Expression): string {
    const text = this.expression(e);
    return e.is === 'binary' && !bits.has(e.sign) && e.sign !== '%' ? `(${text})` : text;
  }

  #binary(sign: Sign, left: Expression, right: Expression): string {
    if (bits.has(sign)) return this.real(this.#bits(sign, left, right));
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

  /** The branch after a failed condition; another condition alone continues the same chain, without the `end` lines of its own. */
  protected orElse(no: readonly Statement[], depth: number, steps: Statement[], word: string, plain: () => string[], ends = 0): string[] {
    const [first, ...more] = no;
    if (!first) return [];
    if (first.is !== 'if' || more.length > 0) return plain();
    const [next = '', ...rest] = this.statement(first, depth, steps);
    return [this.at(depth, next.trimStart().replace('if', word)), ...(ends > 0 ? rest.slice(0, -ends) : rest)];
  }

  /** Of functions that a language needs beside the core's, those that are called, by what is printed or by each other. */
  protected needed(helpers: Readonly<Record<string, string>>, printed: string): string {
    const all = Object.entries(helpers);
    let [called, count]: [typeof all, number] = [[], -1];
    while (called.length !== count) {
      count = called.length;
      const text = [printed, ...called.map(([, helper]) => helper)].join('');
      called = all.filter(([name]) => text.replace(helpers[name] as string, '').includes(`${name}(`));
    }
    return called.map(([, text]) => text).join('');
  }

  protected at(depth: number, line: string): string {
    return this.indent.repeat(depth) + line;
  }
}
