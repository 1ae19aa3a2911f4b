import { type Expression, opposite, type Program, type Routine, type Statement, type Used } from './ir.ts';
import { allOf, does, everyOf, expressionsOf, mapAll, mapParts, partsOf, within } from './walk.ts';

/** The field of the body, or of what looks for walls, that an expression is. */
const fieldOf = (e: Expression): string | null => (e.is === 'body' ? e.field : e.is === 'walls' ? `${e.field} of walls` : null);

/** Everything read anywhere: of the body its fields, of a routine its locals. Assigning a field doesn't read it. */
function* readBy(statement: Statement): Generator<Expression> {
  if (statement.is === 'if' || statement.is === 'loop') {
    yield* within(statement.test);
    const inner = statement.is === 'if' ? [...statement.yes, ...statement.no] : [...statement.body, ...statement.step];
    for (const one of inner) yield* readBy(one);
  } else if (statement.is === 'set') {
    // Of an element that is set, the index is read.
    for (const part of partsOf(statement.target)) yield* within(part);
    // What alone counts itself is read by nobody.
    const own = fieldOf(statement.target);
    for (const part of within(statement.value)) if (own === null || fieldOf(part) !== own) yield part;
  } else for (const e of expressionsOf(statement)) yield* within(e);
}

/** Statements without those that are dropped; the rest of an `if` that does nothing is dropped, too. */
function without(all: readonly Statement[], isDropped: (one: Statement) => boolean, pure: ReadonlySet<string>): Statement[] {
  return all.flatMap((one): Statement[] => {
    if (isDropped(one)) return [];
    if (one.is === 'loop') return [{ ...one, body: without(one.body, isDropped, pure), step: without(one.step, isDropped, pure) }];
    if (one.is !== 'if') return [one];
    const [yes, no] = [without(one.yes, isDropped, pure), without(one.no, isDropped, pure)];
    if (yes.length === 0 && no.length === 0 && !does(one.test, pure)) return [];
    if (yes.length === 0 && no.length > 0) return [{ is: 'if', test: opposite(one.test), yes: no, no: [] }];
    return [{ ...one, yes, no }];
  });
}

/** Routines that set nothing but locals of their own, and call none that do. */
export function pureOf(routines: readonly Routine[]): Set<string> {
  const pure = new Set<string>();
  // Those that are called stand before those that call them.
  for (const routine of routines) {
    const sets = [...everyOf(routine.body)].some((one) => one.is === 'set' && one.target.is !== 'local');
    if (!sets && ![...allOf([routine])].some((e) => e.is === 'ask' || (e.is === 'call' && !pure.has(e.name)))) pure.add(routine.name);
  }
  return pure;
}

/** Drops what is computed and never read, and calls of routines that do nothing. `observed` are fields that others read. */
function sweep(routines: readonly Routine[], observed: ReadonlySet<string>): Routine[] {
  const fields = new Set(observed);
  for (const { body } of routines) for (const one of body) for (const e of readBy(one)) fields.add(fieldOf(e) ?? '');
  const idle = new Set(
    routines.filter(({ body, gives }) => gives === null && body.every(({ is }) => is === 'return')).map(({ name }) => name),
  );
  const pure = pureOf(routines);
  return routines.map((routine) => {
    const locals = new Set<string>();
    for (const one of routine.body) for (const e of readBy(one)) if (e.is === 'local') locals.add(e.name);
    const isUnread = (one: Statement): boolean => {
      if (one.is === 'do')
        return (
          one.value.is === 'call' &&
          (idle.has(one.value.name) || pure.has(one.value.name)) &&
          !one.value.args.some((arg) => does(arg, pure))
        );
      if (one.is === 'local') return !locals.has(one.name) && !does(one.value, pure);
      if (one.is !== 'set' || does(one.value, pure)) return false;
      if (one.target.is === 'local') return !locals.has(one.target.name);
      const field = fieldOf(one.target);
      return field !== null && !fields.has(field);
    };
    const body = without(routine.body, isUnread, pure);
    // A return at the end is implied.
    const last = body.at(-1);
    return { ...routine, body: last?.is === 'return' && last.value === null ? body.slice(0, -1) : body };
  });
}

/** The routines that some are made of, callees first. */
function reached(routines: readonly Routine[], from: readonly string[]): Routine[] {
  const byName = new Map(routines.map((routine) => [routine.name, routine]));
  const found = new Set<string>();
  const visit = (name: string) => {
    const routine = byName.get(name);
    if (!routine || found.has(name)) return;
    found.add(name);
    for (const e of allOf([routine])) if (e.is === 'call') visit(e.name);
  };
  for (const name of from) visit(name);
  return routines.filter(({ name }) => found.has(name));
}

/** A routine that does nothing but call one that nothing else calls takes over what that one does. */
function merged(routines: readonly Routine[]): Routine[] {
  const callers = new Map<string, number>();
  for (const e of allOf(routines)) if (e.is === 'call') callers.set(e.name, (callers.get(e.name) ?? 0) + 1);
  const byName = new Map(routines.map((routine) => [routine.name, routine]));
  return routines.map((routine) => {
    const [only, ...more] = routine.body;
    if (only?.is !== 'do' || only.value.is !== 'call' || more.length > 0 || callers.get(only.value.name) !== 1) return routine;
    const { args } = only.value;
    const callee = byName.get(only.value.name);
    const isSame = callee?.parameters.every(({ name }, i) => args[i]?.is === 'local' && (args[i] as { name: string }).name === name);
    return callee && isSame && callee.gives === null ? { ...routine, body: callee.body } : routine;
  });
}

