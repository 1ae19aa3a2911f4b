import { Exact } from '../../math/exact.ts';
import { specs } from '../../tuning/catalogue/catalogue.ts';
import { numberAt, numberSpec, type Tuning } from '../../tuning/tuning.ts';
import { inCase } from '../handOff/cases.ts';
import { wordsOfPath } from '../handOff/constants.ts';
import { factorFor, type Terms } from './convert.ts';
import { formatOf, written } from './format.ts';
import { pastedTuning } from './pasted.ts';
import { choicesOf, type Placed, placeByHand, placeNumbers, uniqueNames } from './placing.ts';
import { readSource } from './source.ts';

/** A line for a number that a source does not have, in the style of the lines around it. */
export interface NewLine {
  path: string;
  /** The name that it has in the source, and that name made unique. */
  name: string;
  key: string;
  /** The line, without its end, and the line (from 1) that it follows. */
  text: string;
  after: number;
}

/** Digits of a new number beyond those of the line that it is written like. */
const MORE_DIGITS = 1;

/** Relative difference between a tuning's number and its rounded text that is no mistake. */
const ROUNDING = 0.02;

/** A line that holds one number alone: what a new line can be written like. */
interface Pattern {
  one: Placed & { path: string };
  /** The line without its remark, and where its number begins and ends in it. */
  text: string;
  from: number;
  to: number;
  ending: string;
}

/**
 * Writes a line for a number that a source does not have, like the last line that holds one number in the same place: its indentation, the form of
 * its name, its number format and its ending. Null if no line of the source can be followed. The line is read again before it is returned.
 */
export function newLineFor(
  text: string,
  placed: readonly Placed[],
  terms: Terms,
  tuning: Tuning,
  path: string,
  own: string | undefined,
): NewLine | null {
  if (specs.get(path)?.kind !== 'number') return null;
  for (const pattern of patternsIn(text, placed, path)) {
    const line = writtenLike(pattern, terms, tuning, path, own);
    if (line && wholeName(line.name).test(text)) continue;
    const key = line && keyRead(text, line, placed, terms, tuning);
    if (line && key) return { ...line, key };
  }
  return null;
}

/** A name as a whole, wherever it stands. */
const wholeName = (name: string) =>
  new RegExp(`(?<![\\p{L}\\p{N}_])${name.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')}(?![\\p{L}\\p{N}_])`, 'gu');

/** A source with lines put behind others. */
export function withLines(text: string, lines: readonly Pick<NewLine, 'text' | 'after'>[]): string {
  const rows = text.split('\n');
  for (const { text: line, after } of [...lines].reverse()) {
    // Lines end as those before them do; a last line without an end gets one.
    const isWindows = rows.some((row) => row.endsWith('\r'));
    if (after === rows.length && isWindows) rows[after - 1] += '\r';
    rows.splice(after, 0, isWindows && after < rows.length ? `${line}\r` : line);
  }
  return rows.join('\n');
}

