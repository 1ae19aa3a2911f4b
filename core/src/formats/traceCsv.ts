import { gaits } from '../motion/codes.ts';
import { type Column, columns, type Trace } from '../motion/trace.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** The columns that other programs rely on come first, `pose` the last of them; further columns follow. */
const firstColumns = columns.slice(0, columns.indexOf('contacts') + 1);
const furtherColumns = columns.slice(columns.indexOf('contacts') + 1);

/** The first line of a trace as CSV (RFC 4180): the names of its columns. */
export function traceHeader(): string {
  return `${[...firstColumns, 'pose', ...furtherColumns].join(',')}\r\n`;
}

/** Its rows from a row on, as far as they are held. JavaScript writes the shortest text that reads back as the same double. */
export function* traceRows(trace: Trace, directions: Parameters['facing']['directions'], from = 0): Generator<string> {
  const cell = (column: Column, row: number) => {
    const value = trace.at(column, row);
    return column === 'gait' ? (gaits[value] ?? '') : String(value);
  };
  for (let row = Math.max(from, trace.first); row < trace.end; row++)
    yield `${[...firstColumns.map((c) => cell(c, row)), trace.pose(row, directions), ...furtherColumns.map((c) => cell(c, row))].join(',')}\r\n`;
}
