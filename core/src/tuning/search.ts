import { specs } from './catalogue/catalogue.ts';

/** A condition on a number. */
export interface Condition {
  path: string;
  is: '<' | '<=' | '=' | '>=' | '>';
  value: number;
}

/** A parsed search: text in names and notes, and numbers. */
export interface Search {
  text: string;
  conditions: Condition[];
}

/** `walk > 150`, `sprint speed<=1e3`; parted from others by commas or `and`. */
const condition = /^(.+?)\s*(<=|>=|<|>|=|≤|≥)\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*$/i;
const signs: Readonly<Record<string, Condition['is']>> = { '≤': '<=', '≥': '>=' };

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]+/g, '');

/**
 * The numeric parameter that a name means: its path, its label, the last part of its path, else the first in the order of the catalogue whose label
 * or path begins with it; null if none does.
 */
export function parameterNamed(name: string): string | null {
  const wanted = plain(name);
  if (wanted === '') return null;
  const numbers = [...specs].filter(([, { kind }]) => kind === 'number');
  const last = (path: string) => plain(path.slice(path.lastIndexOf('.') + 1));
  const matchers: ((path: string, label: string) => boolean)[] = [
    (path) => plain(path) === wanted,
    (_, label) => plain(label) === wanted,
    (path) => last(path) === wanted,
    (path, label) => plain(label).startsWith(wanted) || last(path).startsWith(wanted),
  ];
  for (const is of matchers) {
    const found = numbers.find(([path, { label }]) => is(path, label));
    if (found) return found[0];
  }
  return null;
}

/** Reads a search. What is written like a number's condition but names no parameter is text. */
export function readSearch(search: string): Search {
  const parts = search.split(/,|\band\b/i);
  const conditions: Condition[] = [];
  const words: string[] = [];
  for (const part of parts) {
    const [, name = '', sign = '', number = ''] = condition.exec(part.trim()) ?? [];
    const path = name && parameterNamed(name);
    if (path) conditions.push({ path, is: signs[sign] ?? (sign as Condition['is']), value: Number(number) });
    else words.push(part);
  }
  // Without a number in it, a search is the text that it is.
  return conditions.length > 0
    ? {
        text: words
          .map((word) => word.trim())
          .filter(Boolean)
          .join(' '),
        conditions,
      }
    : { text: search.trim(), conditions };
}
