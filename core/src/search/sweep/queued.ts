import type { Hole, Sweep } from './sweep.ts';

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
