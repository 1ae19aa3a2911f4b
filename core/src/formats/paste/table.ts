import { fromCsvCell } from '../escaping.ts';
import { numberAt } from './numberAt.ts';
import type { Token } from './tokens.ts';

/** A number that was found in code, under its name. */
export interface Found {
  /** The name as it stands there, with those of what it is in: `player.walk_speed`. */
  name: string;
  value: number;
  /** A ratio to another name: `walk * 1.75`. */
  times?: { of: string; factor: number };
  line: number;
  /** What stands beside it: a comment, or a unit after the number. */
  hint: string;
}

/** A number is read whole in a cell, or there is none. */
function numberOf(cell: readonly Token[] | undefined): number | null {
  const read = cell && numberAt(cell, 0);
  return read && read.end === cell.length && read.of === null ? read.value : null;
}

const wordsOf = (cell: readonly Token[] | undefined) => (cell ?? []).map(({ text }) => text).join(' ');

/** A head whose columns are names and values, in words of its own: each row below is one number. */
function namesAndValues(heads: readonly string[]): { name: number; value: number } | null {
  const [name, value] = [/^(?:name|key|id|constant|parameter|setting)$/i, /^(?:value|number|amount|default)$/i].map((word) =>
    heads.findIndex((head) => word.test(head)),
  ) as [number, number];
  return name >= 0 && value >= 0 ? { name, value } : null;
}

/** The lines that are comma-separated values under a line of names: their numbers by those names. */
export function tableOf(lines: readonly (readonly Token[])[]): Map<number, Found[]> {
  const found = new Map<number, Found[]>();
  let heads: string[] | null = null;
  for (const line of lines) {
    const cells: Token[][] = [[]];
    for (const token of line) {
      if (token.kind === 'mark' && [',', '\t', '|'].includes(token.text)) cells.push([]);
      else if (token.kind !== 'end') cells.at(-1)?.push(token);
    }
    const words = cells.map((cell) =>
      cell.every(({ kind }) => kind === 'name' || kind === 'text') ? cell.map(({ text }) => text).join(' ') : null,
    );
    if (cells.length >= 2 && words.every((word) => word)) {
      heads = words as string[];
      continue;
    }
    if (!heads) continue;
    const row = line[0]?.line ?? 0;
    const columns = namesAndValues(heads);
    if (columns) {
      const [name, value] = [fromCsvCell(wordsOf(cells[columns.name])), numberOf(cells[columns.value])];
      const hint = cells.flatMap((cell, i) => (i === columns.name || i === columns.value ? [] : [wordsOf(cell)])).join(' ');
      if (name && value !== null) found.set(row, [{ name, value, line: row, hint }]);
      continue;
    }
    if (cells.length !== heads.length) continue;
    const numbers = cells.flatMap((cell, i): Found[] => {
      const value = numberOf(cell);
      return value === null ? [] : [{ name: heads?.[i] ?? '', value, line: row, hint: '' }];
    });
    // Names with the same names in each line stand before their numbers, not over them.
    if (numbers.length > 0 && numbers.length >= cells.length - 1 && cells.length > 2) found.set(row, numbers);
  }
  return found;
}
