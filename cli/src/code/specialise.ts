import ts from 'typescript';
import { type Expression, type Kind, kindOf, type Program, type Routine, type Sign, type StandardName, type Statement } from './ir.ts';
import { type Declared, type SourceOf, type Sources, wordsOf } from './source.ts';

/** The body and the hands, as a function is handed them. */
const BODY = Symbol('body');
const HANDS = Symbol('hands');

/** A value that is known when the code is made, or an expression that is not. */
type Value = { known: unknown } | { is: Expression };
const known = (value: unknown): Value => ({ known: value });
const isKnown = (value: Value): value is { known: unknown } => 'known' in value;
const number = (value: number): Expression => ({ is: 'number', value });
const truth = (value: boolean): Expression => ({ is: 'truth', value });

/** What cannot be made code of: said before anything is written. */
export class CannotHold extends Error {}

/** Scratch objects of a plan that are written: their parts become fields of the body. */
const isScratch = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && 'integral' in value && 'time' in value && 's' in value;
const scratchField = (part: string) => `flow${part[0]?.toUpperCase()}${part.slice(1)}`;

/** Functions whose insides are bits of a double: each language has a line for them. */
const standards: Readonly<Record<string, StandardName>> = {
  highWord: 'highWord',
  fromHighWord: 'fromHighWord',
  withHighWord: 'withHighWord',
};
const mathNames = new Set(['sqrt', 'floor', 'ceil', 'trunc', 'abs', 'min', 'max']);

interface Scope {
  file: SourceOf;
  names: Map<string, Value>;
  /** Names of locals that are taken, by what they are in the source. */
  taken: Map<string, number>;
  routine: Routine;
}

/**
 * Folds the stages of the core with a plan: what the plan decides is decided, what is then never reached is dropped, and what is left is
 * a program of plain numbers (partial evaluation as in Jones, Gomard and Sestoft, 1993, by each function's known arguments).
 */
export class Specialiser {
  readonly #sources: Sources;
  /** Fields of the body that are the same in every tick of this tuning. */
  readonly #steady: ReadonlyMap<string, number>;
  readonly #made = new Map<Declared['node'], { args: unknown[]; routine: Routine; slots: boolean[] }[]>();
  readonly #routines: Routine[] = [];
  readonly #names = new Set<string>();
  readonly #tables = new Map<ArrayLike<number>, string>();
  readonly fields = new Set<string>();

  constructor(sources: Sources, steady: Readonly<Record<string, number>>) {
    this.#sources = sources;
    this.#steady = new Map(Object.entries(steady));
  }

  get program(): Program {
    return {
      routines: this.#routines,
      tables: [...this.#tables].map(([values, name]) => ({ name, values: Array.from(values) })),
    };
  }

  /** Makes the routine of a stage with its part of the plan; gives its name. */
  stage(path: string, name: string, plan: unknown): Routine {
    const declared = this.#sources.find(this.#sources.file(path), name);
    if (!declared || !ts.isFunctionDeclaration(declared.node)) throw new Error(`${path} has no ${name}`);
    const args: Value[] = declared.node.parameters.map((_, i) => known([BODY, plan, HANDS][i]));
    return this.#routineOf(declared as Declared & { node: ts.FunctionDeclaration }, args).routine;
  }

  #routineOf(declared: Declared & { node: ts.FunctionDeclaration }, args: Value[]) {
    const { node, file } = declared;
    const given = args.map((arg) => (isKnown(arg) ? arg.known : undefined));
    const slots = args.map((arg) => !isKnown(arg));
    const before = (this.#made.get(node) ?? []).find(
      (one) => one.slots.every((slot, i) => slot === slots[i]) && one.args.every((arg, i) => Object.is(arg, given[i])),
    );
    if (before) return before;
    const base = node.name?.text ?? 'stage';
    let name = base;
    for (let i = 2; this.#names.has(name); i++) name = `${base}${i}`;
    this.#names.add(name);
    const routine: Routine = {
      name,
      parameters: [],
      gives: null,
      usesBody: false,
      usesHands: false,
      body: [],
      words: wordsOf(node),
      source: file.place,
    };
    const made = { args: given, routine, slots };
    this.#made.set(node, [...(this.#made.get(node) ?? []), made]);
    const scope: Scope = { file, names: new Map(), taken: new Map(), routine };
    const head: Statement[] = [];
    node.parameters.forEach((parameter, i) => {
      const arg = args[i] as Value;
      if (ts.isIdentifier(parameter.name)) {
        if (isKnown(arg)) scope.names.set(parameter.name.text, arg);
        else {
          const kind: Kind = parameter.type?.getText() === 'boolean' ? 'truth' : 'number';
          const local = this.#local(scope, parameter.name.text);
          routine.parameters.push({ name: local, kind });
          scope.names.set(parameter.name.text, { is: { is: 'local', name: local, kind } });
        }
      } else this.#unpack(scope, parameter.name as ts.ObjectBindingPattern, arg, head);
    });
    const type = node.type?.getText() ?? 'void';
    routine.gives = type === 'void' ? null : type === 'boolean' ? 'truth' : 'number';
    routine.body = [...head, ...this.#block(scope, node.body?.statements ?? [])];
    this.#routines.push(routine);
    return made;
  }

  /** A name for a local that no other one of the routine has. */
  #local({ taken }: Scope, name: string): string {
    const times = taken.get(name) ?? 0;
    taken.set(name, times + 1);
    return times === 0 ? name : `${name}${times + 1}`;
  }

  #block(scope: Scope, statements: Iterable<ts.Statement>): Statement[] {
    const out: Statement[] = [];
    for (const statement of statements) {
      this.#statement(scope, statement, out);
      const last = out.at(-1);
      // What follows is never reached.
      if (last && ends(last)) break;
    }
    return out;
  }

