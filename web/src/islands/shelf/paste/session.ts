import { doubtsIn, type Placed, pastedTuning, placeNumbers, proposeUnits, readSource, type Terms } from '@zygopod/core';

/** What is pasted, and what was changed of its reading by hand. */
export interface Pasting {
  code: string;
  name: string;
  /** By hand: the parameter of a number by its place; null leaves it in the note. */
  chosen: Readonly<Record<number, string | null>>;
  /** By hand, or confirmed; null: as the numbers speak for. */
  terms: Terms | null;
}

export const firstPasting: Pasting = { code: '', name: 'Pasted tuning', chosen: {}, terms: null };

/** Reads what is pasted: the numbers with their places, the units and what speaks for them, and the tuning that it comes to. */
export function readPasting({ code, name, chosen, terms }: Pasting) {
  const source = readSource(code);
  const proposed = placeNumbers(source.found);
  const placed = proposed.map((one, i): Placed => {
    const path = chosen[i];
    if (path === undefined) return one;
    const { as, ...rest } = one;
    // What is chosen as it was proposed is taken as it was; else the number as it stands.
    const kept = path === one.path && as ? { as } : {};
    return { ...rest, ...kept, path, isGuess: false, why: path === null ? 'left by you' : 'chosen by you' };
  });
  // Chosen by hand, a parameter is nobody else's.
  const byHand = new Set(Object.values(chosen).filter(Boolean));
  const settled = placed.map((one, i) =>
    one.path && byHand.has(one.path) && chosen[i] === undefined
      ? { ...one, path: null, isGuess: false, why: 'you chose another for it' }
      : one,
  );
  const likely = proposeUnits(settled, source);
  const inForce = terms ?? likely.terms;
  const made = pastedTuning(name.trim() || 'Pasted tuning', settled, inForce);
  const doubts = doubtsIn(settled, inForce);
  return { placed: settled, likely, doubts, terms: inForce, isAsked: terms === null && !likely.isSure, made };
}
