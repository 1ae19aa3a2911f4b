import { Exact } from '../../math/exact.ts';
import { canonicalText } from '../../project/text.ts';
import { specs } from '../../tuning/catalogue/catalogue.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { rawAt, resolveTuning, type Tuning, valueAt } from '../../tuning/tuning.ts';
import type { Terms } from './convert.ts';
import { expressionAt } from './expression.ts';
import { formatOf, written } from './format.ts';
import type { Found } from './found.ts';
import { namesOf, pastedTuning } from './pasted.ts';
import { choicesOf, type Placed, placeByHand, placeNumbers } from './placing.ts';
import { readSource } from './source.ts';
import { type Names, takeOf } from './take.ts';
import { type Token, tokensOf } from './tokens.ts';
import { treeOf } from './tree.ts';

/** A piece of a source to be replaced. */
export interface Edit {
  path: string;
  name: string;
  line: number;
  at: number;
  end: number;
  before: string;
  after: string;
  /** The number that stands for the tuning's in the source, before it is rounded; null for flags and words. */
  exact: number | null;
  /** The value in the tuning, and the one that the written text reads as. */
  wanted: FileValue;
  reads: FileValue;
  /** An expression was replaced by its number. */
  isFlattened: boolean;
}

/** The parts of a tuning without a place in a source. */
export interface Unplaced {
  path: string;
  value: FileValue;
  /** The source's behaviour without it. */
  was: FileValue;
}

/** A source with a tuning's numbers in it. */
export interface WrittenBack {
  text: string;
  edits: Edit[];
  /** Numbers, flags and words of the source that have a place in the tuning. */
  placed: number;
  unplaced: Unplaced[];
  /** Placed numbers that can't be written: a number that has to be whole, a value that has no word. */
  refused: { path: string; name: string; line: number; why: string }[];
}

/** The names of a source, with the numbers that were replaced. */
class NewNames implements Names {
  readonly #names: Names;
  readonly #written = new Map<string, Exact>();

  constructor(names: Names) {
    this.#names = names;
  }

  numberOf(name: string): Exact | null {
    return this.#written.get(name) ?? this.#names.numberOf(name);
  }

  pathOf(name: string): string | null {
    return this.#names.pathOf(name);
  }

  walk(): Exact {
    return this.#names.walk();
  }

  set(name: string, value: Exact | null): void {
    if (value) this.#written.set(name, value);
  }
}

/** Part of a number that is no difference: what a chain of units takes. */
const EVEN = 1e-12;

const isSame = (value: Exact, { times, decimal }: Found): boolean => {
  const there = new Exact(times?.factor ?? decimal);
  return value.minus(there).abs().lte(there.abs().times(EVEN));
};

const same = (a: unknown, b: unknown) => canonicalText(a) === canonicalText(b);

/**
 * Writes a tuning's numbers into the source that they were read from: what changed, and nothing else. `more`: digits beyond those that the source
 * has. What is a guess is not written, nor what is `settled`: parameters whose numbers stand for the tuning's already.
 */
