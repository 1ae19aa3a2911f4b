/** A number as it stands in a source: what it says, and how it is written. */
export interface Literal {
  /** Sign, digits and exponent, without separators and suffix, in decimal: reads back exactly. */
  decimal: string;
  value: number;
  /** Digits behind the point. */
  decimals: number;
  base: 10 | 16 | 8 | 2;
  /** Type that is written behind the digits: `f`, `_f32`, `L`. */
  suffix: string;
}

const prefixed = /^0(?:[xX][0-9a-fA-F](?:[_']?[0-9a-fA-F])*|[bB][01](?:[_']?[01])*|[oO][0-7](?:_?[0-7])*)/;
const octal = /^0[0-7]+(?![\d.eE_])/;
/** 1_000.5, 1'200.0, .5, 119., 1e-3; a point that a name or another point follows belongs to neither. */
const plain =
  /^(?:(?:\d{1,3}(?:'\d{3})+|\d+(?:_\d+)*)(?:\.\d+(?:_\d+)*|\.(?=[fFdDmMlL](?![A-Za-z0-9_])|[^\w.]|$))?|\.\d+(?:_\d+)*)(?:[eE][+-]?\d+)?/;
const suffixes = /^(?:_?(?:f(?:32|64)|[iu](?:8|16|32|64|128|size))|[fFdDmMuUlL]{1,2})(?![A-Za-z0-9_])/;

/** The number at the beginning of a text, in the notation of the languages, and its length; null if there is none. */
export function literalAt(text: string, readsOctal: boolean): { literal: Literal; length: number } | null {
  const special = prefixed.exec(text)?.[0] ?? (readsOctal ? octal.exec(text)?.[0] : undefined);
  const digits = special ?? plain.exec(text)?.[0];
  if (digits === undefined) return null;
  const suffix = suffixes.exec(text.slice(digits.length))?.[0] ?? '';
  return { literal: literalOf(digits, special !== undefined, suffix), length: digits.length + suffix.length };
}

function literalOf(digits: string, isSpecial: boolean, suffix: string): Literal {
  const bare = digits.replace(/[_']/g, '');
  if (!isSpecial) {
    const decimals = /\.(\d*)/.exec(bare)?.[1]?.length ?? 0;
    return { decimal: bare, value: Number(bare), decimals, base: 10, suffix };
  }
  const letter = bare[1]?.toLowerCase();
  const base = letter === 'x' ? 16 : letter === 'b' ? 2 : 8;
  const value = letter === 'x' || letter === 'b' || letter === 'o' ? Number(bare) : Number(`0o${bare.slice(1)}`);
  return { decimal: String(value), value, decimals: 0, base, suffix };
}
