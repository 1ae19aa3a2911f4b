import { z } from 'zod';
import { specs } from '../../tuning/catalogue/catalogue.ts';
import { readUnits, unitsWord } from '../handOff/units.ts';
import type { Terms } from './convert.ts';
import { choicesOf, type Placed, placeByHand, placeNumbers } from './placing.ts';
import { readSource } from './source.ts';
import { LONGEST } from './tokens.ts';

/** Longest name of a number, file or place, and most names of a source. */
const LONGEST_NAME = 300;
const MOST_NAMES = 5000;

/** Text that a database can hold. */
const plain = z.string().refine((text) => !/[\0\p{Cs}]/u.test(text), 'expected text');

const parameter = z.string().refine((path) => specs.has(path), 'expected a parameter');

/** Which parameter each name of a source is; null: none. Names that occur more than once are numbered: `speed`, `speed (2)`. */
export const sourceNames = z
  .record(plain.max(LONGEST_NAME), parameter.nullable())
  .refine((names) => Object.keys(names).length <= MOST_NAMES, `expected at most ${MOST_NAMES} names`);

/** The game's own text that a tuning's numbers were read from, with all that is needed to write them back into it. */
export const keptSource = z.strictObject({
  name: plain.min(1).max(LONGEST_NAME).meta({ description: 'The name of the file', example: 'player.lua' }),
  text: plain.min(1).max(LONGEST),
  units: z
    .string()
    .max(100)
    .refine((word) => typeof readUnits(word) !== 'string', 'expected units')
    .meta({ description: 'The units of its numbers', example: 'tiles:16,second,degree' }),
  unit: z.enum(['px', 'm']).meta({ description: 'The unit of the tuning created from it' }),
  strictly: z.boolean().meta({ description: 'True if the units hold for every number; false if a unit beside a number has priority' }),
  isHandedOver: z.boolean().meta({ description: 'True if it is an export of this application' }),
  names: sourceNames.meta({ description: 'The parameter of each name in it; null: none' }),
  rounded: z
    .record(parameter, z.strictObject({ value: z.number(), reads: z.number() }))
    .meta({ description: 'By parameter: the tuning’s number that was rounded when it was written, and what it reads as' }),
  added: z.array(parameter).max(500).meta({ description: 'Parameters without a number in it, for which a line is added' }),
  skipped: z.array(parameter).max(500).meta({ description: 'Parameters that the game doesn’t use' }),
});
export type KeptSource = z.infer<typeof keptSource>;

/** Keeps a source as it was read and placed. */
export function keepSource(
  name: string,
  text: string,
  placed: readonly Placed[],
  { units, fileUnit, strictly, isHandedOver }: Terms,
): KeptSource {
  const names = Object.entries(choicesOf(placed)).filter(([key]) => key.length <= LONGEST_NAME);
  return {
    name: name.slice(0, LONGEST_NAME),
    text,
    units: unitsWord(units),
    unit: fileUnit,
    strictly,
    isHandedOver: isHandedOver === true,
    names: Object.fromEntries(names.slice(0, MOST_NAMES)),
    rounded: {},
    added: [],
    skipped: [],
  };
}

/** The terms in which a kept source is read. */
export function termsOfKept({ units: word, unit, strictly, isHandedOver }: KeptSource): Terms {
  const units = readUnits(word);
  if (typeof units === 'string') throw new Error(units);
  return { units, fileUnit: unit, strictly, isHandedOver };
}

/**
 * The numbers of a kept source, or of a later state of its text, each as the parameter that it was placed as. Names that are new there are placed
 * by what they say, where that is sure and no other number is that parameter.
 */
export function placeKept({ names }: Pick<KeptSource, 'names'>, text: string): Placed[] {
  return placeByHand(placeNumbers(readSource(text).found), names, () => 'kept with the tuning');
}
