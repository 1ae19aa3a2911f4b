import { Exact } from '../../math/exact.ts';
import { type Literal, literalAt } from './literals.ts';

/** How the digits of a number are written in a source. */
export interface Format {
  literal: Literal;
  /** The text of the literal, with its suffix. */
  text: string;
  /** Only whole numbers may stand there. */
  isWhole: boolean;
}

/** Share of a number that rounding to the precision of the source may take; more, and one digit more is written. */
const LOSS = 0.01;

/** The notation of a number's text; null if it isn't a number. */
export function formatOf(text: string, isWhole: boolean, readsOctal: boolean): Format | null {
  const read = literalAt(text, readsOctal);
  if (!read || read.length !== text.length) return null;
  const { literal } = read;
  return { literal, text, isWhole: isWhole || literal.base !== 10 || /^_?[iuUlL]/.test(literal.suffix) };
}

/**
 * A number (not below 0) as the source wrote the one in its place: base, separators, point, exponent and suffix. Rounded to its digits behind the
 * point, to one more of them or of those that count where that would lose over a hundredth, and to `more` beyond.
 */
export function written(value: Exact, { literal, text, isWhole }: Format, more: number): string {
  const { suffix, base } = literal;
  if (base !== 10) return inBase(value, text.slice(0, text.length - suffix.length), base) + suffix;
  const bare = text.slice(0, text.length - suffix.length);
  const [, mantissa = bare, exponent = ''] = /^(.*?)([eE][+-]?\d+)?$/.exec(bare) ?? [];
  const scaled = exponent === '' ? value : value.div(new Exact(10).pow(Number(exponent.slice(1))));
  const rounded = isWhole ? scaled.toDecimalPlaces(0) : roundedTo(scaled, literal, more);
  return inStyle(rounded, mantissa) + exponent + suffix;
}

function roundedTo(value: Exact, { decimals, decimal }: Literal, more: number): Exact {
  const near = value.toDecimalPlaces(decimals);
  const isNear = value.isZero() || near.minus(value).abs().lte(value.abs().times(LOSS));
  if (more === 0 && isNear) return near;
  const beyond = Math.max(1, more);
  const byPlaces = value.toDecimalPlaces(decimals + beyond);
  // A number much smaller than the one before keeps as many digits that count.
  const counting = decimal
    .replace(/[eE].*$/, '')
    .replace('.', '')
    .replace(/^0+/, '').length;
  const byDigits = value.toSignificantDigits(Math.max(1, counting) + beyond);
  return byDigits.decimalPlaces() > byPlaces.decimalPlaces() ? byDigits : byPlaces;
}

/** Digits with the separators and the point of another number. */
function inStyle(value: Exact, like: string): string {
  const [whole = '0', part = ''] = value.toFixed().split('.');
  const separator = /[_']/.exec(like.split('.')[0] ?? '')?.[0];
  const grouped = separator && whole.length > 3 ? whole.replace(/(\d)(?=(?:\d{3})+$)/g, `$1${separator}`) : whole;
  const lead = like.startsWith('.') && whole === '0' && part !== '' ? '' : grouped;
  if (part !== '') return `${lead}.${part}`;
  // `34.0` stays a number with a point, `34.` and `34` what they are.
  if (/\.$/.test(like)) return `${lead}.`;
  return /\.\d/.test(like) ? `${lead}.0` : lead;
}

function inBase(value: Exact, like: string, base: number): string {
  const number = value.toDecimalPlaces(0).toNumber();
  const prefix = /^0[xXbBoO]/.exec(like)?.[0] ?? '0';
  const digits = number.toString(base).padStart(like.length - prefix.length, '0');
  return prefix + (/[A-F]/.test(like.slice(prefix.length)) ? digits.toUpperCase() : digits);
}
