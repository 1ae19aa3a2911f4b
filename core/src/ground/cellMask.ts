import { type Ground, SOLID } from './ground.ts';

/** Which cells are solid: one byte a cell, row after row; beyond it everything is open. */
interface CellMask {
  columns: number;
  rows: number;
  solid: Uint8Array;
}

const MARK = SOLID.charCodeAt(0);

export function cellMask({ cells }: Ground): CellMask {
  const columns = cells[0]?.length ?? 0;
  const solid = new Uint8Array(columns * cells.length);
  cells.forEach((row, y) => {
    for (let x = 0; x < columns; x++) if (row.charCodeAt(x) === MARK) solid[y * columns + x] = 1;
  });
  return { columns, rows: cells.length, solid };
}

/** 1 where a cell is solid, else 0. */
export function solidAt({ columns, rows, solid }: CellMask, x: number, y: number): number {
  return x < 0 || y < 0 || x >= columns || y >= rows ? 0 : (solid[y * columns + x] as number);
}