/** Lines that a new one can be written like, the best first: those with an ending that separates, with the same kind of quantity, and far down. */
function patternsIn(text: string, placed: readonly Placed[], path: string): Pattern[] {
  const rows = text.split('\n');
  const counts = new Map<number, number>();
  for (const { found } of placed) counts.set(found.line, (counts.get(found.line) ?? 0) + 1);
  const patterns = placed.flatMap((one): Pattern[] => {
    const { found } = one;
    if (one.path === null || one.isGuess || one.says !== undefined || found.kind !== 'number' || found.times || found.literals.length !== 1)
      return [];
    if (counts.get(found.line) !== 1) return [];
    const row = (rows[found.line - 1] ?? '').replace(/\r$/, '');
    const begin = text.lastIndexOf('\n', found.at - 1) + 1;
    const [literal] = found.literals;
    if (!literal || literal.end - begin > row.length) return [];
    const [from, to] = [literal.at - begin, literal.end - begin];
    const remark = /\s*(?:\/\/|\/\*|--|#|<!--).*$/.exec(row.slice(to))?.[0] ?? '';
    const bare = row.slice(0, row.length - remark.length);
    return [{ one: { ...one, path: one.path }, text: bare, from, to, ending: bare.slice(to).trim() }];
  });
  const quantity = numberSpec(path).quantity;
  const scopes = (one: Placed) => one.found.scopes.join('\n');
  const main = patterns.map(({ one }) => scopes(one)).sort((a, b) => patternCount(patterns, b) - patternCount(patterns, a))[0];
  const rank = ({ one, ending }: Pattern) =>
    (/[,;>]$/.test(ending) ? 4 : 0) + (scopes(one) === main ? 2 : 0) + (numberSpec(one.path).quantity === quantity ? 1 : 0);
  const hasSeparators = patterns.some(({ ending }) => /[,;]$/.test(ending));
  return patterns
    .filter(({ ending }) => !hasSeparators || /[,;>]$/.test(ending))
    .sort((a, b) => rank(b) - rank(a) || b.one.found.line - a.one.found.line);
}

const patternCount = (patterns: readonly Pattern[], scopes: string) =>
  patterns.filter(({ one }) => one.found.scopes.join('\n') === scopes).length;

/** A name of words in the form of another name. */
function likeName(words: readonly string[], like: string): string {
  const [, mark = '', rest = like] = /^(k(?=\p{Lu})|[msg]_|_+|\$|--)?(.*)$/u.exec(like) ?? [];
  if (rest.includes('-')) return mark + words.join('-');
  if (rest === rest.toUpperCase()) return mark + inCase(words, 'SCREAMING_SNAKE');
  if (rest.includes('_') || rest === rest.toLowerCase()) return mark + inCase(words, 'snake_case');
  return mark + inCase(words, /^\p{Lu}/u.test(rest) ? 'PascalCase' : 'camelCase');
}

function writtenLike(
  { one: { found }, text, from, to }: Pattern,
  terms: Terms,
  tuning: Tuning,
  path: string,
  own: string | undefined,
): Omit<NewLine, 'key'> | null {
  const like = found.own.split('.').at(-1) as string;
  const name = own ?? likeName(wordsOfPath(path), like);
  const value = new Exact(String(numberAt(tuning.parameters, path)));
  const factor = factorFor(value, numberSpec(path).quantity, { ...found, own: name, name, remark: '' }, terms);
  const format = formatOf(text.slice(from, to), false, false);
  if (!format || value.isNegative()) return null;
  const number = written(value.div(factor), format, MORE_DIGITS);
  const renamed = (part: string) => part.replace(wholeName(like), () => name);
  const head = renamed(text.slice(0, from));
  if (head === text.slice(0, from)) return null;
  return { path, name, text: head + number + renamed(text.slice(to)), after: found.line };
}

/** The unique name of a new line in its source, if it reads as the tuning's number there and leaves all others as they are; else null. */
function keyRead(text: string, line: Omit<NewLine, 'key'>, placed: readonly Placed[], terms: Terms, tuning: Tuning): string | null {
  const before = placeNumbers(readSource(withLines(text, [line])).found);
  const names = uniqueNames(before);
  const at = before.findIndex(({ found }) => found.line === line.after + 1);
  const key = names[at];
  const chosen = choicesOf(placed);
  if (key === undefined || Object.hasOwn(chosen, key) || before.length !== placed.length + 1) return null;
  const others = names.filter((_, i) => i !== at);
  if (others.some((name) => !Object.hasOwn(chosen, name))) return null;
  const read = pastedTuning(
    '',
    placeByHand(before, { ...chosen, [key]: line.path }, () => ''),
    terms,
  ).values[line.path];
  const wanted = numberAt(tuning.parameters, line.path);
  const isRight = typeof read === 'number' && Math.abs(read - wanted) <= Math.abs(wanted) * ROUNDING;
  return isRight ? key : null;
}
