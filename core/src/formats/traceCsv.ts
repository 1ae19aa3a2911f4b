import { gaits } from '../motion/codes.ts';
import { type Column, columns, type Trace } from '../motion/trace.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** The columns that other programs rely on come first, `pose` the last of them; further columns follow. */
const firstColumns = columns.slice(0, columns.indexOf('contacts') + 1);
const furtherColumns = columns.slice(columns.indexOf('contacts') + 1);

/** A trace as CSV (RFC 4180) with a header row. JavaScript writes the shortest text that reads back as the same double. */
export function* traceCsv(trace: Trace, directions: Parameters['facing']['directions']): Generator<string> {
  yield `${[...firstColumns, 'pose', ...furtherColumns].join(',')}\r\n`;
  const cell = (column: Column, row: number) => {
    const value = trace.at(column, row);
    return column === 'gait' ? (gaits[value] ?? '') : String(value);
  };
  for (let row = trace.first; row < trace.end; row++)
    yield `${[...firstColumns.map((c) => cell(c, row)), trace.pose(row, directions), ...furtherColumns.map((c) => cell(c, row))].join(',')}\r\n`;
}