  #statement(scope: Scope, node: ts.Statement, out: Statement[]): void {
    if (ts.isBlock(node)) {
      out.push(...this.#block(this.#inner(scope), node.statements));
    } else if (ts.isVariableStatement(node)) {
      for (const one of node.declarationList.declarations)
        this.#declare(scope, one, (node.declarationList.flags & ts.NodeFlags.Const) !== 0, out);
    } else if (ts.isExpressionStatement(node)) this.#effect(scope, node.expression, out);
    else if (ts.isIfStatement(node)) {
      const test = this.#value(scope, node.expression);
      if (isKnown(test)) {
        const branch = test.known ? node.thenStatement : node.elseStatement;
        if (branch) this.#statement(scope, branch, out);
        return;
      }
      const part = (branch: ts.Statement | undefined) => (branch ? this.#block(this.#inner(scope), [branch]) : []);
      const [yes, no] = [part(node.thenStatement), part(node.elseStatement)];
      if (yes.length > 0 || no.length > 0) out.push({ is: 'if', test: asTruth(test.is), yes, no });
    } else if (ts.isReturnStatement(node)) {
      out.push({ is: 'return', value: node.expression ? this.#fit(this.#expression(scope, node.expression), scope.routine.gives) : null });
    } else if (ts.isForStatement(node)) {
      const inner = this.#inner(scope);
      if (node.initializer && ts.isVariableDeclarationList(node.initializer))
        for (const one of node.initializer.declarations) this.#declare(inner, one, false, out);
      const test = node.condition ? this.#expression(inner, node.condition) : truth(true);
      const body = this.#block(this.#inner(inner), [node.statement]);
      const step: Statement[] = [];
      if (node.incrementor) this.#effect(inner, node.incrementor, step);
      out.push({ is: 'loop', test: asTruth(test), body, step });
    } else if (ts.isWhileStatement(node)) {
      out.push({
        is: 'loop',
        test: asTruth(this.#expression(scope, node.expression)),
        body: this.#block(this.#inner(scope), [node.statement]),
        step: [],
      });
    } else if (ts.isContinueStatement(node)) out.push({ is: 'next' });
    else if (ts.isBreakStatement(node)) out.push({ is: 'leave' });
    else if (ts.isSwitchStatement(node)) this.#switch(scope, node, out);
    else throw new CannotHold(`${scope.file.place}: ${ts.SyntaxKind[node.kind]} is in no language of ours`);
  }

  /** A known case is done; of others each has to end by itself, and they become a chain of ifs. */
  #switch(scope: Scope, node: ts.SwitchStatement, out: Statement[]): void {
    const value = this.#value(scope, node.expression);
    const { clauses } = node.caseBlock;
    const bodyFrom = (i: number): Statement[] => {
      const found: ts.Statement[] = [];
      for (const clause of clauses.slice(i)) {
        for (const statement of clause.statements) {
          if (ts.isBreakStatement(statement)) return this.#block(this.#inner(scope), found);
          found.push(statement);
          if (ts.isReturnStatement(statement)) return this.#block(this.#inner(scope), found);
        }
      }
      return this.#block(this.#inner(scope), found);
    };
    const otherwise = clauses.findIndex(ts.isDefaultClause);
    if (isKnown(value)) {
      const at = clauses.findIndex((clause) => ts.isCaseClause(clause) && this.#known(scope, clause.expression) === value.known);
      const chosen = at >= 0 ? at : otherwise;
      if (chosen >= 0) out.push(...bodyFrom(chosen));
      return;
    }
    const local = this.#local(scope, 'which');
    out.push({ is: 'local', name: local, value: value.is });
    let rest: Statement[] = otherwise >= 0 ? bodyFrom(otherwise) : [];
    for (let i = clauses.length - 1; i >= 0; i--) {
      const clause = clauses[i] as ts.CaseOrDefaultClause;
      if (!ts.isCaseClause(clause)) continue;
      const test: Expression = {
        is: 'binary',
        sign: '===',
        left: { is: 'local', name: local, kind: 'number' },
        right: this.#expression(scope, clause.expression),
      };
      rest = [{ is: 'if', test, yes: bodyFrom(i), no: rest }];
    }
    out.push(...rest);
  }

  #inner(scope: Scope): Scope {
    return { ...scope, names: new Map(scope.names) };
  }

  #declare(scope: Scope, node: ts.VariableDeclaration, isConst: boolean, out: Statement[]): void {
    const value = node.initializer ? this.#value(scope, node.initializer, out) : known(undefined);
    if (!ts.isIdentifier(node.name)) {
      this.#unpack(scope, node.name as ts.ObjectBindingPattern, value, out);
      return;
    }
    const isPlain = isKnown(value) && (typeof value.known === 'number' || typeof value.known === 'boolean');
    if (isKnown(value) && (isConst || !isPlain)) {
      scope.names.set(node.name.text, value);
      return;
    }
    this.#bind(scope, node.name.text, isKnown(value) ? literal(value.known) : value.is, out);
  }

  #bind(scope: Scope, name: string, value: Expression, out: Statement[]): void {
    const local = this.#local(scope, name);
    out.push({ is: 'local', name: local, value });
    scope.names.set(name, { is: { is: 'local', name: local, kind: kindOf(value) } });
  }

  #unpack(scope: Scope, pattern: ts.ObjectBindingPattern | ts.ArrayBindingPattern, from: Value, out: Statement[]): void {
    if (!ts.isObjectBindingPattern(pattern)) throw new CannotHold(`${scope.file.place}: lists are not unpacked`);
    for (const { name, propertyName } of pattern.elements) {
      const part = (propertyName ?? name).getText();
      const value = this.#part(scope, from, part);
      if (!ts.isIdentifier(name)) this.#unpack(scope, name as ts.ObjectBindingPattern, value, out);
      else if (isKnown(value)) scope.names.set(name.text, value);
      else this.#bind(scope, name.text, value.is, out);
    }
  }

