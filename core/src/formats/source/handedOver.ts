import { specs } from '../../tuning/catalogue/catalogue.ts';
import { cases, inCase } from '../handOff/cases.ts';
import { wordsOfPath } from '../handOff/constants.ts';
import { type GameUnits, readUnits } from '../handOff/units.ts';

/** How a hand-off says its units: in its first remark, or under a name of its own where the format has no remarks. */
const remark = /^(?:\/\*|\/\/|--|#)[^\n]*\bUnits: ([a-z0-9.:+-]+(?:, [a-z0-9.:+-]+)*)\./m;
const member = /^\s*(?:"_units":\s*|_units,)"([a-z0-9.:,+-]+)"/m;

/** The units that one of our hand-offs declares; null for other sources. */
export function unitsOfHandOff(text: string): GameUnits | null {
  const said = remark.exec(text)?.[1]?.replaceAll(', ', ',') ?? member.exec(text)?.[1];
  const units = said === undefined ? null : readUnits(said);
  return units && typeof units !== 'string' ? units : null;
}

/** Parameters by the names under which they are handed over, in every case; a game's own names go before them. */
export function knownNames(own: Readonly<Record<string, string>>): Map<string, string> {
  const known = new Map(Object.entries(own).map(([path, name]) => [name, path]));
  for (const path of specs.keys())
    for (const style of cases) {
      const name = inCase(wordsOfPath(path), style);
      if (!known.has(name)) known.set(name, path);
    }
  return known;
}
