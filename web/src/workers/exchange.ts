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
    } catch {
      const faults = [{ path: '', found: 'a file that cannot be read', expected: 'JSON, SVG, CSV, an octile grid or PNG' }];
      return { kind: 'read', number: data.number, reading: { ok: false, faults } };
    }
  };
  self.postMessage(answer());
});