export function writeBack(
  text: string,
  placed: readonly Placed[],
  given: Terms,
  tuning: Tuning,
  more = 0,
  settled: ReadonlySet<string> = new Set(),
): WrittenBack {
  // Its numbers become those of this tuning, in its unit.
  const terms = { ...given, fileUnit: tuning.file.unit ?? 'px' };
  const sure = placed.filter((one): one is Placed & { path: string } => one.path !== null && !one.isGuess);
  const names = new NewNames(namesOf(placed, terms));
  const base = resolveTuning(pastedTuning(tuning.file.name, sure, terms).file);
  const edits: Edit[] = [];
  const refused: WrittenBack['refused'] = [];
  // What others are ratios to is written first: these go by what stands there then.
  for (const one of [...sure].sort((x, y) => Number(x.found.times !== undefined) - Number(y.found.times !== undefined))) {
    const { path, found } = one;
    if (settled.has(path)) continue;
    const wanted = valueAt(tuning.parameters, path) as FileValue;
    const was = base.ok ? (valueAt(base.value.parameters, path) as FileValue) : undefined;
    const isNumber = one.says === undefined;
    const value = isNumber ? takeOf(one, terms, names).write(tuning) : null;
    if (isNumber ? value && isSame(value, found) : same(wanted, was)) continue;
    const piece = isNumber ? numberPiece(text, found, value, more) : wordPiece(text, found, wanted);
    if ('why' in piece) refused.push({ path, name: found.name, line: found.line, why: piece.why });
    else if (piece.after !== text.slice(piece.at, piece.end)) {
      const exact = value?.toNumber() ?? null;
      edits.push({
        path,
        name: found.name,
        line: found.line,
        ...piece,
        before: text.slice(piece.at, piece.end),
        exact,
        wanted,
        reads: wanted,
      });
      if (isNumber && !found.times)
        names.set(found.own, expressionOf(text.slice(found.at, piece.at) + piece.after + text.slice(piece.end, found.end)));
    }
  }
  edits.sort((a, b) => a.at - b.at);
  const changed = edits.reduceRight((all, { at, end, after }) => all.slice(0, at) + after + all.slice(end), text);
  const reads = readAgain(changed, placed, terms);
  for (const edit of edits) edit.reads = reads[edit.path] ?? edit.reads;
  return { text: changed, edits, placed: sure.length, unplaced: base.ok ? unplacedOf(tuning, base.value, sure) : [], refused };
}

/** The values of a source whose numbers were changed, placed as before. */
function readAgain(text: string, placed: readonly Placed[], terms: Terms): Record<string, FileValue> {
  return pastedTuning(
    '',
    placeByHand(placeNumbers(readSource(text).found), choicesOf(placed), () => ''),
    terms,
  ).values;
}

/** Parameters that differ from what the source does and have no place in it. */
function unplacedOf(tuning: Tuning, base: Tuning, placed: readonly { path: string }[]): Unplaced[] {
  const there = new Set(placed.map(({ path }) => path));
  return [...specs.keys()].flatMap((path) => {
    const [value, was] = [rawAt(tuning.file, path), rawAt(base.file, path)];
    return there.has(path) || same(value, was) ? [] : [{ path, value, was }];
  });
}

type Piece = { at: number; end: number; after: string; isFlattened: boolean };

/** Types that hold whole numbers alone, before a name. */
const wholeType =
  /(?:^|[^\p{L}\p{N}_])(?:unsigned|u?int(?:8|16|32|64|ptr)?(?:_t)?|[iu](?:8|16|32|64|128|size)|usize|isize|size_t|long|short|byte|s?byte|Int|Integer|Long|Short|Byte|enum)(?![\p{L}\p{N}_])/u;

/** True if the statement that a number stands in declares it whole. */
function isWholeAt(text: string, { at }: Found): boolean {
  const begin = Math.max(text.lastIndexOf(';', at), text.lastIndexOf('\n', at), text.lastIndexOf('{', at), text.lastIndexOf('(', at)) + 1;
  const brace = text.lastIndexOf('{', at);
  const isOpen = brace > text.lastIndexOf('}', at);
  return wholeType.test(text.slice(begin, at)) || (isOpen && /\benum\b[^;{}]*$/.test(text.slice(0, brace)));
}

