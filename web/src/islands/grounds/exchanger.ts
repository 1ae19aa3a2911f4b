import { type Exported, type Ground, type GroundFormat, type Imported, type ImportOptions, type Reading, tooLarge } from '@zygopod/core';
import type { Remote } from 'comlink';
import { Desk } from '../../workers/desk.ts';
import type { ExchangeApi } from '../../workers/exchange.ts';

/** Seconds after which a file that is still being read is given up. */
const PATIENCE = 10;

/** A worker of its own for every file: a broken one takes nothing along. */
async function once<T>(work: (remote: Remote<ExchangeApi>) => Promise<T>): Promise<T> {
  const desk = new Desk<ExchangeApi>(() => new Worker(new URL('../../workers/exchange.ts', import.meta.url), { type: 'module' }));
  try {
    return await desk.call(work, PATIENCE);
  } finally {
    desk.stop();
  }
}

/** Reads a file as a ground. Too large a file is refused by its size: it is not even loaded. */
export async function readFile(file: File, options: ImportOptions): Promise<Reading<Imported>> {
  const fault = tooLarge(file.size);
  if (fault) return fault;
  const bytes = new Uint8Array(await file.arrayBuffer());
  return once<Reading<Imported>>(async (remote) => await remote.read(file.name, bytes, options));
}

/** Writes a ground in a format. */
export async function writeGround(ground: Ground, format: GroundFormat): Promise<Exported> {
  return once((remote) => remote.write(ground, format));
}
