import { dsvFormat } from 'd3-dsv';
import { PI } from '../../math/functions.ts';

/** A recording of a motion: times (s, rising) and places (in the tuning’s unit, y downwards), and the facing (radians) if it has one. */
export interface Recording {
  times: Float64Array;
  x: Float64Array;
  y: Float64Array;
  facing: Float64Array | null;
  /** How columns were read, and which rows were left out, in words. */
  notes: string[];
}

export interface RecordingOptions {
  /** Units of the tuning in one of the recording: 1 for px and m, N for tiles of N px. */
  scale?: number;
  /** True if y grows upwards. */
  isYUp?: boolean;
}

/** Rows that are used at most: of more, evenly spread ones, as long as there are enough a second; then the first ones. */
const MOST_ROWS = 3000;
const ENOUGH = 50;
/** Rows without which nothing can be told. */
const FEWEST_ROWS = 8;
/** The share of rows that may lack a number. */
const MOST_MISSING = 0.5;
/** Ticks a second of a recording that has ticks in place of times. */
const TICKS = 60;
/** A median step between times from which on these are milliseconds. */
const MILLISECONDS = 2;

const delimiters = [',', ';', '\t', '|'] as const;

/** Names of columns, in the order in which they are preferred. */
const names = {
  time: ['time', 't', 'seconds', 'sec', 's', 'timestamp', 'time_s', 'times', 'elapsed', 'ms', 'time_ms', 'millis'],
  tick: ['tick', 'frame', 'ticks', 'frames', 'step', 'index'],
  x: ['x', 'pos_x', 'posx', 'position_x', 'positionx', 'px', 'world_x', 'x_px', 'x_m'],
  y: ['y', 'pos_y', 'posy', 'position_y', 'positiony', 'py', 'world_y', 'y_px', 'y_m'],
  z: ['z', 'pos_z', 'posz', 'position_z', 'positionz', 'pz', 'world_z'],
  facing: ['facing', 'heading', 'angle', 'rotation', 'yaw', 'dir'],
} as const;

const plain = (name: string): string =>
  name
    .trim()
    .toLowerCase()
    .replace(/[\s.\-[\]()]+/g, '_')
    .replace(/^_+|_+$/g, '');

type Table = { columns: string[]; rows: (name: string) => number[] } | string;

const numberIn = (cell: string | undefined, isComma: boolean): number => {
  const text = (cell ?? '').trim();
  return text === '' ? Number.NaN : Number(isComma ? text.replace(',', '.') : text);
};

/** The table of a text of JSON lines, or of a JSON list of objects. */
function jsonTable(text: string): Table {
  const objects: Record<string, unknown>[] = [];
  try {
    if (text.trimStart().startsWith('[')) objects.push(...(JSON.parse(text) as Record<string, unknown>[]));
    else
      for (const [i, line] of text.split('\n').entries()) {
        if (line.trim() === '') continue;
        try {
          objects.push(JSON.parse(line) as Record<string, unknown>);
        } catch {
          return `line ${i + 1}: found no JSON object, expected one in each line`;
        }
      }
  } catch {
    return 'found JSON that can’t be read, expected an object in each line';
  }
  const columns = [...new Set(objects.slice(0, 50).flatMap((one) => Object.keys(one ?? {})))];
  return {
    columns,
    rows: (name) => objects.map((one) => (typeof one?.[name] === 'number' ? (one[name] as number) : Number.NaN)),
  };
}

/** The table of a CSV, whatever its delimiter and decimal mark. */
function csvTable(text: string): Table {
  const head = text.split(/\r?\n/, 20).filter((line) => line.trim() !== '' && !line.startsWith('#'));
  if (head.length === 0) return 'found nothing, expected times and places as CSV or JSON lines';
  const counts = delimiters.map((delimiter) => Math.min(...head.map((line) => line.split(delimiter).length)));
  const best = counts.indexOf(Math.max(...counts));
  if ((counts[best] ?? 0) < 2) return 'found one column, expected times and places as CSV or JSON lines';
  const delimiter = delimiters[best] as string;
  const body = text
    .split(/\r?\n/)
    .filter((line) => !line.startsWith('#'))
    .join('\n');
  const all = dsvFormat(delimiter)
    .parseRows(body)
    .filter((row) => row.some((cell) => cell.trim() !== ''));
  const isComma = delimiter !== ',' && all.slice(0, 50).some((row) => row.some((cell) => /^\s*-?\d+,\d+\s*$/.test(cell)));
  const hasHead = (all[0] ?? []).every((cell) => !Number.isFinite(numberIn(cell, isComma)));
  const columns = hasHead ? (all[0] ?? []) : (all[0] ?? []).map((_, i) => ['time', 'x', 'y'][i] ?? `column ${i + 1}`);
  const rows = hasHead ? all.slice(1) : all;
  return { columns, rows: (name) => rows.map((row) => numberIn(row[columns.indexOf(name)], isComma)) };
}

