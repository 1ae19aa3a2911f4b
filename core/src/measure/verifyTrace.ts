import { csvParseRows } from 'd3-dsv';
import { turnTo } from '../math/angles.ts';
import { gaits } from '../motion/codes.ts';
import type { Trace } from '../motion/trace.ts';

/** The columns of a game's trace that are compared with the model's, and the stage that makes each. */
const stages = {
  stamina: 'gait and stamina',
  gait: 'gait and stamina',
  vx: 'velocity',
  vy: 'velocity',
  speed: 'velocity',
  x: 'contact and bounds',
  y: 'contact and bounds',
  facing: 'facing',
} as const;
type Compared = keyof typeof stages;
const order = Object.keys(stages) as Compared[];

/** Where a game's trace is not the model's. */
export interface Parted {
  /** The tick (−1: the start), and its end, s. */
  tick: number;
  time: number;
  column: Compared;
  /** The values of the model and of the game there, and their difference. */
  model: number;
  game: number;
  by: number;
}

export interface Verified {
  /** Rows that were compared, and columns. */
  rows: number;
  columns: Compared[];
  /** The first row in which they part; null: they never do. */
  first: (Parted & { stage: string }) | null;
  /** Where each column is the farthest apart, in units of the column. */
  most: Parted[];
  /** Rows that only one of both has (the start apart). */
  left: number;
  /** Of these, ticks that the game has no row for, and the first of them. */
  missing: number;
  firstMissing: number | null;
}

/** A row of a game's trace: its tick (null: not given), and its values in the order of the columns. */
interface Row {
  tick: number | null;
  values: number[];
}

/** The number in a cell, whole or a fraction; NaN if it has none. */
const numberIn = (cell: string): number => (cell.trim() === '' ? Number.NaN : Number(cell));

/** The value of a cell; a gait by its number or its name. Or a description of the expected content. */
function valueIn(column: Compared, cell: string): number | string {
  const number = numberIn(cell);
  if (column !== 'gait') return Number.isFinite(number) ? number : 'a number';
  const gait = Number.isNaN(number) ? gaits.indexOf(cell.trim() as (typeof gaits)[number]) : number;
  return gaits[gait] === undefined ? `one of ${gaits.join(', ')}, or its number` : gait;
}

/** The rows of a trace in a game's notation (CSV with a heading), by rising ticks; or its fault. */
function readRows(text: string): { columns: Compared[]; rows: Row[] } | string {
  const [head, ...lines] = csvParseRows(text);
  if (!head) return 'found nothing, expected CSV with a head';
  const columns = order.filter((column) => head.includes(column));
  if (columns.length === 0) return `found the columns ${head.slice(0, 12).join(', ')}, expected some of ${order.join(', ')}`;
  const at = head.indexOf('tick');
  const rows: Row[] = [];
  const seen = new Set<number>();
  for (const [i, line] of lines.entries()) {
    if (line.every((cell) => cell === '')) continue;
    const refused = (column: string, cell: string, expected: string) =>
      `line ${i + 2}, ${column}: found ${cell || 'nothing'}, expected ${expected}`;
    const values: number[] = [];
    for (const column of columns) {
      const cell = line[head.indexOf(column)] ?? '';
      const value = valueIn(column, cell);
      if (typeof value === 'string') return refused(column, cell, value);
      values.push(value);
    }
    const tick = at < 0 ? null : numberIn(line[at] ?? '');
    if (tick !== null && !Number.isInteger(tick)) return refused('tick', line[at] ?? '', 'a whole number');
    if (tick !== null && seen.has(tick)) return refused('tick', `${tick} a second time`, 'each tick once');
    if (tick !== null) seen.add(tick);
    rows.push({ tick, values });
  }
  return { columns, rows: at < 0 ? rows : rows.sort((a, b) => (a.tick as number) - (b.tick as number)) };
}

/** The difference of two values; of angles in the shorter direction. */
const apart = (column: Compared, a: number, b: number) => (column === 'facing' ? Math.abs(turnTo(b, a)) : Math.abs(a - b));

/**
 * Compares a game's trace with the model's on the same hands, row by row by their ticks: where they part first, by which stage that looks like
 * (the first in the order of a tick whose column is off), and where most. `slack` counts as the same, relative above 1. Without a column of ticks the
 * rows have to be as many as the model's, with or without the start (tick −1).
 */
export function verifyTrace(model: Trace, text: string, slack: number): Verified | string {
  const read = readRows(text);
  if (typeof read === 'string') return read;
  const { columns, rows } = read;
  const byTick = new Map<number, number>();
  for (let row = model.first; row < model.end; row++) byTick.set(Math.round(model.at('tick', row)), row);
  const begin = Math.round(model.at('tick', model.first));
  const isWhole = rows.length === byTick.size;
  if (rows[0]?.tick === null && !isWhole && rows.length !== byTick.size - 1)
    return `found ${rows.length} rows without a column tick, expected that column, or ${byTick.size} rows (${byTick.size - 1} without the start)`;
  let first: Verified['first'] = null;
  const most = new Map<Compared, Parted>();
  const compared = new Set<number>();
  for (const [i, { tick: given, values }] of rows.entries()) {
    const tick = given ?? begin + i + (isWhole ? 0 : 1);
    const row = byTick.get(tick);
    if (row === undefined) continue;
    compared.add(tick);
    for (const [j, column] of columns.entries()) {
      const [mine, game] = [model.at(column, row), values[j] as number];
      const by = apart(column, mine, game);
      if (by <= slack * Math.max(1, Math.abs(mine))) continue;
      const parted: Parted = { tick, time: model.at('time', row), column, model: mine, game, by };
      if (!first) first = { ...parted, stage: stages[column] };
      if (by > (most.get(column)?.by ?? 0)) most.set(column, parted);
    }
  }
  const missing = [...byTick.keys()].filter((tick) => tick >= 0 && !compared.has(tick));
  return {
    rows: compared.size,
    columns,
    first,
    most: [...most.values()].sort((a, b) => b.by - a.by),
    left: missing.length + rows.length - compared.size,
    missing: missing.length,
    firstMissing: missing[0] ?? null,
  };
}