/** An expression with the locals in it that stand for something else put in. */
const given = (e: Expression, values: ReadonlyMap<string, Expression>): Expression =>
  e.is === 'local' ? (values.get(e.name) ?? e) : mapParts(e, (part) => given(part, values));

const withGiven = (all: readonly Statement[], values: ReadonlyMap<string, Expression>): Statement[] => mapAll(all, (e) => given(e, values));

/** A local that is another name for what the hands do, or for a local, and never changes, is that. */
function named(routine: Routine): Routine {
  const set = new Set(
    [...everyOf(routine.body)].flatMap((one) => (one.is === 'set' && one.target.is === 'local' ? [one.target.name] : [])),
  );
  const values = new Map<string, Expression>();
  for (const one of everyOf(routine.body)) {
    if (one.is !== 'local' || set.has(one.name)) continue;
    const value = given(one.value, values);
    if (value.is === 'hands' || (value.is === 'local' && !set.has(value.name))) values.set(one.name, value);
  }
  return values.size === 0 ? routine : { ...routine, body: withGiven(routine.body, values) };
}

/** Statements of a routine that is put in where it is called, at most. */
const FEW = 8;

/** A routine of very few settings that is called in one place stands there itself. */
function inlined(routines: readonly Routine[]): Routine[] {
  const calls = new Map<string, number>();
  for (const e of allOf(routines)) if (e.is === 'call') calls.set(e.name, (calls.get(e.name) ?? 0) + 1);
  const small = new Map(
    routines
      .filter(
        ({ name, gives, body }) => gives === null && calls.get(name) === 1 && body.length <= FEW && body.every(({ is }) => is === 'set'),
      )
      .map((routine) => [routine.name, routine]),
  );
  const into = (all: readonly Statement[]): Statement[] =>
    all.flatMap((one): Statement[] => {
      if (one.is === 'if') return [{ ...one, yes: into(one.yes), no: into(one.no) }];
      if (one.is === 'loop') return [{ ...one, body: into(one.body), step: into(one.step) }];
      const call = one.is === 'do' && one.value.is === 'call' ? one.value : null;
      const callee = call && small.get(call.name);
      if (!call || !callee || !call.args.every(({ is }) => is === 'local' || is === 'number')) return [one];
      return withGiven(callee.body, new Map(callee.parameters.map(({ name }, i) => [name, call.args[i] as Expression])));
    });
  return routines.map((routine) => ({ ...routine, body: into(routine.body) }));
}

/** Routines without parameters that they do not read, and calls without what was handed over for them. */
function lean(routines: readonly Routine[]): Routine[] {
  const kept = new Map(
    routines.map(({ name, parameters, body }) => {
      const read = new Set([...everyOf(body)].flatMap((one) => [...readBy(one)].flatMap((e) => (e.is === 'local' ? [e.name] : []))));
      for (const one of everyOf(body)) if (one.is === 'set' && one.target.is === 'local') read.add(one.target.name);
      return [name, parameters.map((parameter) => read.has(parameter.name))];
    }),
  );
  // What is computed for a parameter may do something: then it stays.
  for (const e of allOf(routines)) {
    if (e.is !== 'call') continue;
    for (const [i, arg] of e.args.entries()) if (does(arg)) kept.get(e.name)?.splice(i, 1, true);
  }
  const into = (e: Expression): Expression => {
    const whole = mapParts(e, into);
    return whole.is === 'call' ? { ...whole, args: whole.args.filter((_, i) => kept.get(whole.name)?.[i] ?? true) } : whole;
  };
  return routines.map((routine) => ({
    ...routine,
    parameters: routine.parameters.filter((_, i) => kept.get(routine.name)?.[i]),
    body: mapAll(routine.body, into),
  }));
}

/** The names that an expression needs. */
function usedBy(e: Expression): Used[] {
  switch (e.is) {
    case 'body':
    case 'way':
    case 'waypoint':
      return ['body'];
    case 'hands':
    case 'control':
      return ['hands'];
    case 'walls':
    case 'list':
      return ['walls'];
    case 'ask':
      return e.of === 'isClear' ? [e.of] : ['body', e.of];
    default:
      return [];
  }
}

/** The names that a routine uses by itself or through its callees; callees come before it. */
function settled(routines: readonly Routine[]): Routine[] {
  const known = new Map<string, Routine>();
  for (const routine of routines) {
    const all = [...allOf([routine])];
    const called = all.flatMap((e) => (e.is === 'call' ? [known.get(e.name)] : []));
    known.set(routine.name, {
      ...routine,
      uses: new Set([...all.flatMap(usedBy), ...called.flatMap((one) => [...(one?.uses ?? [])])]),
    });
  }
  return [...known.values()];
}

/**
 * A program without what is never read and what does nothing, and of the routines alone that a tick is made of. `observed` are the fields of
 * the body that others read.
 */
export function tidied({ routines, tables }: Program, tick: readonly string[], observed: ReadonlySet<string>): Program {
  let left = reached(routines, tick);
  for (let size = -1; size !== sizeOf(left); ) {
    size = sizeOf(left);
    left = reached(lean(inlined(merged(sweep(left.map(named), observed)))), tick);
  }
  const read = new Set([...allOf(left)].flatMap((e) => (e.is === 'table' ? [e.name] : [])));
  return { routines: settled(left), tables: tables.filter(({ name }) => read.has(name)) };
}

const sizeOf = (routines: readonly Routine[]) => JSON.stringify(routines.map(({ body }) => body)).length;

/** The fields that a program reads or sets: of the body, or of what looks for walls. */
export const fieldsOf = ({ routines }: Program, of: 'body' | 'walls' = 'body'): Set<string> =>
  new Set([...allOf(routines)].flatMap((e) => (e.is === of ? [e.field] : [])));
