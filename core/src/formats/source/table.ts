import { fromCsvCell } from '../escaping.ts';
import { quotedNumber } from './expression.ts';
import type { ListValue, Reading, Scope } from './found.ts';
import type { Token } from './tokens.ts';

/** A cell of a line: its text without quotes, and where that stands. */
interface Cell {
  text: string;
  at: number;
  isQuoted: boolean;
}

interface Row {
  cells: Cell[];
  line: number;
}

const number = /^\s*[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?\s*%?\s*$/;
const word = /^[\p{L}_][\p{L}\p{N}_ .()/-]*$/u;

/** The cells of a line (RFC 4180, with the given mark between them; in a Markdown table `|` at both ends, too). */
function cellsOf(line: string, begin: number, mark: string): Cell[] {
  const cells: Cell[] = [];
  let at = 0;
  const edge = /^\s*\|/.exec(line);
  if (mark === '|' && edge) at = edge[0].length;
  while (at <= line.length) {
    const quote = /^\s*"((?:[^"]|"")*)"\s*/.exec(line.slice(at));
    const end = quote ? at + quote[0].length : line.indexOf(mark, at) < 0 ? line.length : line.indexOf(mark, at);
    const raw = quote ? (quote[1] as string) : line.slice(at, end);
    const lead = quote ? quote[0].indexOf('"') + 1 : raw.length - raw.trimStart().length;
    cells.push({ text: quote ? raw.replaceAll('""', '"') : raw.trim(), at: begin + at + lead, isQuoted: quote !== null });
    at = end + 1;
  }
  if (mark === '|' && cells.at(-1)?.text === '') cells.pop();
  return cells;
}

/** The rows of a text that is a table throughout, under a line of names; null if it isn't one. */
function rowsOf(text: string): Row[] | null {
  const lines = text.split('\n');
  for (const mark of [',', ';', '\t', '|']) {
    let begin = 0;
    const rows: Row[] = [];
    lines.forEach((raw, i) => {
      const line = raw.replace(/\r$/, '');
      const isRule = mark === '|' && /^[\s|:-]+$/.test(line);
      if (line.trim() !== '' && !isRule && !/^\s*(?:#|\/\/)/.test(line)) rows.push({ cells: cellsOf(line, begin, mark), line: i + 1 });
      begin += raw.length + 1;
    });
    const [head, ...rest] = rows;
    const isTable =
      head &&
      rest.length > 0 &&
      head.cells.length >= 2 &&
      head.cells.every(({ text: cell }) => word.test(cell)) &&
      rest.every(({ cells }) => cells.length === head.cells.length) &&
      2 * rest.filter(({ cells }) => cells.some(({ text: cell }) => number.test(cell))).length >= rest.length;
    if (isTable) return rows;
  }
  return null;
}

/** The numbers of a table: a name and a value in each row, or a thing in each row with its numbers under their names; null if it isn't one. */
export function readTable(text: string): Reading[] | null {
  const rows = rowsOf(text.replace(/^\ufeff/, ' '));
  if (!rows) return null;
  const [head, ...rest] = rows as [Row, ...Row[]];
  const heads = head.cells.map(({ text: cell }) => cell);
  const column = (pattern: RegExp) => heads.findIndex((one) => pattern.test(one));
  const [name, value] = [
    column(/^(?:name|key|id|constant|parameter|setting|variable)$/i),
    column(/^(?:value|number|amount|default|val)$/i),
  ];
  const found: Reading[] = [];
  for (const { cells, line } of rest) {
    const beside = (...without: number[]) => cells.flatMap(({ text: cell }, i) => (without.includes(i) ? [] : [cell])).join(' ');
    const keep = (own: string, cell: Cell, within: readonly Scope[], unit: string) => {
      const token: Token = { kind: 'text', text: cell.text, at: cell.at - 1, end: cell.at + cell.text.length + 1, line, indent: 0 };
      const read = quotedNumber(token);
      if (!read) {
        if (name >= 0 && value >= 0)
          found.push({
            ...saidIn(cell.text),
            own,
            decimal: '',
            line,
            unit,
            at: cell.at,
            end: cell.at + cell.text.length,
            literals: [token],
            within,
          });
        return;
      }
      const literal: Token = { ...token, kind: 'number', text: read.decimal, at: read.at, end: read.end };
      const stated = [read.unit === '%' ? 'percent' : read.unit, unit].filter(Boolean).join(' ');
      const { decimal, at, end } = read;
      found.push({ kind: 'number', own, value: Number(decimal), decimal, line, unit: stated, at, end, literals: [literal], within });
    };
    if (name >= 0 && value >= 0) {
      const cell = cells[value];
      if (cell) keep(fromCsvCell(cells[name]?.text ?? ''), cell, [], beside(name, value));
      continue;
    }
    const first = cells.findIndex(({ text: cell }) => word.test(cell));
    const scope = { name: first >= 0 ? (cells[first]?.text ?? '') : '' };
    cells.forEach((cell, i) => {
      if (i !== first) keep(heads[i] ?? '', cell, [scope], '');
    });
  }
  return found;
}

/** A flag, a list or a word, as a cell says it. */
function saidIn(text: string): Pick<Reading, 'kind' | 'value'> {
  if (/^(?:true|false)$/i.test(text)) return { kind: 'flag', value: /^true$/i.test(text) };
  if (text.startsWith('[')) {
    try {
      return { kind: 'list', value: JSON.parse(text) as ListValue };
    } catch {
      return { kind: 'word', value: text };
    }
  }
  return { kind: 'word', value: text };
}
