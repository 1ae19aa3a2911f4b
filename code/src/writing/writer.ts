import { type Case, type ConstantValue, inComment } from '@zygopod/core';

/** A constant as it is written: its name in the language, and what is said beside it. */
export interface WrittenConstant {
  path: string;
  name: string;
  value: ConstantValue;
  decimal?: string;
  comment: string;
  group: string;
}

/** The heading of a file. */
export interface Heading {
  tuning: string;
  revision: string;
  units: string;
  /** A name for the whole: of a module, a class, a guard. */
  stem: string;
}

/** How constants are written in a language. */
export interface Writer {
  id: string;
  title: string;
  extension: string;
  style: Case;
  /** How a line that is no code begins; null: the format has no comments. */
  comment: string | null;
  /** The pattern of valid names (its grammar's identifiers); null: any. */
  name: RegExp | null;
  /** The normal form in which the language compares names, where that is not NFC. */
  normalForm?: 'NFC' | 'NFKC';
  /** Words that cannot be names, and what names cannot be like besides. */
  reserved: readonly string[];
  taken?: RegExp;
  write(constants: readonly WrittenConstant[], heading: Heading): string;
}

export const words = (text: string) => text.split(' ');

/** The values of a language: how true and false, texts, numbers and lists are written. */
export interface Literals {
  isTrue: string;
  isFalse: string;
  number(decimal: string): string;
  list(values: string[], value: readonly ConstantValue[]): string;
}

function literal(value: ConstantValue, of: Literals, decimal = String(value)): string {
  if (typeof value === 'boolean') return value ? of.isTrue : of.isFalse;
  if (typeof value === 'number') return of.number(decimal);
  if (typeof value === 'string') return JSON.stringify(value);
  return of.list(
    value.map((one) => literal(one, of)),
    value,
  );
}

/** A number with a point in it, so that no language takes it for a whole one. */
export const pointed = (decimal: string) => (/[.e]/.test(decimal) ? decimal : `${decimal}.0`);
export const plain = (decimal: string) => decimal;

/** Lines `name value comment`, names and values in columns of their own, a gap between groups. */
export function columns(
  constants: readonly WrittenConstant[],
  line: (name: string, value: string, comment: string) => string,
  of: Literals,
): string {
  const rows = constants.map(({ name, value, decimal, comment, group }) => ({ name, value: literal(value, of, decimal), comment, group }));
  const wide = Math.max(0, ...rows.map(({ name }) => name.length));
  const deep = Math.min(14, Math.max(0, ...rows.map(({ value }) => value.length)));
  let group = rows[0]?.group;
  return rows
    .map((row) => {
      const gap = row.group === group ? '' : '\n';
      group = row.group;
      return `${gap}${line(row.name.padEnd(wide), row.value.padStart(deep), row.comment)}\n`;
    })
    .join('');
}

export const head = ({ tuning, revision, units }: Heading) => inComment(`${tuning}, ${revision}. Units: ${units}.`);
export const beside = (mark: string, comment: string, end = '') => (comment ? `  ${mark} ${inComment(comment)}${end}` : '');
