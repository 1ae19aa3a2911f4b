import ts from 'typescript';
import type { Expression, Kind, Program, Routine, StandardName, Statement } from './ir.ts';
import { type Declared, wordsOf } from './source.ts';
import { Statements } from './statements.ts';
import { BODY, CannotHold, expressionOf, HANDS, isKnown, known, literal, mathNames, type Scope, standards, type Value } from './values.ts';

/**
 * Folds the stages of the core with a plan: what the plan decides is decided, what is then never reached is dropped, and what is left is
 * a program of plain numbers (partial evaluation as in Jones, Gomard and Sestoft, 1993, by each function's known arguments).
 */
export class Specialiser extends Statements {
  get program(): Program {
    return {
      routines: this.routines,
      tables: [...this.tables].map(([values, name]) => ({ name, values: Array.from(values) })),
    };
  }

  /** Makes the routine of a stage with its part of the plan; gives its name. */
  stage(path: string, name: string, plan: unknown): Routine {
    return this.entry(path, name, [known(BODY), known(plan), known(HANDS)]);
  }

  /** Makes the routine of a function with what it is handed. */
  entry(path: string, name: string, handed: readonly Value[]): Routine {
    const declared = this.sources.find(this.sources.file(path), name);
    if (!declared || !ts.isFunctionDeclaration(declared.node)) throw new Error(`${path} has no ${name}`);
    const args: Value[] = declared.node.parameters.map((_, i) => handed[i] as Value);
    return this.routineOf(declared as Declared & { node: ts.FunctionDeclaration }, args).routine;
  }

  protected routineOf(declared: Declared & { node: ts.FunctionDeclaration }, args: Value[]) {
    const { node, file } = declared;
    const given = args.map((arg) => (isKnown(arg) ? arg.known : undefined));
    const slots = args.map((arg) => !isKnown(arg));
    const before = (this.instances.get(node) ?? []).find(
      (one) => one.slots.every((slot, i) => slot === slots[i]) && one.args.every((arg, i) => Object.is(arg, given[i])),
    );
    if (before) return before;
    const base = node.name?.text ?? 'stage';
    let name = base;
    for (let i = 2; this.names.has(name); i++) name = `${base}${i}`;
    this.names.add(name);
    const routine: Routine = {
      name,
      parameters: [],
      gives: null,
      uses: new Set(),
      body: [],
      words: wordsOf(node),
      source: file.place,
    };
    const instances = { args: given, routine, slots };
    this.instances.set(node, [...(this.instances.get(node) ?? []), instances]);
    const scope: Scope = { file, names: new Map(), taken: new Map(), routine };
    const head: Statement[] = [];
    node.parameters.forEach((parameter, i) => {
      const arg = args[i] as Value;
      if (ts.isIdentifier(parameter.name)) {
        if (isKnown(arg)) scope.names.set(parameter.name.text, arg);
        else {
          const kind: Kind = parameter.type?.getText() === 'boolean' ? 'truth' : 'number';
          const local = this.local(scope, parameter.name.text);
          routine.parameters.push({ name: local, kind });
          scope.names.set(parameter.name.text, { is: { is: 'local', name: local, kind } });
        }
      } else this.unpack(scope, parameter.name as ts.ObjectBindingPattern, arg, head);
    });
    const type = node.type?.getText() ?? 'void';
    routine.gives = type === 'void' ? null : type === 'boolean' ? 'truth' : 'number';
    routine.body = [...head, ...this.block(scope, node.body?.statements ?? [])];
    this.routines.push(routine);
    return instances;
  }

