import type { Reading } from '../../document/fault.ts';
import { type Ground, parseGround } from '../../ground/ground.ts';
import { readCsvGrid, writeCsvGrid } from './csvGrid.ts';
import { type Exported, type Imported, refused, tooLarge } from './imported.ts';
import { readOctile, writeOctile } from './octile.ts';
import { readPng, writePng } from './png.ts';
import { readSvg, writeSvg } from './svg.ts';

/** The formats that grounds are read from and written to, each with the ending of its files. */
export const groundFormats = [
  { id: 'json', ending: 'ground.json', title: 'Ground (JSON)' },
  { id: 'svg', ending: 'svg', title: 'Drawing (SVG)' },
  { id: 'csv', ending: 'csv', title: 'Grid (CSV)' },
  { id: 'octile', ending: 'map', title: 'Octile grid (text)' },
  { id: 'png', ending: 'png', title: 'Picture (PNG, a pixel a cell)' },
] as const;
export type GroundFormat = (typeof groundFormats)[number]['id'];

/** How a file without sizes of its own is laid out. */
export interface ImportOptions {
  /** Side of a cell, unit. */
  cell: number;
  /** Light (0 to 1) under which a pixel is solid. */
  threshold: number;
}

/** The format of a file by its name and its first bytes; null if unknown. */
export function formatOf(fileName: string, bytes: Uint8Array): GroundFormat | null {
  const head = new TextDecoder().decode(bytes.subarray(0, 400)).trimStart();
  if (bytes[0] === 0x89 && bytes[1] === 0x50) return 'png';
  if (head.startsWith('type octile')) return 'octile';
  if (head.startsWith('{')) return 'json';
  if (/^<(\?xml|!--|svg|!DOCTYPE svg)/.test(head)) return 'svg';
  const ending = /\.([a-z]+)$/i.exec(fileName)?.[1]?.toLowerCase();
  const known: Record<string, GroundFormat> = { csv: 'csv', map: 'octile', svg: 'svg', png: 'png', json: 'json' };
  return (ending && known[ending]) || null;
}

/** Reads a file of any known format as a ground. */
export function importGround(fileName: string, bytes: Uint8Array, options: ImportOptions): Reading<Imported> {
  const fault = tooLarge(bytes.length);
  if (fault) return fault;
  const format = formatOf(fileName, bytes);
  if (!format) return refused('', 'an unknown format', 'JSON, SVG, CSV, an octile grid or PNG');
  const name = fileName.replace(/\.(ground\.json|[a-z]+)$/i, '');
  if (format === 'png') return readPng(name, bytes, options.cell, options.threshold);
  const text = decoded(bytes);
  if (text === null) return refused('', 'bytes that aren’t UTF-8', 'a text file in UTF-8');
  switch (format) {
    case 'json': {
      const reading = parseGround(text);
      return reading.ok ? { ok: true, value: { ground: reading.value, remarks: [] } } : reading;
    }
    case 'svg':
      return readSvg(name, text);
    case 'csv':
      return readCsvGrid(name, text, options.cell);
    case 'octile':
      return readOctile(name, text, options.cell);
  }
}

function decoded(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}

/** A ground in another format, with the list of what that format cannot hold. */
export function exportGround(ground: Ground, format: GroundFormat): Exported {
  switch (format) {
    case 'json':
      return { content: `${JSON.stringify(ground, null, 2)}\n`, lost: [] };
    case 'svg':
      return writeSvg(ground);
    case 'csv':
      return writeCsvGrid(ground);
    case 'octile':
      return writeOctile(ground);
    case 'png':
      return writePng(ground);
  }
}
