import { decode, encode } from 'fast-png';
import type { Reading } from '../../document/fault.ts';
import { type Ground, OPEN, SOLID } from '../../ground/ground.ts';
import { beyondCells, type Exported, groundOfCells, type Imported, refused, wholeCells } from './imported.ts';

/** Pixels a side at the most. */
const MOST_PIXELS = 4096;

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Width and height as the file's header tells them, before anything is unpacked; null where it is no PNG. */
function sizeOf(bytes: Uint8Array): { width: number; height: number } | null {
  if (bytes.length < 24 || SIGNATURE.some((byte, i) => bytes[i] !== byte)) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

/** Reads a PNG: pixels darker than `threshold` (0 to 1) are solid cells, clear ones are open. A pixel is a cell. */
export function readPng(name: string, bytes: Uint8Array, cell: number, threshold = 0.5): Reading<Imported> {
  const size = sizeOf(bytes);
  if (!size) return refused('', 'something else', 'a PNG image');
  if (size.width > MOST_PIXELS || size.height > MOST_PIXELS)
    return refused('size', `${size.width} × ${size.height} pixels`, `at most ${MOST_PIXELS} × ${MOST_PIXELS}`);
  let image: ReturnType<typeof decode>;
  try {
    image = decode(bytes);
  } catch (error) {
    return refused('', `a broken PNG (${error instanceof Error ? error.message : String(error)})`, 'a whole PNG image');
  }
  const { width, height, data, channels, palette, depth } = image;
  if (depth < 8) return readPacked(name, image, cell, threshold);
  const most = depth === 16 ? 65535 : 255;
  const pixel = (at: number): [number, number] => {
    const entry = palette ? (palette[data[at] as number] ?? [0, 0, 0]) : null;
    if (entry) return [luminance(entry[0] as number, entry[1] as number, entry[2] as number) / 255, (entry[3] ?? 255) / 255];
    const [a, b, c] = [data[at], data[at + 1], data[at + 2]] as [number, number, number];
    const light = channels < 3 ? a : luminance(a, b, c);
    const alpha = channels === 2 ? b : channels === 4 ? (data[at + 3] as number) : most;
    return [light / most, alpha / most];
  };
  const cells = Array.from({ length: height }, (_, y) => {
    let row = '';
    for (let x = 0; x < width; x++) {
      const [light, alpha] = pixel((y * width + x) * channels);
      row += alpha >= 0.5 && light < threshold ? SOLID : OPEN;
    }
    return row;
  });
  return groundOfCells(name, cells, cell, {}, []);
}

/** Images with several pixels a byte (1, 2 or 4 bits, grey or by palette). */
function readPacked(name: string, image: ReturnType<typeof decode>, cell: number, threshold: number): Reading<Imported> {
  const { width, height, data, depth, palette } = image;
  const rowBytes = Math.ceil((width * depth) / 8);
  const most = 2 ** depth - 1;
  const cells = Array.from({ length: height }, (_, y) => {
    let row = '';
    for (let x = 0; x < width; x++) {
      const bit = x * depth;
      const value = ((data[y * rowBytes + (bit >> 3)] as number) >> (8 - depth - (bit & 7))) & most;
      const entry = palette?.[value];
      const light = entry ? luminance(entry[0] as number, entry[1] as number, entry[2] as number) / 255 : value / most;
      row += light < threshold ? SOLID : OPEN;
    }
    return row;
  });
  return groundOfCells(name, cells, cell, {}, []);
}

/** Relative luminance of an sRGB colour by the weights of ITU-R BT.709, without its curve: enough for a threshold. */
function luminance(red: number, green: number, blue: number): number {
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

/** A pixel a cell: solid black, open white, surfaces the paler the faster. */
export function writePng(ground: Ground): Exported {
  const cells = wholeCells(ground);
  const [width, height] = [cells[0]?.length ?? 1, cells.length];
  const data = new Uint8Array(width * height);
  cells.forEach((row, y) => {
    for (let x = 0; x < width; x++) {
      const mark = row[x] as string;
      data[y * width + x] =
        mark === SOLID ? 0 : mark === OPEN ? 255 : 160 + Math.round(Math.min(1, ground.surfaces[mark]?.speed ?? 1) * 80);
    }
  });
  const lost = beyondCells(ground);
  if (Object.keys(ground.surfaces).length > 0) lost.push('surfaces, which are read back as open');
  return { content: encode({ width, height, data, channels: 1, depth: 8 }), lost: [...lost, 'the size of a cell'] };
}
