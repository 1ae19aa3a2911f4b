import { specOf } from './catalogue/catalogue.ts';
import type { Link } from './catalogue/specs.ts';
import { shortNumber } from './expression.ts';
import { isLink } from './links.ts';

/** `1.75 × walk`, `walk + 60`: a link by the name of its source. */
export function linkWords(link: Link): string {
  const times = link.times === undefined || link.times === 1 ? '' : `${shortNumber(link.times)} × `;
  const plus = link.plus ? ` ${link.plus < 0 ? '−' : '+'} ${shortNumber(Math.abs(link.plus))}` : '';
  return `${times}${specOf(link.of).label.toLowerCase()}${plus}`;
}

/** A parameter's value for a reader: a link in its notation, if it is one. */
export function valueWords(value: unknown, written: unknown = value): string {
  if (isLink(written)) return linkWords(written);
  return typeof value === 'number' ? shortNumber(value) : String(value);
}
