import { type GameUnits, inGameUnits, inTuningUnits, placeByHand, placeNumbers, plainUnits, readSource, specs } from '@zygopod/core';
import type { NamedParameters } from '../source/pasting.ts';
import type { GameParameter, LinkedGame } from './link.ts';

/** A number of a game with the parameter that it is, in the tuning's units. */
export interface Matched extends GameParameter {
  /** The parameter of the catalogue; null: none of ours. */
  path: string;
}
export interface Unmatched extends GameParameter {
  path?: never;
}

/** True if a value is one that a parameter of the catalogue takes. */
function fits(path: string | undefined, value: GameParameter['value']): path is string {
  const spec = path === undefined ? undefined : specs.get(path);
  if (!spec) return false;
  return spec.kind === 'number'
    ? typeof value === 'number'
    : spec.kind === 'flag'
      ? typeof value === 'boolean'
      : spec.kind === 'choice' && typeof value === 'string';
}

/** The parameters that the names of numbers give, as when code is pasted. A ratio, or half of something, is not the number itself. */
function byNames(parameters: readonly GameParameter[]): Map<string, string> {
  const numbers = parameters.filter(({ value }) => typeof value === 'number');
  const source = readSource(JSON.stringify(Object.fromEntries(numbers.map(({ name, value }) => [name, value]))));
  const placed = placeByHand(placeNumbers(source.found), {}, () => '');
  return new Map(placed.flatMap(({ found, path, as }): [string, string][] => (path && !as ? [[found.own, path]] : [])));
}

/**
 * Matches the numbers of a game with the catalogue: as chosen by hand, else by the path that the game gives, else by their names. Each parameter is
 * matched once, the surest first.
 */
export function matchGame(parameters: readonly GameParameter[], chosen: NamedParameters): { matched: Matched[]; others: Unmatched[] } {
  const names = byNames(parameters);
  const paths = new Map<string, string>();
  const taken = new Set<string>();
  const isLeft = (name: string) => Object.hasOwn(chosen, name) && chosen[name] === null;
  const ways: ((one: GameParameter) => string | null | undefined)[] = [
    ({ name }) => chosen[name],
    ({ path }) => path,
    ({ name }) => names.get(name),
  ];
  for (const way of ways)
    for (const one of parameters) {
      const path = way(one) ?? undefined;
      if (paths.has(one.name) || isLeft(one.name) || !fits(path, one.value) || taken.has(path)) continue;
      paths.set(one.name, path);
      taken.add(path);
    }
  const matched: Matched[] = [];
  const others: Unmatched[] = [];
  for (const one of parameters) {
    const path = paths.get(one.name);
    const { path: _, ...own } = one;
    if (path === undefined) others.push(own);
    else matched.push({ ...own, path });
  }
  return { matched, others };
}

/** Converts values between a game and a tuning. */
export interface Exchange {
  /** A value of the tuning in the game's unit. */
  toGame(path: string, value: GameParameter['value']): GameParameter['value'];
  /** A value of the game in the tuning's unit. */
  fromGame(path: string, value: GameParameter['value']): GameParameter['value'];
}

/** `metre` is the number of px in a metre. */
export function exchangeWith({ unit }: Pick<LinkedGame, 'unit'>, ground: { unit: 'px' | 'm'; cell: number }, metre: number): Exchange {
  const tile = ground.unit === 'm' ? ground.cell * metre : ground.cell;
  const units: GameUnits = { ...plainUnits, length: unit, tile, metre };
  const quantityOf = (path: string) => {
    const spec = specs.get(path);
    return spec?.kind === 'number' ? spec.quantity : null;
  };
  return {
    toGame(path, value) {
      const quantity = quantityOf(path);
      return quantity && typeof value === 'number' ? inGameUnits(value, quantity, ground.unit, units) : value;
    },
    fromGame(path, value) {
      const quantity = quantityOf(path);
      return quantity && typeof value === 'number' ? inTuningUnits(value, quantity, ground.unit, units) : value;
    },
  };
}

/** True if two values are the same to a game, which may keep single precision. */
export const isSame = (a: GameParameter['value'], b: GameParameter['value']): boolean =>
  typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) <= 1e-6 * Math.max(1, Math.abs(a), Math.abs(b)) : a === b;