  /** A part of something: a field of the body or the hands, or of a known object. */
  #part(scope: Scope, from: Value, part: string): Value {
    if (!isKnown(from)) throw new CannotHold(`${scope.file.place}: .${part} of a number`);
    if (from.known === BODY) {
      const steady = this.#steady.get(part);
      if (steady !== undefined) return known(steady);
      this.fields.add(part);
      scope.routine.usesBody = true;
      return { is: { is: 'body', field: part } };
    }
    if (from.known === HANDS) {
      scope.routine.usesHands = true;
      if (part === 'held' || part === 'order') return known({ control: part });
      return { is: { is: 'hands', field: part, kind: part === 'pointed' || part === 'changed' ? 'truth' : 'number' } };
    }
    if (isScratch(from.known)) {
      this.fields.add(scratchField(part));
      scope.routine.usesBody = true;
      return { is: { is: 'body', field: scratchField(part) } };
    }
    return known((from.known as Record<string, unknown> | null)?.[part]);
  }

  #known(scope: Scope, node: ts.Expression): unknown {
    const value = this.#value(scope, node);
    if (!isKnown(value)) throw new CannotHold(`${scope.file.place}: ${node.getText()} is not known`);
    return value.known;
  }

  #expression(scope: Scope, node: ts.Expression, out?: Statement[]): Expression {
    const value = this.#value(scope, node, out);
    return isKnown(value) ? literal(value.known) : value.is;
  }

  #fit(value: Expression, kind: Kind | null): Expression {
    return kind === 'truth' ? asTruth(value) : value;
  }

  /** An expression that is done for what it does. */
  #effect(scope: Scope, node: ts.Expression, out: Statement[]): void {
    if (ts.isParenthesizedExpression(node)) this.#effect(scope, node.expression, out);
    else if (
      ts.isBinaryExpression(node) &&
      node.operatorToken.kind >= ts.SyntaxKind.FirstAssignment &&
      node.operatorToken.kind <= ts.SyntaxKind.LastAssignment
    ) {
      const sign = node.operatorToken.getText().slice(0, -1);
      const right = this.#value(scope, node.right, out);
      this.#assign(scope, node.left, sign as Sign | '', isKnown(right) ? literal(right.known) : right.is, out);
    } else if (ts.isPostfixUnaryExpression(node) || ts.isPrefixUnaryExpression(node)) {
      const sign = node.operator === ts.SyntaxKind.PlusPlusToken ? '+' : '-';
      this.#assign(scope, node.operand, sign, number(1), out);
    } else if (ts.isCallExpression(node)) this.#choose(scope, node, out);
  }

  /** A call that is done for what it does. One of two plans is chosen while it runs: each makes a routine of its own. */
  #choose(scope: Scope, node: ts.CallExpression, out: Statement[]): void {
    const done = (given: ReadonlyMap<number, Value>, into: Statement[]) => {
      const value = this.#call(scope, node, into, given);
      if (!isKnown(value) && value.is.is === 'call') into.push({ is: 'do', value: value.is });
    };
    for (const [i, arg] of node.arguments.entries()) {
      if (!ts.isConditionalExpression(arg)) continue;
      const test = this.#value(scope, arg.condition, out);
      if (isKnown(test)) continue;
      const [a, b] = [this.#value(scope, arg.whenTrue, out), this.#value(scope, arg.whenFalse, out)];
      if (!isKnown(a) || !isKnown(b) || typeof a.known !== 'object') continue;
      const [yes, no]: Statement[][] = [[], []];
      done(new Map([[i, a]]), yes as Statement[]);
      done(new Map([[i, b]]), no as Statement[]);
      out.push({ is: 'if', test: asTruth(test.is), yes: yes as Statement[], no: no as Statement[] });
      return;
    }
    done(new Map(), out);
  }

  #assign(scope: Scope, left: ts.Expression, sign: Sign | '', right: Expression, out: Statement[]): void {
    const target = this.#value(scope, left);
    // A field that is the same in every tick needs no writing.
    if (isKnown(target)) return;
    const value: Expression = sign === '' ? right : { is: 'binary', sign, left: target.is, right };
    out.push({ is: 'set', target: target.is, value: kindOf(target.is) === 'truth' ? asTruth(value) : value });
  }

  #value(scope: Scope, node: ts.Expression, out?: Statement[]): Value {
    if (ts.isParenthesizedExpression(node) || ts.isAsExpression(node) || ts.isNonNullExpression(node) || ts.isSatisfiesExpression(node))
      return this.#value(scope, node.expression, out);
    if (ts.isNumericLiteral(node)) return known(Number(node.text.replaceAll('_', '')));
    if (ts.isStringLiteral(node)) return known(node.text);
    if (node.kind === ts.SyntaxKind.TrueKeyword) return known(true);
    if (node.kind === ts.SyntaxKind.FalseKeyword) return known(false);
    if (node.kind === ts.SyntaxKind.NullKeyword) return known(null);
    if (ts.isIdentifier(node)) return this.#name(scope, node.text);
    if (ts.isPropertyAccessExpression(node)) return this.#part(scope, this.#value(scope, node.expression, out), node.name.text);
    if (ts.isElementAccessExpression(node)) return this.#element(scope, node, out);
    if (ts.isPrefixUnaryExpression(node)) return this.#unary(scope, node, out);
    if (ts.isConditionalExpression(node)) {
      const test = this.#value(scope, node.condition, out);
      if (isKnown(test)) return this.#value(scope, test.known ? node.whenTrue : node.whenFalse, out);
      const [yes, no] = [this.#value(scope, node.whenTrue, out), this.#value(scope, node.whenFalse, out)];
      if (isKnown(yes) && isKnown(no) && typeof yes.known === 'object' && yes.known !== null)
        throw new CannotHold(`${scope.file.place}: a choice between plans`);
      const [a, b] = [isKnown(yes) ? literal(yes.known) : yes.is, isKnown(no) ? literal(no.known) : no.is];
      return { is: { is: 'choice', test: asTruth(test.is), yes: a, no: b } };
    }
    if (ts.isBinaryExpression(node)) return this.#binary(scope, node, out);
    if (ts.isCallExpression(node)) return this.#call(scope, node, out);
    throw new CannotHold(`${scope.file.place}: ${ts.SyntaxKind[node.kind]} is in no language of ours`);
  }

  #name(scope: Scope, name: string): Value {
    const local = scope.names.get(name);
    if (local) return local;
    if (name === 'Infinity') return known(Infinity);
    if (name === 'NaN') return known(NaN);
    if (name === 'undefined') return known(undefined);
    const declared = this.#sources.find(scope.file, name);
    if (!declared) throw new CannotHold(`${scope.file.place}: nothing is called ${name}`);
    if (ts.isFunctionDeclaration(declared.node)) return known(declared);
    const { initializer } = declared.node;
    if (!initializer) throw new CannotHold(`${declared.file.place}: ${name} has no value`);
    return this.#value({ ...scope, file: declared.file, names: new Map() }, initializer);
  }

  #element(scope: Scope, node: ts.ElementAccessExpression, out?: Statement[]): Value {
    const list = this.#value(scope, node.expression, out);
    const index = this.#value(scope, node.argumentExpression, out);
    if (!isKnown(list)) throw new CannotHold(`${scope.file.place}: an element of a number`);
    const control = (list.known as { control?: 'held' | 'order' } | null)?.control;
    if (control) return { is: { is: 'control', list: control, index: isKnown(index) ? literal(index.known) : index.is } };
    if (isKnown(index)) return known((list.known as Record<string, unknown>)[String(index.known)]);
    const values = list.known as ArrayLike<number>;
    const name = this.#tables.get(values) ?? `table${this.#tables.size + 1}`;
    this.#tables.set(values, name);
    return { is: { is: 'table', name, index: index.is } };
  }

  #unary(scope: Scope, node: ts.PrefixUnaryExpression, out?: Statement[]): Value {
    const of = this.#value(scope, node.operand, out);
    if (node.operator === ts.SyntaxKind.MinusToken) return isKnown(of) ? known(-(of.known as number)) : { is: { is: 'minus', of: of.is } };
    if (node.operator === ts.SyntaxKind.ExclamationToken) return isKnown(of) ? known(!of.known) : { is: { is: 'not', of: asTruth(of.is) } };
    throw new CannotHold(`${scope.file.place}: ${node.getText()}`);
  }

  #binary(scope: Scope, node: ts.BinaryExpression, out?: Statement[]): Value {
    const sign = node.operatorToken.getText() as Sign | '??';
    const left = this.#value(scope, node.left, out);
    if (sign === '??')
      return isKnown(left) ? (left.known === null || left.known === undefined ? this.#value(scope, node.right, out) : left) : left;
    if (sign === '&&' || sign === '||') {
      if (isKnown(left)) return Boolean(left.known) === (sign === '&&') ? this.#value(scope, node.right, out) : left;
      const right = this.#value(scope, node.right, out);
      if (isKnown(right)) {
        // x && true is x; x && false is false: what is asked has no effect of its own.
        if (Boolean(right.known) === (sign === '&&')) return { is: asTruth(left.is) };
        return known(sign === '||');
      }
      return { is: { is: 'binary', sign, left: asTruth(left.is), right: asTruth(right.is) } };
    }
    const right = this.#value(scope, node.right, out);
    if (isKnown(left) && isKnown(right)) return known(calculate(sign, left.known as never, right.known as never));
    if (isKnown(left) && (typeof left.known === 'object' || typeof left.known === 'string')) return known(sign === '!==');
    if (isKnown(right) && (typeof right.known === 'object' || typeof right.known === 'string')) return known(sign === '!==');
    const [a, b] = [isKnown(left) ? literal(left.known) : left.is, isKnown(right) ? literal(right.known) : right.is];
    return { is: { is: 'binary', sign, left: a, right: b } };
  }

  #call(scope: Scope, node: ts.CallExpression, out?: Statement[], given: ReadonlyMap<number, Value> = new Map()): Value {
    const callee = node.expression;
    if (ts.isPropertyAccessExpression(callee)) {
      const name = callee.name.text;
      if (ts.isIdentifier(callee.expression) && callee.expression.text === 'Math' && mathNames.has(name)) {
        const args = node.arguments.map((arg) => this.#value(scope, arg, out));
        if (args.every(isKnown))
          return known(
            (Math as never as Record<string, (...all: number[]) => number>)[name]?.(...args.map((arg) => (arg as { known: number }).known)),
          );
        return {
          is: { is: 'standard', name: name as StandardName, args: args.map((arg) => (isKnown(arg) ? literal(arg.known) : arg.is)) },
        };
      }
      if (name === 'findIndex') return this.#findIndex(scope, callee.expression, node.arguments[0] as ts.ArrowFunction);
    }
    const target = this.#value(scope, callee);
    const declared = isKnown(target) ? (target.known as Declared | null) : null;
    if (!declared?.node || !ts.isFunctionDeclaration(declared.node))
      throw new CannotHold(`${scope.file.place}: ${callee.getText()} cannot be called`);
    const name = declared.node.name?.text ?? '';
    const args = node.arguments.map((arg, i) => given.get(i) ?? this.#value(scope, arg, out));
    if (Object.hasOwn(standards, name)) {
      return {
        is: {
          is: 'standard',
          name: standards[name] as StandardName,
          args: args.map((arg) => (isKnown(arg) ? literal(arg.known) : arg.is)),
        },
      };
    }
    const steady = args.map((arg, i) => {
      // Numbers are handed over, so that one routine serves all of them; what a plan is decides how it is folded.
      const isPlain = isKnown(arg) && (typeof arg.known === 'number' || typeof arg.known === 'boolean');
      const folds =
        isPlain &&
        typeof arg.known === 'boolean' &&
        ts.isIdentifier((declared.node as ts.FunctionDeclaration).parameters[i]?.name as ts.Node);
      return isPlain && !folds ? { is: literal(arg.known) } : arg;
    });
    const { routine, slots } = this.#routineOf(declared as Declared & { node: ts.FunctionDeclaration }, steady);
    scope.routine.usesBody ||= routine.usesBody;
    scope.routine.usesHands ||= routine.usesHands;
    const handed = steady.filter((_, i) => slots[i]).map((arg) => (arg as { is: Expression }).is);
    const fitted = handed.map((arg, i) => this.#fit(arg, routine.parameters[i]?.kind ?? null));
    return { is: { is: 'call', name: routine.name, args: fitted, kind: routine.gives ?? 'number' } };
  }

  /** The first of known values that something is said of: a chain of choices. */
  #findIndex(scope: Scope, list: ts.Expression, test: ts.ArrowFunction): Value {
    const values = Array.from(this.#known(scope, list) as ArrayLike<number>);
    const parameter = test.parameters[0]?.name.getText() as string;
    let found: Expression = number(-1);
    for (let i = values.length - 1; i >= 0; i--) {
      const inner = this.#inner(scope);
      inner.names.set(parameter, known(values[i]));
      found = { is: 'choice', test: asTruth(this.#expression(inner, test.body as ts.Expression)), yes: number(i), no: found };
    }
    return { is: found };
  }
}

/** Whether nothing after a statement is reached. */
function ends(statement: Statement): boolean {
  if (statement.is === 'return' || statement.is === 'next' || statement.is === 'leave') return true;
  return statement.is === 'if' && [statement.yes, statement.no].every((part) => part.length > 0 && ends(part.at(-1) as Statement));
}

function literal(value: unknown): Expression {
  if (typeof value === 'boolean') return truth(value);
  if (typeof value === 'number') return number(value);
  throw new CannotHold(`${String(value)} is no number`);
}

/** A number is true where it is not 0. */
function asTruth(e: Expression): Expression {
  if (kindOf(e) === 'truth') return e;
  if (e.is === 'number') return truth(e.value !== 0);
  return { is: 'binary', sign: '!==', left: e, right: number(0) };
}

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
