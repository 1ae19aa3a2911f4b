import {
  type Exported,
  exportGround,
  type Ground,
  type GroundFormat,
  type Imported,
  type ImportOptions,
  importGround,
  type Reading,
} from '@zygopod/core';
import { expose } from 'comlink';

/** Reads and writes grounds away from the page: a broken or huge file may take its time, or fail, there. */
const api = {
  read(fileName: string, bytes: Uint8Array, options: ImportOptions): Reading<Imported> {
    try {
      return importGround(fileName, bytes, options);
    } catch {
      return {
        ok: false,
        faults: [{ path: '', found: 'a file that cannot be read', expected: 'JSON, SVG, CSV, an octile grid or PNG' }],
      };
    }
  },
  write: (ground: Ground, format: GroundFormat): Exported => exportGround(ground, format),
};
export type ExchangeApi = typeof api;

expose(api);
