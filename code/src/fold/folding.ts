import ts from 'typescript';
import { type Expression, type Kind, kindOf, opposite, type Routine, type Sign, type Statement } from './ir.ts';
import type { Declared, Sources } from './source.ts';
import {
  asTruth,
  BODY,
  byTheGame,
  CannotHold,
  edgeField,
  edgeStarts,
  expressionOf,
  HANDS,
  type Instead,
  isCalm,
  isKnown,
  isProbe,
  isScratch,
  known,
  List,
  Live,
  literal,
  number,
  PATH,
  Parts,
  PLACES,
  POINTS,
  type Scope,
  scratchField,
  type Value,
  Written,
} from './values.ts';

/** Folds expressions: what is known is computed, the rest is kept. */
export abstract class Folding {
  protected readonly sources: Sources;
  /** Fields of the body that are the same in every tick of this tuning. */
  protected readonly steady: ReadonlyMap<string, number>;
  protected readonly instances = new Map<Declared['node'], { args: unknown[]; routine: Routine; slots: boolean[] }[]>();
  protected readonly routines: Routine[] = [];
  protected readonly names = new Set<string>();
  protected readonly tables = new Map<ArrayLike<number>, string>();
  readonly fields = new Set<string>();
  /** Fields that were said to be the same in every tick and are not. */
  readonly varying = new Set<string>();

  /** Functions that stand for something else. */
  protected readonly instead: Instead;

  constructor(sources: Sources, steady: Readonly<Record<string, number>>, instead: Instead = byTheGame) {
    this.sources = sources;
    this.instead = instead;
    this.steady = new Map(Object.entries(steady));
  }

  protected abstract call(scope: Scope, node: ts.CallExpression, out?: Statement[], given?: ReadonlyMap<number, Value>): Value;

  /** A part of something: a field of the body or the hands, or of a known object. */
  protected part(scope: Scope, from: Value, part: string): Value {
    if (!isKnown(from)) {
      if (from.of !== undefined) return this.part(scope, known(from.of), part);
      throw new CannotHold(`${scope.file.place}: .${part} of a number`);
    }
    if (from.known instanceof Parts) return from.known.parts[part] ?? known(undefined);
    if (from.known === PATH) return part === 'points' ? known(POINTS) : { is: { is: 'way', part: part as 'reached' | 'squeezed' } };
    if (from.known === POINTS) return { is: { is: 'way', part: 'count' } };
    if (from.known instanceof List) return known(from.known.room);
    if (from.known === BODY) {
      const steady = this.steady.get(part);
      if (steady !== undefined) return known(steady);
      this.fields.add(part);
      return { is: { is: 'body', field: part } };
    }
    if (from.known === HANDS) {
      if (part === 'held' || part === 'order') return known({ control: part });
      return { is: { is: 'hands', field: part, kind: part === 'pointed' || part === 'changed' ? 'truth' : 'number' } };
    }
    if (isScratch(from.known)) {
      this.fields.add(scratchField(part));
      return { is: { is: 'body', field: scratchField(part) } };
    }
    const value = this.placed(from.known, part) ?? (from.known as Record<string, unknown> | null)?.[part];
    if (value instanceof Live) {
      this.fields.add(value.field);
      return { is: value.is };
    }
    if (value instanceof Written) return { is: { is: 'walls', field: value.field } };
    if (Object.hasOwn(edgeStarts, edgeField(part)) && Number.isFinite(value)) {
      this.fields.add(edgeField(part));
      return { is: { is: 'body', field: edgeField(part) } };
    }
    return known(value);
  }

  /** The code's counterpart for a part of the probe: a list, or a field that is written. */
  protected placed(_of: unknown, _part: string): List | Written | symbol | null {
    return null;
  }

  /** The field of the body that an expression stands for; null for a part of what looks for walls. */
  protected fieldOf(scope: Scope, node: ts.Expression): string | null {
    if (!ts.isPropertyAccessExpression(node)) throw new CannotHold(`${scope.file.place}: ${node.getText()} is no field`);
    const from = this.mustKnow(scope, node.expression);
    if (isScratch(from)) return scratchField(node.name.text);
    if (from === BODY) return node.name.text;
    if (isProbe(from) || isCalm(from)) return null;
    throw new CannotHold(`${scope.file.place}: ${node.getText()} is written`);
  }

  protected mustKnow(scope: Scope, node: ts.Expression): unknown {
    const value = this.value(scope, node);
    if (!isKnown(value)) throw new CannotHold(`${scope.file.place}: ${node.getText()} is not known`);
    return value.known;
  }

  protected expression(scope: Scope, node: ts.Expression, out?: Statement[]): Expression {
    return expressionOf(this.value(scope, node, out));
  }

  protected fit(value: Expression, kind: Kind | null): Expression {
    return kind === 'truth' ? asTruth(value) : value;
  }

