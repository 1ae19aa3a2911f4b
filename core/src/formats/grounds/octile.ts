import { type Reading, shown } from '../../document/fault.ts';
import { type Ground, OPEN, SOLID, type Surface } from '../../ground/ground.ts';
import { countUpTo, most, tooMany } from './budget.ts';
import { beyondCells, type Exported, groundOfCells, type Imported, refused, rowOf, surfacesFor, wholeCells } from './imported.ts';

/** Marks of the format (Sturtevant 2012, “Benchmarks for Grid-Based Pathfinding”) as ours. */
const ours: Readonly<Record<string, string>> = { '.': OPEN, G: OPEN, '@': SOLID, O: SOLID, T: SOLID, S: 'S', W: 'W' };
const slow: Record<string, Surface> = { S: { name: 'slow', speed: 0.6 }, W: { name: 'water', speed: 0.35 } };
/** Surfaces at least this fast are written as slow, others as water. */
const SLOW = 0.5;

/** Reads the octile grid text format: `type octile`, `height`, `width`, `map`, then a row a line. */
export function readOctile(name: string, text: string, cell: number): Reading<Imported> {
  if (countUpTo(text, '\n', most.side + 8) > most.side + 8) return tooMany('', 'lines', most.side + 8);
  const lines = text.split(/\r?\n/);
  const head = (at: number, pattern: RegExp, expected: string): RegExpExecArray | string =>
    pattern.exec((lines[at] ?? '').trim()) ?? expected;
  const type = head(0, /^type octile$/, 'type octile');
  if (typeof type === 'string') return refused('line 1', shown(lines[0]), `“${type}”`);
  const height = head(1, /^height (\d+)$/, 'height and a number');
  if (typeof height === 'string') return refused('line 2', shown(lines[1]), height);
  const width = head(2, /^width (\d+)$/, 'width and a number');
  if (typeof width === 'string') return refused('line 3', shown(lines[2]), width);
  if ((lines[3] ?? '').trim() !== 'map') return refused('line 4', shown(lines[3]), '“map”');
  const [rows, columns] = [Number(height[1]), Number(width[1])];
  if (rows > most.side || columns > most.side)
    return refused('lines 2 and 3', `${columns} × ${rows} cells`, `at most ${most.side} × ${most.side}`);
  const marks = new Set<string>();
  const cells: string[] = [];
  for (let y = 0; y < rows; y++) {
    const line = lines[4 + y];
    if (line === undefined || line.length !== columns)
      return refused(`line ${5 + y}`, line === undefined ? 'the end of the file' : `${line.length} marks`, `${columns} marks`);
    for (let x = 0; x < columns; x++) {
      const mark = ours[line[x] as string];
      if (mark === undefined) return refused(`line ${5 + y}, column ${x + 1}`, shown(line[x]), 'one of . G @ O T S W');
      if (mark !== OPEN && mark !== SOLID) marks.add(mark);
    }
    cells.push(rowOf(columns, (x) => (ours[line[x] as string] as string).charCodeAt(0)));
  }
  const { surfaces } = surfacesFor(marks, slow);
  const remarks = marks.size > 0 ? ['S is read as slow (× 0.6), W as water (× 0.35)'] : [];
  return groundOfCells(name, cells, cell, surfaces, remarks);
}

export function writeOctile(ground: Ground): Exported {
  const mark = (own: string) => (own === SOLID ? '@' : own === OPEN ? '.' : (ground.surfaces[own]?.speed ?? 1) >= SLOW ? 'S' : 'W');
  const cells = wholeCells(ground);
  const rows = cells.map((row) => [...row].map(mark).join(''));
  const lost = beyondCells(ground);
  const kinds = Object.entries(ground.surfaces).filter(([own, { speed }]) => slow[own]?.speed !== speed);
  if (kinds.length > 0) lost.push('speeds of surfaces, other than slow or water');
  const head = ['type octile', `height ${rows.length}`, `width ${rows[0]?.length ?? 0}`, 'map'];
  return { content: `${[...head, ...rows].join('\n')}\n`, lost: [...lost, 'the size of a cell'] };
}
