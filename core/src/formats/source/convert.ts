import { Exact } from '../../math/exact.ts';
import type { Quantity } from '../../tuning/catalogue/specs.ts';
import { fromGameUnits, type GameUnits } from '../handOff/units.ts';
import type { Found } from './found.ts';
import { wordsOf } from './vocabulary.ts';

/** The evidence of a number's own name, unit and remark about its unit. */
export interface OwnUnit {
  length: 'px' | 'm' | 'tiles' | null;
  time: 'second' | 'millisecond' | 'frame' | null;
  angle: 'degree' | 'radian' | null;
  isPercent: boolean;
}

const metres = /(?:^|[^\p{L}])m(?:\s*\/|\s+per|\s*$|[^\p{L}'’])/u;

/** The unit that stands with a number: behind it, in its name, or in its line's remark. */
export function ownUnitOf({ own, unit, remark }: Found): OwnUnit {
  const named = wordsOf(own);
  const beside = [...wordsOf(unit), ...wordsOf(remark)];
  const all = [...named, ...beside];
  const has = (...words: string[]) => words.some((word) => all.includes(word));
  const isMetres = beside.includes('metre') || named.includes('metre') || metres.test(unit) || metres.test(remark);
  // A tile in a name may be what the number is of; behind it, it is its unit.
  const isTiles = beside.includes('cell') && !/\d\s*(?:px|pixels?)\s*tiles?/i.test(remark);
  return {
    length: has('pixel') && !isTiles ? 'px' : isMetres ? 'm' : isTiles ? 'tiles' : null,
    time: has('millisecond') ? 'millisecond' : has('frame', 'tick') && !named.includes('rate') ? 'frame' : has('second') ? 'second' : null,
    // A name that is nothing but `rad` is a radius as well.
    angle: has('radian') && !(named.length === 1 && beside.length === 0) ? 'radian' : has('degree') || /°/.test(unit) ? 'degree' : null,
    isPercent: has('percent'),
  };
}

/** Turns a second up to which a rate of turning, in no unit of its own, is taken to be in radians. */
const MOST_RADIANS = 12.6;

/** How the numbers of a source are taken. */
export interface Terms {
  units: GameUnits;
  /** The unit of the tuning. */
  fileUnit: 'px' | 'm';
  /** The units hold for each number; else what stands with a number goes before them, and what can't be a count of frames is in seconds. */
  strictly: boolean;
  /** The source is a hand-off of ours: it says all that it means. */
  isHandedOver?: boolean;
}

/** One of a number's units in a tuning's (px or m, s, degrees). Exact. */
export function factorFor(value: Exact, quantity: Quantity, found: Found, { units, fileUnit, strictly }: Terms): Exact {
  const own = strictly ? { length: null, time: null, angle: null, isPercent: false } : ownUnitOf(found);
  if (quantity === 'ratio') return own.isPercent ? HUNDREDTH : ONE;
  if (quantity === 'time') return timeFactor(value, own.time, units, strictly);
  const isTurn = quantity === 'angularSpeed';
  const isSmall = isTurn && !strictly && units.time === 'second' && value.abs().lte(MOST_RADIANS) && !value.isZero();
  const angle = own.angle ?? (isSmall ? 'radian' : units.angle);
  const time = own.time === 'frame' ? 'frame' : own.time === 'second' ? 'second' : units.time;
  return fromGameUnits(ONE, quantity, fileUnit, { ...units, length: own.length ?? units.length, angle, time });
}

const ONE = new Exact(1);
const HUNDREDTH = ONE.div(100);

function timeFactor(value: Exact, own: OwnUnit['time'], units: GameUnits, strictly: boolean): Exact {
  if (own === 'millisecond') return ONE.div(1000);
  const isFrames = strictly
    ? units.time === 'frame'
    : own === 'frame' || (units.time === 'frame' && own !== 'second' && value.isInteger() && value.gte(1));
  return isFrames ? ONE.div(units.hz) : ONE;
}
