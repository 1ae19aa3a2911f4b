import ts from 'typescript';
import { Folding } from './folding.ts';
import { type Expression, kindOf, type Sign, type Statement } from './ir.ts';
import { pureOf } from './tidy.ts';
import {
  asTruth,
  CannotHold,
  expressionOf,
  isKnown,
  known,
  literal,
  number,
  Parts,
  type Scope,
  truth,
  type Unknown,
  type Value,
} from './values.ts';
import { does } from './walk.ts';

/** Folds statements: what is decided is done, what is then never reached is dropped. */
export abstract class Statements extends Folding {
  /** A name for a local that no other one of the routine has. */
  protected local({ taken }: Scope, name: string): string {
    const times = taken.get(name) ?? 0;
    taken.set(name, times + 1);
    return times === 0 ? name : `${name}${times + 1}`;
  }

  protected block(scope: Scope, statements: Iterable<ts.Statement>): Statement[] {
    const out: Statement[] = [];
    for (const statement of statements) {
      this.statement(scope, statement, out);
      const last = out.at(-1);
      // What follows is never reached.
      if (last && ends(last)) break;
    }
    return out;
  }

  protected statement(scope: Scope, node: ts.Statement, out: Statement[]): void {
    if (ts.isBlock(node)) {
      out.push(...this.block(this.inner(scope), node.statements));
    } else if (ts.isVariableStatement(node)) {
      for (const one of node.declarationList.declarations)
        this.declareLocal(scope, one, (node.declarationList.flags & ts.NodeFlags.Const) !== 0, out);
    } else if (ts.isExpressionStatement(node)) this.effect(scope, node.expression, out);
    else if (ts.isIfStatement(node)) {
      const test = this.value(scope, node.expression);
      if (isKnown(test)) {
        const branch = test.known ? node.thenStatement : node.elseStatement;
        if (branch) this.statement(scope, branch, out);
        return;
      }
      const part = (branch: ts.Statement | undefined) => (branch ? this.block(this.inner(scope), [branch]) : []);
      const [yes, no] = [part(node.thenStatement), part(node.elseStatement)];
      if (yes.length > 0 || no.length > 0) out.push({ is: 'if', test: asTruth(test.is), yes, no });
    } else if (ts.isReturnStatement(node)) {
      out.push({ is: 'return', value: node.expression ? this.fit(this.expression(scope, node.expression), scope.routine.gives) : null });
    } else if (ts.isForStatement(node)) {
      const inner = this.inner(scope);
      if (node.initializer && ts.isVariableDeclarationList(node.initializer))
        for (const one of node.initializer.declarations) this.declareLocal(inner, one, false, out);
      const test = node.condition ? this.expression(inner, node.condition) : truth(true);
      const body = this.block(this.inner(inner), [node.statement]);
      const step: Statement[] = [];
      if (node.incrementor) this.effect(inner, node.incrementor, step);
      out.push({ is: 'loop', test: asTruth(test), body, step });
    } else if (ts.isWhileStatement(node)) {
      out.push({
        is: 'loop',
        test: asTruth(this.expression(scope, node.expression)),
        body: this.block(this.inner(scope), [node.statement]),
        step: [],
      });
    } else if (ts.isContinueStatement(node)) out.push({ is: 'next' });
    else if (ts.isBreakStatement(node)) out.push({ is: 'leave' });
    else if (ts.isSwitchStatement(node)) this.switch(scope, node, out);
    else throw new CannotHold(`${scope.file.place}: ${ts.SyntaxKind[node.kind]} is in no language of ours`);
  }

