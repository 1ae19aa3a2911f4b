import { Exact } from '../../math/exact.ts';
import { isLink } from '../../tuning/links.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { numberAt, numberSpec, rawAt, type Tuning } from '../../tuning/tuning.ts';
import { factorFor, type Terms } from './convert.ts';
import type { Found } from './found.ts';
import type { Placed } from './placing.ts';

/** How a number of a source becomes a tuning's value, and a tuning's value that number again. */
export interface Take {
  /** The value in a tuning; null if it can't be computed. */
  read(): FileValue | null;
  /** The number that stands for the tuning's value in the source: exact, of the whole expression without the name that it is a ratio to. */
  write(tuning: Tuning): Exact | null;
}

/** Known names of a source and their values. */
export interface Names {
  /** A number by the last part of its name. */
  numberOf(name: string): Exact | null;
  /** The parameter that it was placed as. */
  pathOf(name: string): string | null;
  /** The steady speed in the tuning's units. */
  walk(): Exact;
}

const exact = (value: number) => new Exact(String(value));
const last = (name: string) => name.split('.').at(-1) as string;

/** The number of a finding: with the one that it is a ratio to computed. Null if that is unknown. */
export function worthOf({ decimal, times }: Found, names: Names): Exact | null {
  if (!times) return new Exact(decimal);
  const other = names.numberOf(last(times.of));
  return other === null ? null : other.times(times.factor);
}

/** How a placed number is taken; for a parameter that is a number. */
export function takeOf({ found, path, as }: Placed & { path: string }, terms: Terms, names: Names): Take {
  const spec = numberSpec(path);
  const { times } = found;
  const isOfWalk = path === 'pace.sprintSpeed' && times !== undefined && names.pathOf(last(times.of)) === 'pace.walkSpeed';
  if (as === 'ratioToWalk' || isOfWalk) return ratioTake(path, found, isOfWalk ? null : terms);
  const worth = worthOf(found, names);
  /** Without the name that it is a ratio to. */
  const bare = (value: Exact | null): Exact | null => {
    const other = times ? names.numberOf(last(times.of)) : null;
    return times ? (value && other && !other.isZero() ? value.div(other) : null) : value;
  };
  const take = (
    quantity: Parameters<typeof factorFor>[1],
    there: (value: Exact) => Exact | null,
    back: (value: Exact, tuning: Tuning) => Exact | null,
  ): Take => {
    const factor = worth && factorFor(worth, quantity, found, terms);
    return {
      read: () => {
        const value = worth && factor && there(worth.times(factor));
        return value?.isFinite() ? value.toNumber() : null;
      },
      write: (tuning) => {
        const value = factor && back(exact(numberAt(tuning.parameters, path)), tuning);
        return bare(value ? value.div(factor as Exact) : null);
      },
    };
  };
  const overTime = (value: Exact, by: Exact) => (by.gt(0) ? value.div(by) : null);
  switch (as) {
    case 'half':
      return take(
        'length',
        (value) => value.div(2),
        (value) => value.times(2),
      );
    case 'inverse':
      // Of a rate the time of one; of a time step the ticks a second.
      return take(
        path === 'clock.hz' ? 'time' : 'rate',
        (value) => overTime(new Exact(1), value),
        (value) => overTime(new Exact(1), value),
      );
    case 'timeToWalk':
    case 'timeToStop':
      return take(
        'time',
        (value) => overTime(names.walk(), value),
        (value, tuning) => overTime(exact(numberAt(tuning.parameters, 'pace.walkSpeed')), value),
      );
    default:
      // The side of a cell is what a length of one tile is.
      if (path === 'step.cell' && terms.units.length === 'tiles' && !terms.strictly)
        return { read: () => worth?.toNumber() ?? null, write: (tuning) => bare(exact(numberAt(tuning.parameters, path))) };
      return take(
        spec.quantity,
        (value) => value,
        (value) => value,
      );
  }
}

/** A ratio to the steady speed: a link. */
function ratioTake(path: string, found: Found, terms: Terms | null): Take {
  const factor = terms ? factorFor(new Exact(found.decimal), 'ratio', found, terms) : new Exact(1);
  return {
    read: () => ({ of: 'pace.walkSpeed', times: new Exact(found.decimal).times(factor).toNumber() }),
    write: ({ file, parameters }) => {
      const raw = rawAt(file, path);
      const walk = numberAt(parameters, 'pace.walkSpeed');
      if (isLink(raw) && raw.of === 'pace.walkSpeed' && !raw.plus) return exact(raw.times ?? 1).div(factor);
      return walk === 0 ? null : exact(numberAt(parameters, path)).div(exact(walk)).div(factor);
    },
  };
}
