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

/** A file to read as a ground, or a ground to write. */
export type ExchangeOrder =
  | { kind: 'read'; number: number; fileName: string; bytes: Uint8Array; options: ImportOptions }
  | { kind: 'write'; number: number; ground: Ground; format: GroundFormat };
export type ExchangeAnswer =
  | { kind: 'read'; number: number; reading: Reading<Imported> }
  | { kind: 'write'; number: number; exported: Exported };

/** Reads and writes grounds away from the page: a broken or huge file may take its time, or fail, there. */
self.addEventListener('message', ({ data }: MessageEvent<ExchangeOrder>) => {
  const answer = (): ExchangeAnswer => {
    if (data.kind === 'write') return { kind: 'write', number: data.number, exported: exportGround(data.ground, data.format) };
    try {
      return { kind: 'read', number: data.number, reading: importGround(data.fileName, data.bytes, data.options) };
    } catch (error) {
      const found = error instanceof Error ? error.message : String(error);
      return {
        kind: 'read',
        number: data.number,
        reading: { ok: false, faults: [{ path: '', found, expected: 'a file that can be read' }] },
      };
    }
  };
  self.postMessage(answer());
});
