import { csvParseRows } from 'd3-dsv';
import { type Reading, shown } from '../../document/fault.ts';
import { type Ground, OPEN, SOLID } from '../../ground/ground.ts';
import { csvLine, fromCsvCell } from '../escaping.ts';
import { countUpTo, most, tooMany } from './budget.ts';
import { beyondCells, type Exported, groundOfCells, type Imported, refused, rowOf, surfacesFor, wholeCells } from './imported.ts';

/** Kinds of surfaces at most: with more the file holds something else. */
const MOST_MARKS = 100;

/**
 * Reads a grid as CSV (RFC 4180): a mark a field, `#` or 1 solid, `.`, 0 or nothing open, other marks surfaces. `cell` is the
 * side of a cell, unit.
 */
export function readCsvGrid(name: string, text: string, cell: number): Reading<Imported> {
  if (countUpTo(text, ',', most.cells) > most.cells) return tooMany('', 'fields', most.cells);
  if (countUpTo(text, '\n', most.side) > most.side) return tooMany('', 'lines', most.side);
  const lines = linesOf(text.trim());
  const columns = lines[0]?.().length ?? 0;
  const marks = new Set<string>();
  const cells: string[] = [];
  for (const [y, line] of lines.entries()) {
    const row = line();
    if (row.length !== columns) return refused(`line ${y + 1}`, `${row.length} fields`, `${columns}, like the first line`);
    if (columns > most.side) return tooMany(`line ${y + 1}`, 'fields', most.side);
    const found: string[] = [];
    for (const [x, field] of row.entries()) {
      const value = fromCsvCell(field.trim());
      const mark = value === '' || value === '0' ? OPEN : value === '1' ? SOLID : value;
      if ([...mark].length !== 1) return refused(`line ${y + 1}, field ${x + 1}`, shown(value), 'one mark');
      if (mark !== OPEN && mark !== SOLID) marks.add(mark);
      if (marks.size > MOST_MARKS) return tooMany(`line ${y + 1}, field ${x + 1}`, 'kinds of marks', MOST_MARKS);
      found.push(mark);
    }
    cells.push(rowOf(columns, (x) => (found[x] as string).charCodeAt(0)));
  }
  const { surfaces, remarks } = surfacesFor(marks, {});
  return groundOfCells(name, cells, cell, surfaces, remarks);
}

/** The fields of each line, split on demand: those of all lines at once would take much memory. Quotes need the whole text. */
function linesOf(text: string): (() => string[])[] {
  if (text.includes('"')) return csvParseRows(text).map((row) => () => row);
  return text === '' ? [] : text.split(/\r\n|\n|\r/).map((line) => () => line.split(','));
}

export function writeCsvGrid(ground: Ground): Exported {
  const lost = beyondCells(ground);
  if (Object.keys(ground.surfaces).length > 0) lost.push('names and speeds of surfaces');
  return {
    content: wholeCells(ground)
      .map((row) => csvLine([...row]))
      .join(''),
    lost: [...lost, 'the size of a cell'],
  };
}