  protected value(scope: Scope, node: ts.Expression, out?: Statement[]): Value {
    if (ts.isParenthesizedExpression(node) || ts.isAsExpression(node) || ts.isNonNullExpression(node) || ts.isSatisfiesExpression(node))
      return this.value(scope, node.expression, out);
    if (ts.isNumericLiteral(node)) return known(Number(node.text.replaceAll('_', '')));
    if (ts.isStringLiteral(node)) return known(node.text);
    if (node.kind === ts.SyntaxKind.TrueKeyword) return known(true);
    if (node.kind === ts.SyntaxKind.FalseKeyword) return known(false);
    if (node.kind === ts.SyntaxKind.NullKeyword) return known(null);
    if (ts.isIdentifier(node)) return this.name(scope, node.text);
    // π, √2 and their like.
    if (ts.isPropertyAccessExpression(node) && node.expression.getText() === 'Math')
      return known((Math as never as Record<string, number>)[node.name.text]);
    if (ts.isPropertyAccessExpression(node)) return this.part(scope, this.value(scope, node.expression, out), node.name.text);
    if (ts.isElementAccessExpression(node)) return this.element(scope, node, out);
    if (ts.isArrayLiteralExpression(node)) {
      const all = node.elements.map((one) => this.value(scope, one, out));
      return known(all.every(isKnown) ? all.map((one) => one.known) : new Parts(Object.fromEntries(all.entries())));
    }
    if (ts.isPrefixUnaryExpression(node)) return this.unary(scope, node, out);
    if (ts.isConditionalExpression(node)) {
      const test = this.value(scope, node.condition, out);
      if (isKnown(test)) return this.value(scope, test.known ? node.whenTrue : node.whenFalse, out);
      const [yes, no] = [this.value(scope, node.whenTrue, out), this.value(scope, node.whenFalse, out)];
      if (isKnown(yes) && isKnown(no) && typeof yes.known === 'object' && yes.known !== null)
        throw new CannotHold(`${scope.file.place}: a choice between plans`);
      // A choice between equal values is dropped: its condition has no effect of its own.
      if (isKnown(yes) && isKnown(no) && Object.is(yes.known, no.known)) return yes;
      const [a, b] = [expressionOf(yes), expressionOf(no)];
      return { is: { is: 'choice', test: asTruth(test.is), yes: a, no: b } };
    }
    if (ts.isBinaryExpression(node)) return this.binary(scope, node, out);
    if (ts.isCallExpression(node)) return this.call(scope, node, out);
    throw new CannotHold(`${scope.file.place}: ${ts.SyntaxKind[node.kind]} is in no language of ours`);
  }

  protected name(scope: Scope, name: string): Value {
    const local = scope.names.get(name);
    if (local) return local;
    if (name === 'Infinity') return known(Infinity);
    if (name === 'NaN') return known(NaN);
    if (name === 'undefined') return known(undefined);
    const declared = this.sources.find(scope.file, name);
    if (!declared) throw new CannotHold(`${scope.file.place}: nothing is called ${name}`);
    if (ts.isFunctionDeclaration(declared.node)) return known(declared);
    const { initializer } = declared.node;
    if (!initializer) throw new CannotHold(`${declared.file.place}: ${name} has no value`);
    return this.value({ ...scope, file: declared.file, names: new Map() }, initializer);
  }

  protected element(scope: Scope, node: ts.ElementAccessExpression, out?: Statement[]): Value {
    const list = this.value(scope, node.expression, out);
    const index = this.value(scope, node.argumentExpression, out);
    if (!isKnown(list)) throw new CannotHold(`${scope.file.place}: an element of a number`);
    const control = (list.known as { control?: 'held' | 'order' } | null)?.control;
    if (control) return { is: { is: 'control', list: control, index: isKnown(index) ? literal(index.known) : index.is } };
    if (list.known instanceof Parts) return this.part(scope, list, String((index as { known: unknown }).known));
    const place = expressionOf(index);
    if (list.known === POINTS) {
      const [x, y] = (['x', 'y'] as const).map((axis): Value => ({ is: { is: 'waypoint', axis, index: place } })) as [Value, Value];
      return known(new Parts({ 0: x, 1: y }));
    }
    if (list.known === PLACES) return index;
    if (list.known instanceof List) return { is: { is: 'list', name: list.known.name, index: place } };
    // A list has no other counterpart: this occurs only while a field is still assumed constant.
    if (isKnown(index)) return known((list.known as Record<string, unknown>)[String(index.known)] ?? NaN);
    const values = list.known as ArrayLike<number>;
    const name = this.tables.get(values) ?? this.#tableName(node.expression);
    this.tables.set(values, name);
    return { is: { is: 'table', name, index: index.is } };
  }

