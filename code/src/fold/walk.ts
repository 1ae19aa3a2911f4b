import type { Expression, Routine, Statement } from './ir.ts';

/** The expressions of a statement, those within it among them. */
export function* expressionsOf(statement: Statement): Generator<Expression> {
  switch (statement.is) {
    case 'local':
    case 'do':
      yield statement.value;
      return;
    case 'set':
      if (statement.target.is !== 'local') yield statement.target;
      yield statement.value;
      return;
    case 'return':
      if (statement.value) yield statement.value;
      return;
    case 'if':
      yield statement.test;
      for (const one of [...statement.yes, ...statement.no]) yield* expressionsOf(one);
      return;
    case 'loop':
      yield statement.test;
      for (const one of [...statement.body, ...statement.step]) yield* expressionsOf(one);
  }
}

export function partsOf(e: Expression): Expression[] {
  switch (e.is) {
    case 'not':
    case 'minus':
      return [e.of];
    case 'binary':
      return [e.left, e.right];
    case 'choice':
      return [e.test, e.yes, e.no];
    case 'call':
    case 'standard':
    case 'ask':
      return e.args;
    case 'control':
    case 'table':
    case 'waypoint':
    case 'list':
      return [e.index];
    default:
      return [];
  }
}

export function* within(e: Expression): Generator<Expression> {
  yield e;
  for (const part of partsOf(e)) yield* within(part);
}

/** True if an expression does something: it calls a routine that is not known to give a value and no more. */
export const does = (e: Expression, pure?: ReadonlySet<string>) =>
  [...within(e)].some((part) => part.is === 'ask' || (part.is === 'call' && !pure?.has(part.name)));

/** All expressions of some routines, those within others among them. */
export function* allOf(routines: readonly Routine[]): Generator<Expression> {
  for (const { body } of routines) for (const statement of body) for (const e of expressionsOf(statement)) yield* within(e);
}

/** An expression with its parts made others. */
export function mapParts(e: Expression, into: (part: Expression) => Expression): Expression {
  switch (e.is) {
    case 'not':
    case 'minus':
      return { ...e, of: into(e.of) };
    case 'binary':
      return { ...e, left: into(e.left), right: into(e.right) };
    case 'choice':
      return { ...e, test: into(e.test), yes: into(e.yes), no: into(e.no) };
    case 'call':
    case 'standard':
    case 'ask':
      return { ...e, args: e.args.map(into) };
    case 'control':
    case 'table':
    case 'waypoint':
    case 'list':
      return { ...e, index: into(e.index) };
    default:
      return e;
  }
}

/** Statements with their expressions made others; a local that is set stays what it is. */
export function mapAll(all: readonly Statement[], into: (e: Expression) => Expression): Statement[] {
  return all.map((one): Statement => {
    switch (one.is) {
      case 'local':
      case 'do':
        return { ...one, value: into(one.value) };
      case 'set':
        return { ...one, target: one.target.is === 'local' ? one.target : into(one.target), value: into(one.value) };
      case 'return':
        return { ...one, value: one.value && into(one.value) };
      case 'if':
        return { ...one, test: into(one.test), yes: mapAll(one.yes, into), no: mapAll(one.no, into) };
      case 'loop':
        return { ...one, test: into(one.test), body: mapAll(one.body, into), step: mapAll(one.step, into) };
      default:
        return one;
    }
  });
}

/** Statements, those within others among them. */
export function* everyOf(all: readonly Statement[]): Generator<Statement> {
  for (const one of all) {
    yield one;
    if (one.is === 'if') yield* everyOf([...one.yes, ...one.no]);
    if (one.is === 'loop') yield* everyOf([...one.body, ...one.step]);
  }
}