function numberPiece(text: string, found: Found, value: Exact | null, more: number): Piece | { why: string } {
  if (!value?.isFinite()) return { why: 'its number can’t be computed' };
  const isWhole = isWholeAt(text, found);
  const [literal, second] = found.literals as [Token, Token | undefined];
  const literalText = text.slice(literal.at, literal.end);
  const format = formatOf(literalText, isWhole, true) ?? formatOf(literalText, isWhole, false);
  if (!format) return { why: 'its text can’t be read again' };
  const size = written(value.abs(), format, more);
  // A single number: with its sign, which may turn.
  const isSingle = !second && /^[-+]?\s*$/.test(text.slice(found.at, literal.at)) && literal.end === found.end;
  const sign = value.isNegative() && !/^-?0*\.?0*$/.test(size) ? '-' : '';
  if (isSingle) return checked(value, { at: found.at, end: found.end, after: sign + size, isFlattened: false }, format.isWhole);
  const pieces = found.literals.map((token) => within(text, found, token, value, isWhole, more));
  // What counts frames, tiles or turns stays, if another number can take the change.
  const best = pieces
    .filter((piece) => piece !== null)
    .sort((a, b) => Number(a.isFactor) - Number(b.isFactor) || a.error - b.error || b.at - a.at)
    .find(({ error }) => error <= 0.011);
  if (best) return { at: best.at, end: best.end, after: best.after, isFlattened: false };
  if (found.times) return { why: `it is computed from ${found.times.of}` };
  return checked(value, { at: found.at, end: found.end, after: sign + size, isFlattened: true }, format.isWhole);
}

function checked(value: Exact, piece: Piece, isWhole: boolean): Piece | { why: string } {
  return isWhole && !value.isInteger() && value.minus(value.toDecimalPlaces(0)).abs().gt(value.abs().times(0.05))
    ? { why: `${value.toSignificantDigits(6).toString()} isn’t a whole number` }
    : piece;
}

/** Numbers that an expression is likely to be multiplied by as a matter of units. */
const factors = new Set([16, 30, 32, 60, 64, 100, 120, 144, 180, 255, 360, 1000]);

/** An expression with one of its literals changed so that it comes to a value; null if that literal can't do it. */
function within(text: string, found: Found, token: Token, value: Exact, isWhole: boolean, more: number) {
  const literalText = text.slice(token.at, token.end);
  const format = formatOf(literalText, isWhole, true);
  if (!format) return null;
  const now = new Exact(found.times?.factor ?? found.decimal);
  const own = new Exact(format.literal.decimal);
  const candidates = now.isZero() || own.isZero() || value.isZero() ? [] : [own.times(value).div(now), own.times(now).div(value)];
  candidates.push(own.plus(value).minus(now), own.minus(value).plus(now));
  for (const candidate of candidates) {
    if (candidate.isNegative()) continue;
    const after = written(candidate, format, more);
    const changed = text.slice(found.at, token.at) + after + text.slice(token.end, found.end);
    const read = expressionOf(changed);
    if (!read) continue;
    const error = value.isZero() ? read.abs().toNumber() : read.minus(value).div(value).abs().toNumber();
    const isFactor = factors.has(Number(format.literal.decimal));
    if (error <= 0.011) return { at: token.at, end: token.end, after, error, isFactor };
  }
  return null;
}

function expressionOf(text: string): Exact | null {
  const { tokens } = tokensOf(`x = ${text}`);
  const cell = treeOf(tokens).statements[0]?.cells[0];
  const read = cell && expressionAt(cell, 2);
  return read ? new Exact(read.decimal) : null;
}

const turned: Readonly<Record<string, string>> = { true: 'false', false: 'true', yes: 'no', no: 'yes', on: 'off', off: 'on' };

/** A flag or word in the place of another, in its writing. */
function wordPiece(text: string, found: Found, wanted: FileValue): Piece | { why: string } {
  const { at, end } = found;
  const there = text.slice(at, end);
  if (found.kind === 'number' || found.kind === 'list') return { why: 'a list, or an option by number, can’t be written' };
  const said = found.kind === 'flag' ? turned[there.trim().toLowerCase()] : String(wanted);
  if (said === undefined) return { why: `${there} has no known opposite` };
  const own = /[\p{L}\p{N}_]+$/u.exec(there)?.[0] ?? there;
  const styled =
    own === own.toUpperCase() && /\p{L}/u.test(own)
      ? said.toUpperCase()
      : /^\p{Lu}/u.test(own)
        ? (said[0] as string).toUpperCase() + said.slice(1)
        : said;
  return { at: end - own.length, end, after: styled, isFlattened: false };
}