/** Reads a recording from CSV or JSON lines; or returns why it can’t be used, in words. */
export function readRecording(text: string, { scale = 1, isYUp = false }: RecordingOptions = {}): Recording | string {
  const table = /^\s*[[{]/.test(text) ? jsonTable(text) : csvTable(text.replace(/^﻿/, ''));
  if (typeof table === 'string') return table;
  const find = (kind: keyof typeof names) => {
    for (const name of names[kind]) {
      const hit = table.columns.find((column) => plain(column) === name);
      if (hit !== undefined) return hit;
    }
    return undefined;
  };
  const notes: string[] = [];
  const [time, tick, x, facing] = [find('time'), find('tick'), find('x'), find('facing')];
  const y = find('y') !== undefined && !(find('z') !== undefined && isFlat(table.rows(find('y') as string))) ? find('y') : find('z');
  if (x === undefined || y === undefined)
    return `found the columns ${table.columns.slice(0, 8).join(', ')}, expected x and y (or x and z) among them`;
  if (time === undefined && tick === undefined)
    return `found the columns ${table.columns.slice(0, 8).join(', ')}, expected time or tick among them`;
  let times = table.rows((time ?? tick) as string);
  if (time === undefined) {
    notes.push(`${tick} counts ticks of 1/${TICKS} s`);
    times = times.map((count) => count / TICKS);
  }
  const [xs, ys] = [table.rows(x), table.rows(y)];
  const angles = facing === undefined ? null : table.rows(facing);
  const kept = [...times.keys()].filter((i) => [times, xs, ys].every((column) => Number.isFinite(column[i])));
  const missing = times.length - kept.length;
  if (missing > MOST_MISSING * times.length)
    return `found ${missing} of ${times.length} rows without a number for ${time ?? tick}, ${x} or ${y}`;
  if (missing > 0) notes.push(`${missing} rows without numbers were left out`);
  if (kept.length < FEWEST_ROWS) return `found ${kept.length} rows, expected ${FEWEST_ROWS} or more`;
  const back = kept.findIndex((row, i) => i > 0 && (times[row] as number) < (times[kept[i - 1] as number] as number));
  if (back >= 0) return `row ${(kept[back] as number) + 1}: found a time before that of the row above, expected rising times`;
  const distinct = kept.filter((row, i) => i === 0 || (times[row] as number) > (times[kept[i - 1] as number] as number));
  if (distinct.length < kept.length) notes.push(`${kept.length - distinct.length} rows with the time of the row above were left out`);
  if (distinct.length < FEWEST_ROWS) return `found ${distinct.length} different times, expected ${FEWEST_ROWS} or more`;
  const steps = distinct.slice(1).map((row, i) => (times[row] as number) - (times[distinct[i] as number] as number));
  const isMilliseconds = time !== undefined && (/ms|milli/.test(plain(time)) || median(steps) > MILLISECONDS);
  if (isMilliseconds) notes.push(`${time} is in milliseconds`);
  const seconds = isMilliseconds ? 0.001 : 1;
  const stride = Math.max(1, Math.min(Math.ceil(distinct.length / MOST_ROWS), Math.floor(1 / (median(steps) * seconds * ENOUGH))));
  const spread = distinct.filter((_, i) => i % stride === 0);
  const rows = spread.slice(0, MOST_ROWS);
  if (stride > 1) notes.push(`one of every ${stride} rows was used, of ${distinct.length}`);
  const column = (values: readonly number[], factor = 1) => Float64Array.from(rows, (row) => (values[row] as number) * factor);
  if (rows.length < spread.length) {
    const used = ((times[rows.at(-1) as number] as number) - (times[rows[0] as number] as number)) * seconds;
    notes.push(`the first ${used.toFixed(0)} s were used`);
  }
  return {
    times: column(times, seconds),
    x: column(xs, scale),
    y: column(ys, isYUp ? -scale : scale),
    facing: angles && rows.every((row) => Number.isFinite(angles[row])) ? column(angles, ((isYUp ? -1 : 1) * PI) / 180) : null,
    notes,
  };
}

const isFlat = (values: readonly number[]): boolean => {
  const known = values.filter(Number.isFinite);
  return known.length > 0 && Math.max(...known.slice(0, 5000)) === Math.min(...known.slice(0, 5000));
};

/** The middle of some values. */
export function median(values: readonly number[] | Float64Array): number {
  const sorted = Float64Array.from(values).sort();
  const half = sorted.length >> 1;
  if (sorted.length === 0) return Number.NaN;
  return sorted.length % 2 === 1 ? (sorted[half] as number) : ((sorted[half - 1] as number) + (sorted[half] as number)) / 2;
}