  /** A known case is done; of others each has to end by itself, and they become a chain of ifs. */
  protected switch(scope: Scope, node: ts.SwitchStatement, out: Statement[]): void {
    const value = this.value(scope, node.expression);
    const { clauses } = node.caseBlock;
    const bodyFrom = (i: number): Statement[] => {
      const found: ts.Statement[] = [];
      for (const clause of clauses.slice(i)) {
        for (const statement of clause.statements) {
          if (ts.isBreakStatement(statement)) return this.block(this.inner(scope), found);
          found.push(statement);
          if (ts.isReturnStatement(statement)) return this.block(this.inner(scope), found);
        }
      }
      return this.block(this.inner(scope), found);
    };
    const otherwise = clauses.findIndex(ts.isDefaultClause);
    if (isKnown(value)) {
      const at = clauses.findIndex((clause) => ts.isCaseClause(clause) && this.mustKnow(scope, clause.expression) === value.known);
      const chosen = at >= 0 ? at : otherwise;
      if (chosen >= 0) out.push(...bodyFrom(chosen));
      return;
    }
    const local = this.local(scope, 'which');
    out.push({ is: 'local', name: local, value: value.is });
    let rest: Statement[] = otherwise >= 0 ? bodyFrom(otherwise) : [];
    for (let i = clauses.length - 1; i >= 0; i--) {
      const clause = clauses[i] as ts.CaseOrDefaultClause;
      if (!ts.isCaseClause(clause)) continue;
      const test: Expression = {
        is: 'binary',
        sign: '===',
        left: { is: 'local', name: local, kind: 'number' },
        right: this.expression(scope, clause.expression),
      };
      rest = [{ is: 'if', test, yes: bodyFrom(i), no: rest }];
    }
    out.push(...rest);
  }

  protected declareLocal(scope: Scope, node: ts.VariableDeclaration, isConst: boolean, out: Statement[]): void {
    const value = node.initializer ? this.value(scope, node.initializer, out) : known(undefined);
    if (!ts.isIdentifier(node.name)) {
      this.unpack(scope, node.name as ts.ObjectBindingPattern | ts.ArrayBindingPattern, value, out);
      return;
    }
    if (isKnown(value) && value.known instanceof Parts) {
      scope.names.set(node.name.text, known(this.keep(scope, node.name.text, value.known, out)));
      return;
    }
    const isPlain = isKnown(value) && (typeof value.known === 'number' || typeof value.known === 'boolean');
    if (isKnown(value) && (isConst || !isPlain)) {
      scope.names.set(node.name.text, value);
      return;
    }
    this.bind(scope, node.name.text, isKnown(value) ? { is: literal(value.known) } : value, out);
  }

  protected bind(scope: Scope, name: string, { is: value, of }: Unknown, out: Statement[]): void {
    scope.names.set(name, { is: this.held(scope, name, value, out), ...(of === undefined ? {} : { of }) });
  }

  /** A new local that holds a value. One that is chosen by calls that do something is chosen by an `if`. */
  private held(scope: Scope, name: string, value: Expression, out: Statement[]): Expression {
    const local = this.local(scope, name);
    const kind = kindOf(value);
    const is: Expression = { is: 'local', name: local, kind };
    if (value.is === 'choice' && [value.yes, value.no].some((one) => does(one, pureOf(this.routines)))) {
      const set = (one: Expression): Statement[] => [{ is: 'set', target: is, value: one }];
      out.push({ is: 'local', name: local, value: kind === 'truth' ? truth(false) : number(0), given: 'later' });
      out.push({ is: 'if', test: value.test, yes: set(value.yes), no: set(value.no) });
    } else out.push({ is: 'local', name: local, value });
    return is;
  }

  /** Parts whose values stay what they are when what they were read from changes. */
  private keep(scope: Scope, name: string, { parts }: Parts, out: Statement[]): Parts {
    const kept = Object.entries(parts).map(([part, value]): [string, Value] => [
      part,
      isKnown(value) ? value : { is: this.held(scope, `${name}${part}`, value.is, out) },
    ]);
    return new Parts(Object.fromEntries(kept));
  }

