import type { Fault, Reading } from '../../document/fault.ts';
import { type Ground, groundFormat, OPEN, readGround, SOLID, type Surface } from '../../ground/ground.ts';

/** A ground that was made from another format, and what had to be made up for it. */
export interface Imported {
  ground: Ground;
  remarks: string[];
}

/** A ground as another format has it: text or bytes, and what that format cannot hold. */
export interface Exported {
  content: string | Uint8Array;
  lost: string[];
}

/** Largest file (bytes) that is taken. */
const LARGEST = 20 * 1024 * 1024;

export function refused(path: string, found: string, expected: string): { ok: false; faults: Fault[] } {
  return { ok: false, faults: [{ path, found, expected }] };
}

/** The reason why a file of so many bytes isn't read; null if it is. */
export function tooLarge(bytes: number): { ok: false; faults: Fault[] } | null {
  const inMegabytes = (size: number) => size / 1048576;
  return bytes > LARGEST ? refused('', `${inMegabytes(bytes).toFixed(1)} MB`, `at most ${inMegabytes(LARGEST)} MB`) : null;
}

/** Surfaces for marks without one: as fast as open ground, because the file does not say. */
export function surfacesFor(
  marks: Iterable<string>,
  known: Record<string, Surface>,
): { surfaces: Record<string, Surface>; remarks: string[] } {
  const surfaces: Record<string, Surface> = {};
  const remarks: string[] = [];
  for (const mark of new Set(marks)) {
    surfaces[mark] = known[mark] ?? { name: `surface ${mark}`, speed: 1 };
    if (!known[mark]) remarks.push(`The file gives no speed for “${mark}”: it is as fast as open ground`);
  }
  return { surfaces, remarks };
}

/** Reads codes as a text; typed arrays have the byte order of the machine, which is little-endian wherever this runs. */
const UTF16 = new TextDecoder('utf-16le', { ignoreBOM: true });

/** The codes of marks that cells are made of most. */
export const SOLID_CODE = SOLID.charCodeAt(0);
export const OPEN_CODE = OPEN.charCodeAt(0);

/** A row of marks, one a column, by their codes: a text that grows by a character at a time takes thirty times the room. */
export function rowOf(columns: number, codeAt: (column: number) => number): string {
  const codes = new Uint16Array(columns);
  for (let x = 0; x < columns; x++) codes[x] = codeAt(x);
  return UTF16.decode(codes);
}

/** The first column of a row that the body can stand on; −1 if there is none. */
function openIn(row: string, surfaces: Record<string, Surface>): number {
  for (let x = 0; x < row.length; x++) {
    const mark = row[x] as string;
    if (mark === OPEN || mark in surfaces) return x;
  }
  return -1;
}

/** A ground of cells alone, with its start on the first open cell. */
export function groundOfCells(
  name: string,
  cells: string[],
  cell: number,
  surfaces: Record<string, Surface>,
  remarks: string[],
): Reading<Imported> {
  const columns = cells[0]?.length ?? 0;
  if (columns === 0) return refused('', 'no cells', 'at least one row of cells');
  const row = cells.findIndex((marks) => openIn(marks, surfaces) >= 0);
  const column = row < 0 ? 0 : openIn(cells[row] as string, surfaces);
  if (row < 0) remarks.push('No cell is open: the start is placed in the first one');
  const start = { x: (column + 0.5) * cell, y: (Math.max(0, row) + 0.5) * cell };
  const reading = readGround({
    format: groundFormat.format,
    version: 2,
    name: name.slice(0, 120) || 'Imported ground',
    size: { width: columns * cell, height: cells.length * cell },
    cell,
    cells,
    surfaces,
    start,
  });
  if (!reading.ok) return reading;
  return { ok: true, value: { ground: reading.value, remarks: [...remarks, `The start is placed at ${start.x}, ${start.y}`] } };
}

/** The parts of a ground that a format of cells alone cannot hold. */
export function beyondCells(ground: Ground): string[] {
  const lost: string[] = ['the start'];
  if (ground.walls.length > 0) lost.push(ground.walls.length === 1 ? 'a free wall' : `${ground.walls.length} free walls`);
  if (ground.goal) lost.push('the goal');
  if (ground.frame) lost.push('the screen frame');
  if (ground.course) lost.push('the course');
  if (ground.cells.length * ground.cell < ground.size.height || (ground.cells[0]?.length ?? 0) * ground.cell < ground.size.width)
    lost.push('ground beyond the cells');
  return lost;
}

/** The cells of a ground over its whole size: what it leaves out is open. */
export function wholeCells({ cells, cell, size }: Ground): string[] {
  const columns = Math.max(1, Math.ceil(size.width / cell - 1e-9), cells[0]?.length ?? 0);
  const rows = Math.max(1, Math.ceil(size.height / cell - 1e-9), cells.length);
  return Array.from({ length: rows }, (_, y) => (cells[y] ?? '').padEnd(columns, OPEN));
}
