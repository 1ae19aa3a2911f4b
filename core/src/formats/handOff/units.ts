import { EXACT_PI, Exact, shortestDecimal } from '../../math/exact.ts';
import type { Quantity } from '../../tuning/catalogue/specs.ts';

/** In which units a game takes its numbers. */
export interface GameUnits {
  length: 'px' | 'm' | 'tiles';
  /** Pixels of a tile, and of a metre. */
  tile: number;
  metre: number;
  time: 'second' | 'frame';
  /** Frames a second. */
  hz: number;
  angle: 'degree' | 'radian';
}

export const plainUnits: GameUnits = { length: 'px', tile: 32, metre: 32, time: 'second', hz: 60, angle: 'degree' };

/** One unit of a tuning in the game's unit: lengths from px or m, times from s, angles from degrees. Exact. */
function factorOf(quantity: Quantity, unit: 'px' | 'm', { length, tile, metre, time, hz, angle }: GameUnits): Exact {
  const pixels = unit === 'm' ? new Exact(metre) : ONE;
  const of = pixels.div(length === 'm' ? metre : length === 'tiles' ? tile : 1);
  const rate = time === 'frame' ? ONE.div(hz) : ONE;
  const turn = angle === 'radian' ? EXACT_PI.div(180) : ONE;
  switch (quantity) {
    case 'length':
      return of;
    case 'speed':
      return of.times(rate);
    case 'acceleration':
      return of.times(rate).times(rate);
    case 'time':
      return ONE.div(rate);
    case 'rate':
      return rate;
    case 'angle':
      return turn;
    case 'angularSpeed':
      return turn.times(rate);
    default:
      return ONE;
  }
}

const ONE = new Exact(1);

/** A number of a tuning in the game's units: the shortest decimal that reads back as the same double (`fromGameUnits`). */
export function gameDecimal(value: number, quantity: Quantity, unit: 'px' | 'm', units: GameUnits): string {
  const factor = factorOf(quantity, unit, units);
  if (factor.eq(1) || !Number.isFinite(value)) return String(value);
  return shortestDecimal(factor.times(value), (decimal) => decimal.div(factor).toNumber() === value);
}

/** The same as the nearest double. */
export const inGameUnits = (value: number, quantity: Quantity, unit: 'px' | 'm', units: GameUnits): number =>
  Number(gameDecimal(value, quantity, unit, units));

/** A number that stands in the game's units, in a tuning's. */
export const fromGameUnits = (value: Exact, quantity: Quantity, unit: 'px' | 'm', units: GameUnits): Exact =>
  value.div(factorOf(quantity, unit, units));

/** The same as the nearest double. */
export const inTuningUnits = (value: number, quantity: Quantity, unit: 'px' | 'm', units: GameUnits): number =>
  fromGameUnits(new Exact(value), quantity, unit, units).toNumber();

/** The unit of a quantity in the game, in words; empty for what has none. */
export function gameUnitWords(quantity: Quantity, { length, time, angle }: GameUnits): string {
  const per = time === 'frame' ? 'frame' : 's';
  const turn = angle === 'radian' ? 'radians' : 'degrees';
  switch (quantity) {
    case 'length':
      return length;
    case 'speed':
      return `${length}/${per}`;
    case 'acceleration':
      return `${length}/${per}^2`;
    case 'time':
      return time === 'frame' ? 'frames' : 's';
    case 'rate':
      return `a ${time}`;
    case 'angle':
      return turn;
    case 'angularSpeed':
      return `${turn}/${per}`;
    case 'frequency':
      return 'Hz';
    default:
      return '';
  }
}

/** `tiles:16,frame:30,radian`: units as they are written in a word; or what is wrong with it. */
export function readUnits(text: string): GameUnits | string {
  const units = { ...plainUnits };
  for (const part of text.split(',').map((one) => one.trim().toLowerCase())) {
    const [word = '', number] = part.split(':');
    const value = number === undefined ? undefined : Number(number);
    if (value !== undefined && !(value > 0 && value < 1e9)) return `found ${part}, expected a number above 0`;
    if (word === 'px') units.length = 'px';
    else if (word === 'm') Object.assign(units, { length: 'm', ...(value ? { metre: value } : {}) });
    else if (word === 'tiles') Object.assign(units, { length: 'tiles', ...(value ? { tile: value } : {}) });
    else if (word === 'second' || word === 's') units.time = 'second';
    else if (word === 'frame') Object.assign(units, { time: 'frame', ...(value ? { hz: value } : {}) });
    else if (word === 'degree' || word === 'degrees') units.angle = 'degree';
    else if (word === 'radian' || word === 'radians') units.angle = 'radian';
    else if (word !== '') return `found ${part}, expected px, m:PIXELS, tiles:PIXELS, second, frame:HZ, degree or radian`;
  }
  return units;
}

/** The same units as a word that reads back. */
export function unitsWord({ length, tile, metre, time, hz, angle }: GameUnits): string {
  const of = length === 'tiles' ? `tiles:${tile}` : length === 'm' ? `m:${metre}` : 'px';
  return [of, time === 'frame' ? `frame:${hz}` : 'second', angle].join(',');
}
