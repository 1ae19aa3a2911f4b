import { decode, encode } from 'fast-png';
import { Unzlib } from 'fflate';
import type { Reading } from '../../document/fault.ts';
import { type Ground, OPEN, SOLID } from '../../ground/ground.ts';
import { most } from './budget.ts';
import { beyondCells, type Exported, groundOfCells, type Imported, OPEN_CODE, refused, rowOf, SOLID_CODE, wholeCells } from './imported.ts';

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Width and height from the file's header, before anything is unpacked; null if it isn't a PNG. */
function sizeOf(bytes: Uint8Array): { width: number; height: number } | null {
  if (bytes.length < 24 || SIGNATURE.some((byte, i) => bytes[i] !== byte)) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

/** Chunks that make up the pixels; all others are left out, whatever they hold or unpack to. */
const NEEDED = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);

/** A PNG with nothing but what makes up its pixels; null if its chunks are broken, or its pixels unpack to too much. */
function bare(bytes: Uint8Array): Uint8Array | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts = [bytes.subarray(0, 8)];
  const packed: Uint8Array[] = [];
  for (let at = 8; at + 12 <= bytes.length; ) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (at + 12 + length > bytes.length) return null;
    if (NEEDED.has(type)) parts.push(bytes.subarray(at, at + 12 + length));
    if (type === 'IDAT') packed.push(bytes.subarray(at + 8, at + 8 + length));
    if (type === 'IEND') break;
    at += 12 + length;
  }
  if (!unpacksWithin(packed, unpackedSize(view))) return null;
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let end = 0;
  for (const part of parts) {
    whole.set(part, end);
    end += part.length;
  }
  return whole;
}

/** Unpacked size of a picture's rows in bytes (PNG specification, 7.2), a little more for interlaced ones; 0 for an invalid kind. */
function unpackedSize(header: DataView): number {
  const samples = [1, 0, 3, 1, 2, 0, 4][header.getUint8(25)] ?? 0;
  const [width, height, depth] = [header.getUint32(16), header.getUint32(20), header.getUint8(24)];
  return samples === 0 ? 0 : (Math.ceil((width * depth * samples) / 8) + 1) * height * (header.getUint8(28) === 1 ? 2 : 1) + 1024;
}

/** Bytes that are unpacked at a time. */
const STEP = 8192;

/** True if packed bytes unpack, and to no more than a size: it is counted as they come, and nothing is kept. */
function unpacksWithin(packed: readonly Uint8Array[], size: number): boolean {
  if (size === 0 || size > most.unpacked) return false;
  let count = 0;
  const unpack = new Unzlib((chunk) => {
    count += chunk.length;
  });
  try {
    for (const part of packed)
      for (let at = 0; at < part.length; at += STEP) {
        // A copy: the unpacker keeps what it is given.
        unpack.push(part.slice(at, at + STEP));
        if (count > size) return false;
      }
    return count > 0;
  } catch {
    return false;
  }
}

function decoded(bytes: Uint8Array): ReturnType<typeof decode> | null {
  try {
    const picture = bytes.length < 33 ? null : bare(bytes);
    return picture && decode(picture);
  } catch {
    return null;
  }
}

/** Reads a PNG: pixels darker than `threshold` (0 to 1) are solid cells, clear ones are open. A pixel is a cell. */
export function readPng(name: string, bytes: Uint8Array, cell: number, threshold = 0.5): Reading<Imported> {
  const size = sizeOf(bytes);
  if (!size) return refused('', 'something else', 'a PNG image');
  if (size.width > most.side || size.height > most.side)
    return refused('size', `${size.width} × ${size.height} pixels`, `at most ${most.side} × ${most.side}`);
  const image = decoded(bytes);
  if (!image) return refused('', 'a broken PNG, or one that unpacks to more than its pixels', 'a whole PNG image');
  const { width, height, channels, depth } = image;
  if (depth < 8) return readPacked(name, image, cell, threshold);
  const solid = solidity(image, threshold);
  const cells = Array.from({ length: height }, (_, y) => rowOf(width, (x) => (solid((y * width + x) * channels) ? SOLID_CODE : OPEN_CODE)));
  return groundOfCells(name, cells, cell, {}, []);
}

/** Says of a place in the data whether its pixel is solid: dark, and not clear. */
function solidity({ data, channels, palette, depth }: ReturnType<typeof decode>, threshold: number): (at: number) => boolean {
  const full = depth === 16 ? 65535 : 255;
  const [dark, seen] = [threshold * full, 0.5 * full];
  if (palette) {
    const solid = palette.map(
      ([red = 0, green = 0, blue = 0, alpha = 255]) => alpha >= 127.5 && luminance(red, green, blue) < threshold * 255,
    );
    return (at) => solid[data[at] as number] ?? true;
  }
  if (channels === 1) return (at) => (data[at] as number) < dark;
  if (channels === 2) return (at) => (data[at + 1] as number) >= seen && (data[at] as number) < dark;
  const light = (at: number) => luminance(data[at] as number, data[at + 1] as number, data[at + 2] as number);
  return channels === 3 ? (at) => light(at) < dark : (at) => (data[at + 3] as number) >= seen && light(at) < dark;
}

/** Images with several pixels a byte (1, 2 or 4 bits, grey or by palette). */
function readPacked(name: string, image: ReturnType<typeof decode>, cell: number, threshold: number): Reading<Imported> {
  const { width, height, data, depth, palette } = image;
  const rowBytes = Math.ceil((width * depth) / 8);
  const most = 2 ** depth - 1;
  const cells = Array.from({ length: height }, (_, y) =>
    rowOf(width, (x) => {
      const bit = x * depth;
      const value = ((data[y * rowBytes + (bit >> 3)] as number) >> (8 - depth - (bit & 7))) & most;
      const entry = palette?.[value];
      const light = entry ? luminance(entry[0] as number, entry[1] as number, entry[2] as number) / 255 : value / most;
      return light < threshold ? SOLID_CODE : OPEN_CODE;
    }),
  );
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
