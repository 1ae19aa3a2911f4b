import {
  doubtsIn,
  type KeptSource,
  keepSource,
  type Placed,
  pastedTuning,
  placeByHand,
  placeNumbers,
  proposeUnits,
  readSource,
  type Terms,
  uniqueNames,
} from '@zygopod/core';

/** Parameters by the unique names of a source's numbers; null: none. */
export type NamedParameters = Readonly<Record<string, string | null>>;

/** The pasted text, and corrections of its reading by hand. */
export interface Pasting {
  code: string;
  /** The name of the file that it is from; may be empty. */
  fileName: string;
  /** The name of the tuning. */
  name: string;
  /** Chosen by hand here, and earlier in the project. */
  chosen: NamedParameters;
  known: NamedParameters;
  /** By hand, or confirmed; null: as the numbers speak for. */
  terms: Terms | null;
}

export const firstPasting: Pasting = { code: '', fileName: '', name: 'Pasted tuning', chosen: {}, known: {}, terms: null };

/** The known parameters of numbers in this source, each for the first of its names alone. */
function knownHere(placed: readonly Placed[], known: NamedParameters): NamedParameters {
  const seen = new Set<string>();
  const here = uniqueNames(placed).flatMap((name): [string, string | null][] => {
    const path = Object.hasOwn(known, name) ? (known[name] as string | null) : undefined;
    if (path === undefined || (path !== null && seen.has(path))) return [];
    if (path !== null) seen.add(path);
    return [[name, path]];
  });
  return Object.fromEntries(here);
}

/** Reads what is pasted: the numbers with their places, the units and what speaks for them, and the tuning that it comes to. */
export function readPasting({ code, fileName, name, chosen, known, terms }: Pasting) {
  const source = readSource(code);
  const proposed = placeNumbers(source.found);
  const remembered = placeByHand(proposed, knownHere(proposed, known), () => 'known from this project');
  const placed = placeByHand(remembered, chosen, (path) => (path === null ? 'left by you' : 'chosen by you'));
  const likely = proposeUnits(placed, source);
  const inForce = terms ?? likely.terms;
  const pasted = pastedTuning(name.trim() || 'Pasted tuning', placed, inForce);
  const doubts = doubtsIn(placed, inForce);
  const needsUnits = terms === null && !likely.isSure;
  return { placed, names: uniqueNames(placed), likely, doubts, terms: inForce, needsUnits, pasted, kept: () => keptOf(source.text) };

  /** The source as it is kept: what is shown is confirmed, guesses too. */
  function keptOf(text: string): KeptSource {
    const confirmed = placed.map((one) => ({ ...one, isGuess: false }));
    return keepSource(fileName.trim() || 'your code', text, confirmed, inForce);
  }
}

export type ReadPasting = ReturnType<typeof readPasting>;