  protected unpack(scope: Scope, pattern: ts.ObjectBindingPattern | ts.ArrayBindingPattern, from: Value, out: Statement[]): void {
    for (const [i, element] of pattern.elements.entries()) {
      if (ts.isOmittedExpression(element)) continue;
      const { name, propertyName } = element;
      const part = ts.isArrayBindingPattern(pattern) ? String(i) : (propertyName ?? name).getText();
      const value = this.part(scope, from, part);
      if (!ts.isIdentifier(name)) this.unpack(scope, name as ts.ObjectBindingPattern | ts.ArrayBindingPattern, value, out);
      else if (isKnown(value)) scope.names.set(name.text, value);
      else this.bind(scope, name.text, value, out);
    }
  }

  /** An expression that is done for what it does. */
  protected effect(scope: Scope, node: ts.Expression, out: Statement[]): void {
    if (ts.isParenthesizedExpression(node)) this.effect(scope, node.expression, out);
    else if (
      ts.isBinaryExpression(node) &&
      node.operatorToken.kind >= ts.SyntaxKind.FirstAssignment &&
      node.operatorToken.kind <= ts.SyntaxKind.LastAssignment
    ) {
      const sign = node.operatorToken.getText().slice(0, -1);
      const right = this.value(scope, node.right, out);
      this.assign(scope, node.left, sign as Sign | '', expressionOf(right), out);
    } else if (ts.isPostfixUnaryExpression(node) || ts.isPrefixUnaryExpression(node)) {
      const sign = node.operator === ts.SyntaxKind.PlusPlusToken ? '+' : '-';
      this.assign(scope, node.operand, sign, number(1), out);
    } else if (ts.isCallExpression(node)) this.choose(scope, node, out);
  }

  /** A call that is done for what it does. One of two plans is chosen while it runs: each makes a routine of its own. */
  protected choose(scope: Scope, node: ts.CallExpression, out: Statement[]): void {
    const done = (given: ReadonlyMap<number, Value>, into: Statement[]) => {
      const value = this.call(scope, node, into, given);
      if (!isKnown(value) && (value.is.is === 'call' || value.is.is === 'ask')) into.push({ is: 'do', value: value.is });
    };
    for (const [i, arg] of node.arguments.entries()) {
      if (!ts.isConditionalExpression(arg)) continue;
      const test = this.value(scope, arg.condition, out);
      if (isKnown(test)) continue;
      const [a, b] = [this.value(scope, arg.whenTrue, out), this.value(scope, arg.whenFalse, out)];
      if (!isKnown(a) || !isKnown(b) || typeof a.known !== 'object') continue;
      const [yes, no]: Statement[][] = [[], []];
      done(new Map([[i, a]]), yes as Statement[]);
      done(new Map([[i, b]]), no as Statement[]);
      out.push({ is: 'if', test: asTruth(test.is), yes: yes as Statement[], no: no as Statement[] });
      return;
    }
    done(new Map(), out);
  }

  protected assign(scope: Scope, left: ts.Expression, sign: Sign | '', right: Expression, out: Statement[]): void {
    const target = this.value(scope, left);
    // A field that is the same in every tick needs no writing; one that is given another value is not the same.
    if (isKnown(target)) {
      if (sign !== '' || right.is !== 'number' || right.value !== target.known) {
        const field = this.fieldOf(scope, left);
        if (field !== null) this.varying.add(field);
      }
      return;
    }
    const value: Expression = sign === '' ? right : { is: 'binary', sign, left: target.is, right };
    out.push({ is: 'set', target: target.is, value: kindOf(target.is) === 'truth' ? asTruth(value) : value });
  }
}

/** True if nothing after a statement is reached. */
function ends(statement: Statement): boolean {
  if (statement.is === 'return' || statement.is === 'next' || statement.is === 'leave') return true;
  return statement.is === 'if' && [statement.yes, statement.no].every((part) => part.length > 0 && ends(part.at(-1) as Statement));
}
