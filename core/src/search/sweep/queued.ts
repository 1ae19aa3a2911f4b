import type { Hole, Sweep, SweepChunk } from './sweep.ts';

/** A sweep that is measured on the queue, as the API describes it. */
export interface QueuedSweep {
  id: string;
  state: 'running' | 'done' | 'stopped';
  core: string;
  cells: number;
  done: number;
  chunkCells: number;
  chunks: number;
  workers: number;
  refusing: string[];
}

/** A measured chunk of it: bytes in base 64 (doubles, little-endian; and a byte a cell). */
export interface QueuedChunk {
  number: number;
  place: number;
  values: string;
  met: string;
  holes: Hole[];
}

/** Adds the cells of a chunk to a sweep. `bytesOf` decodes base 64. */
export function takeQueued(
  sweep: Sweep,
  { chunkCells }: Pick<QueuedSweep, 'chunkCells'>,
  { number, values, met, holes }: QueuedChunk,
  bytesOf: (text: string) => Uint8Array<ArrayBuffer>,
): void {
  const doubles = new Float64Array(bytesOf(values).buffer);
  sweep.take({ cells: sweep.chunk(number, chunkCells), values: doubles, met: bytesOf(met), holes });
}

/** All cells of a sweep as one chunk, from coarse to fine: `sweep.take` of another one with the same definition has the same values. */
export function wholeChunk(sweep: Sweep): SweepChunk {
  const cells = sweep.chunk(0, sweep.cells);
  const { metrics } = sweep;
  const values = new Float64Array(cells.length * metrics.length);
  for (const [k, key] of metrics.entries()) {
    const own = sweep.values.get(key) as Float64Array;
    for (const [i, cell] of cells.entries()) values[i * metrics.length + k] = own[cell] as number;
  }
  return { cells, values, met: Uint8Array.from(cells, (cell) => sweep.met[cell] as number), holes: sweep.holes };
}