  /** A table by what it holds in the core: `sectorsTable`; the second of a name is `sectorsTable2`. */
  #tableName(list: ts.Expression): string {
    const base = `${(ts.isPropertyAccessExpression(list) ? list.name : list).getText().replace(/\W/g, '')}Table`;
    const taken = new Set(this.tables.values());
    for (let i = 1; ; i++) if (!taken.has(i === 1 ? base : `${base}${i}`)) return i === 1 ? base : `${base}${i}`;
  }

  protected unary(scope: Scope, node: ts.PrefixUnaryExpression, out?: Statement[]): Value {
    const of = this.value(scope, node.operand, out);
    if (node.operator === ts.SyntaxKind.MinusToken)
      return isKnown(of) ? known(-(of.known as number)) : { is: { is: 'minus', of: expressionOf(of) } };
    if (node.operator === ts.SyntaxKind.ExclamationToken)
      return isKnown(of) ? known(!of.known) : { is: opposite(asTruth(expressionOf(of))) };
    throw new CannotHold(`${scope.file.place}: ${node.getText()}`);
  }

  protected binary(scope: Scope, node: ts.BinaryExpression, out?: Statement[]): Value {
    const sign = node.operatorToken.getText() as Sign | '??';
    const left = this.value(scope, node.left, out);
    if (sign === '??')
      return isKnown(left) ? (left.known === null || left.known === undefined ? this.value(scope, node.right, out) : left) : left;
    if (sign === '&&' || sign === '||') {
      if (isKnown(left)) return Boolean(left.known) === (sign === '&&') ? this.value(scope, node.right, out) : left;
      const right = this.value(scope, node.right, out);
      if (isKnown(right)) {
        // x && true is x; x && false is false: the condition has no effect of its own.
        if (Boolean(right.known) === (sign === '&&')) return { is: asTruth(left.is) };
        return known(sign === '||');
      }
      return { is: { is: 'binary', sign, left: asTruth(left.is), right: asTruth(right.is) } };
    }
    const right = this.value(scope, node.right, out);
    if (isKnown(left) && isKnown(right)) return known(calculate(sign, left.known as never, right.known as never));
    if (isKnown(left) && (typeof left.known === 'object' || typeof left.known === 'string')) return known(sign === '!==');
    if (isKnown(right) && (typeof right.known === 'object' || typeof right.known === 'string')) return known(sign === '!==');
    const [a, b] = [expressionOf(left), expressionOf(right)];
    // Nothing is beyond what is endless.
    if ((sign === '<' && isNumber(b, -Infinity)) || (sign === '>' && isNumber(b, Infinity))) return known(false);
    if (sign === '|' && isNumber(b, 0)) return left;
    // Once something is that, to the bit.
    if (sign === '-' && isNumber(b, 0)) return left;
    if ((sign === '*' || sign === '/') && b.is === 'number' && b.value === 1) return left;
    if ((sign === '===' || sign === '!==') && b.is === 'truth' && kindOf(a) === 'truth')
      return { is: b.value === (sign === '===') ? a : opposite(a) };
    if (sign === '*' && a.is === 'number' && a.value === 1) return right;
    return { is: { is: 'binary', sign, left: a, right: b } };
  }

  /** The first of known values that something is said of: a chain of choices. */
  protected findIndex(scope: Scope, list: ts.Expression, test: ts.ArrowFunction): Value {
    const values = Array.from(this.mustKnow(scope, list) as ArrayLike<number>);
    const parameter = test.parameters[0]?.name.getText() as string;
    let found: Expression = number(-1);
    for (let i = values.length - 1; i >= 0; i--) {
      const inner = this.inner(scope);
      inner.names.set(parameter, known(values[i]));
      found = { is: 'choice', test: asTruth(this.expression(inner, test.body as ts.Expression)), yes: number(i), no: found };
    }
    return { is: found };
  }
  protected inner(scope: Scope): Scope {
    return { ...scope, names: new Map(scope.names) };
  }
}

const isNumber = (e: Expression, value: number) => e.is === 'number' && e.value === value;

function calculate(sign: Sign, a: number, b: number): unknown {
  switch (sign) {
    case '+':
      return a + b;
    case '-':
      return a - b;
    case '*':
      return a * b;
    case '/':
      return a / b;
    case '%':
      return a % b;
    case '<':
      return a < b;
    case '<=':
      return a <= b;
    case '>':
      return a > b;
    case '>=':
      return a >= b;
    case '===':
      return a === b;
    case '!==':
      return a !== b;
    case '&':
      return a & b;
    case '|':
      return a | b;
    case '^':
      return a ^ b;
    case '<<':
      return a << b;
    case '>>':
      return a >> b;
    case '>>>':
      return a >>> b;
    default:
      throw new CannotHold(`${sign} of what is known`);
  }
}