  protected call(scope: Scope, node: ts.CallExpression, out?: Statement[], given: ReadonlyMap<number, Value> = new Map()): Value {
    const callee = node.expression;
    if (ts.isPropertyAccessExpression(callee)) {
      const name = callee.name.text;
      if (ts.isIdentifier(callee.expression) && callee.expression.text === 'Math' && mathNames.has(name)) {
        const args = node.arguments.map((arg) => this.value(scope, arg, out));
        if (args.every(isKnown))
          return known(
            (Math as never as Record<string, (...all: number[]) => number>)[name]?.(...args.map((arg) => (arg as { known: number }).known)),
          );
        // The least of several is the lesser of two of them, and so on.
        const [first, ...more] = args.map(expressionOf);
        const standard = (all: Expression[]): Expression => ({ is: 'standard', name: name as StandardName, args: all });
        if (more.length === 0) return { is: standard([first as Expression]) };
        return { is: more.reduce((one, next) => standard([one, next]), first as Expression) };
      }
      if (name === 'findIndex') return this.findIndex(scope, callee.expression, node.arguments[0] as ts.ArrowFunction);
    }
    const target = this.value(scope, callee);
    const declared = isKnown(target) ? (target.known as Declared | null) : null;
    if (!declared?.node || !ts.isFunctionDeclaration(declared.node))
      throw new CannotHold(`${scope.file.place}: ${callee.getText()} cannot be called`);
    const name = declared.node.name?.text ?? '';
    const args = node.arguments.map((arg, i) => given.get(i) ?? this.value(scope, arg, out));
    const { instead } = this;
    if (Object.hasOwn(instead, name)) return (instead[name] as (args: readonly Value[]) => Value)(args);
    // What is not handed over is what it is by itself.
    for (const { initializer } of declared.node.parameters.slice(args.length))
      if (initializer) args.push(this.value({ ...scope, file: declared.file, names: new Map() }, initializer));
    if (Object.hasOwn(standards, name)) {
      return {
        is: {
          is: 'standard',
          name: standards[name] as StandardName,
          args: args.map((arg) => expressionOf(arg)),
        },
      };
    }
    const steady = args.map((arg, i) => {
      if (!isKnown(arg) && arg.of !== undefined) return known(arg.of);
      // Numbers are handed over, so that one routine serves all of them; what a plan is decides how it is folded.
      const isPlain = isKnown(arg) && (typeof arg.known === 'number' || typeof arg.known === 'boolean');
      const folds =
        isPlain &&
        (typeof arg.known === 'boolean'
          ? isNamed(declared.node as ts.FunctionDeclaration, i)
          : isCompared(declared.node as ts.FunctionDeclaration, i));
      return isPlain && !folds ? { is: literal(arg.known) } : arg;
    });
    const { routine, slots } = this.routineOf(declared as Declared & { node: ts.FunctionDeclaration }, steady);
    const [first] = routine.body;
    // One that gives back the same whatever happens is that.
    if (first?.is === 'return' && (first.value?.is === 'number' || first.value?.is === 'truth')) return known(first.value.value);
    // A function that gives back what it is handed is none.
    if (first?.is === 'return' && first.value?.is === 'local') {
      const { name: given } = first.value;
      return steady.filter((_, i) => slots[i])[routine.parameters.findIndex((parameter) => parameter.name === given)] as Value;
    }
    const handed = steady.filter((_, i) => slots[i]).map((arg) => (arg as { is: Expression }).is);
    const fitted = handed.map((arg, i) => this.fit(arg, routine.parameters[i]?.kind ?? null));
    return { is: { is: 'call', name: routine.name, args: fitted, kind: routine.gives ?? 'number' } };
  }
}

function isNamed(node: ts.FunctionDeclaration, i: number): boolean {
  const parameter = node.parameters[i];
  return parameter !== undefined && ts.isIdentifier(parameter.name);
}

/** True if a parameter is compared with a number that stands there: what it is then decides what the function does. */
function isCompared(node: ts.FunctionDeclaration, i: number): boolean {
  if (!isNamed(node, i)) return false;
  const name = node.parameters[i]?.name.getText();
  const looks = (part: ts.Node): boolean =>
    (ts.isBinaryExpression(part) &&
      /^[!=]==$/.test(part.operatorToken.getText()) &&
      part.left.getText() === name &&
      ts.isNumericLiteral(part.right)) ||
    (ts.forEachChild(part, (inner) => looks(inner) || undefined) ?? false);
  return node.body !== undefined && looks(node.body);
}
