import type { Expression, Program, Routine, Statement } from './ir.ts';

/** The expressions of a statement, those within it among them. */
function* expressionsOf(statement: Statement): Generator<Expression> {
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

function partsOf(e: Expression): Expression[] {
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
      return e.args;
    case 'control':
    case 'table':
      return [e.index];
    default:
      return [];
  }
}

function* within(e: Expression): Generator<Expression> {
  yield e;
  for (const part of partsOf(e)) yield* within(part);
}

/** Drops locals that nothing reads, unless what they are given does something. */
function sweep({ body, ...rest }: Routine): Routine {
  let kept = body;
  for (;;) {
    const read = new Set<string>();
    for (const statement of kept)
      for (const e of expressionsOf(statement)) for (const part of within(e)) if (part.is === 'local') read.add(part.name);
    const isUnread = (one: Statement) => {
      const name = one.is === 'local' ? one.name : one.is === 'set' && one.target.is === 'local' ? one.target.name : null;
      if (name === null || read.has(name)) return false;
      const value = (one as { value: Expression }).value;
      return ![...within(value)].some((part) => part.is === 'call');
    };
    let dropped = false;
    const swept = (all: Statement[]): Statement[] =>
      all.flatMap((one): Statement[] => {
        if (isUnread(one)) {
          dropped = true;
          return [];
        }
        if (one.is === 'if') return [{ ...one, yes: swept(one.yes), no: swept(one.no) }];
        if (one.is === 'loop') return [{ ...one, body: swept(one.body), step: swept(one.step) }];
        return [one];
      });
    kept = swept(kept);
    if (!dropped) return { ...rest, body: kept };
  }
}

/** The routines that some are made of, callees first. */
function reached(routines: readonly Routine[], from: readonly string[]): Routine[] {
  const byName = new Map(routines.map((routine) => [routine.name, routine]));
  const found = new Set<string>();
  const visit = (name: string) => {
    if (found.has(name)) return;
    found.add(name);
    for (const statement of byName.get(name)?.body ?? [])
      for (const e of expressionsOf(statement)) for (const part of within(e)) if (part.is === 'call') visit(part.name);
  };
  for (const name of from) visit(name);
  return routines.filter(({ name }) => found.has(name));
}

/** A program without locals that nothing reads, and of the routines alone that a tick is made of. */
export const withoutUnread = ({ routines, tables }: Program, tick: readonly string[]): Program => ({
  routines: reached(routines.map(sweep), tick),
  tables,
});
