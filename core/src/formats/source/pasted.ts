import { Exact } from '../../math/exact.ts';
import { specs } from '../../tuning/catalogue/catalogue.ts';
import { heldIn, isWhole } from '../../tuning/catalogue/specs.ts';
import { shortNumber } from '../../tuning/expression.ts';
import type { FileValue, TuningFile } from '../../tuning/schema.ts';
import { newTuning, numberSpec, resolveTuning, withValue } from '../../tuning/tuning.ts';
import { factorFor, type Terms } from './convert.ts';
import type { Placed } from './placing.ts';
import { type Names, takeOf, worthOf } from './take.ts';

/** The result of a paste. */
export interface PastedTuning {
  file: TuningFile;
  /** Values by path, as the file has them. */
  values: Record<string, FileValue>;
  /** The rest: the numbers that were not placed, and why; kept with the tuning. */
  note: string;
  /** Numbers that were placed but cannot be: where, and why. */
  refused: { path: string; why: string }[];
}

/** Letters that a note has at most. */
const LONGEST_NOTE = 1900;

/** The numbers of a source by their names, as they were placed. */
export function namesOf(placed: readonly Placed[], terms: Terms): Names {
  const byName = new Map(placed.map((one) => [one.found.own.split('.').at(-1) as string, one]));
  const names: Names = {
    numberOf: (name) => {
      const one = byName.get(name);
      return one?.found.kind === 'number' && !one.found.times ? new Exact(one.found.decimal) : null;
    },
    pathOf: (name) => byName.get(name)?.path ?? null,
    walk: () => {
      const walk = placed.find(({ path, as }) => path === 'pace.walkSpeed' && !as);
      const worth = walk && worthOf(walk.found, names);
      return worth ? worth.times(factorFor(worth, 'speed', walk.found, terms)) : new Exact(STANDARD_WALK);
    },
  };
  return names;
}

/** The steady speed if the source has none, px/s. */
const STANDARD_WALK = 140;

const leftover = ({ found }: Placed) => {
  const { kind, times, value } = found;
  const number = times
    ? `${shortNumber(Number(times.factor))} × ${times.of}`
    : kind === 'number'
      ? shortNumber(value as number, 6)
      : String(value);
  return `${found.name} = ${number} (line ${found.line})`;
};

/** The value of a parameter from a placed number, flag or word; or why there is none. */
function valueFrom(one: Placed & { path: string }, terms: Terms, names: Names): { value: FileValue } | { why: string } {
  if (one.says !== undefined) return { value: one.says as FileValue };
  const value = takeOf(one, terms, names).read();
  if (value === null) return { why: 'its number can’t be computed' };
  const spec = numberSpec(one.path);
  if (typeof value !== 'number' || heldIn(spec, value) === value) return { value };
  const range = `${isWhole(spec) ? 'the whole numbers ' : ''}${shortNumber(spec.min)} to ${shortNumber(spec.max)}`;
  return { why: `${shortNumber(value)} is outside of ${range}` };
}

/** Creates the tuning of the placed numbers. */
export function pastedTuning(name: string, placed: readonly Placed[], terms: Terms): PastedTuning {
  const values: Record<string, FileValue> = {};
  const refused: PastedTuning['refused'] = [];
  const left: string[] = [];
  const names = namesOf(placed, terms);
  for (const one of placed) {
    const { path, found } = one;
    if (!path) {
      if (found.kind === 'number') left.push(leftover(one));
      continue;
    }
    const given = valueFrom({ ...one, path }, terms, names);
    if ('value' in given) values[path] = given.value;
    else {
      refused.push({ path, why: given.why });
      left.push(`${leftover(one)}: ${specs.get(path)?.label}, ${given.why}`);
    }
  }
  const has = (group: string) => Object.keys(values).some((path) => path.startsWith(group));
  let file = newTuning(name, terms.fileUnit);
  const implied: Record<string, FileValue> = {
    ...(has('stamina.') ? { 'stamina.enabled': true } : {}),
    ...(has('route.') ? { 'route.enabled': true } : {}),
    ...((values['step.time'] !== undefined || values['step.buffer'] !== undefined) && values['pace.walkSpeed'] === undefined
      ? { scheme: 'step' }
      : {}),
    ...(values['body.width'] !== undefined && values['body.height'] !== undefined && values['body.radius'] === undefined
      ? { 'body.shape': 'box' }
      : {}),
    ...(values['facing.rate'] !== undefined ? { 'facing.turn': 'rate' } : {}),
    ...(values['ramp.turnRate'] !== undefined && values['scheme'] !== 'turn' ? { 'ramp.turning': 'heading' } : {}),
    ...(values['ramp.halfLife'] !== undefined && values['ramp.accelerate'] === undefined ? { 'ramp.model': 'smooth' } : {}),
  };
  // What a hand-off says, it says itself.
  const all = Object.entries(terms.isHandedOver ? values : { ...implied, ...values });
  const whole = all.reduce((next, [path, value]) => withValue(next, path, value), file);
  if (resolveTuning(whole).ok) file = whole;
  else
    for (const [path, value] of all) {
      const next = withValue(file, path, value);
      if (resolveTuning(next).ok) file = next;
      else {
        refused.push({ path, why: 'it conflicts with the others' });
        left.push(`${path}: conflicts with the others`);
      }
    }
  const note = left.length > 0 ? `Pasted from code. Not placed: ${left.join('; ')}` : 'Pasted from code.';
  return { file, values, note: note.length > LONGEST_NOTE ? `${note.slice(0, LONGEST_NOTE - 1)}…` : note, refused };
}
