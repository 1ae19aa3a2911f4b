import { csvParseRows } from 'd3-dsv';
import { gaits } from '../motion/codes.ts';
import type { Trace } from '../motion/trace.ts';

/** The columns of a game's trace that are held against the model's, and the stage that makes each. */
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
  /** What the model and the game have there, and how far apart they are. */
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
  /** Rows that one of both has more than the other. */
  left: number;
}

/** The rows of a trace as a game writes it (CSV with a head): by columns that are known; or what is wrong with it. */
function readRows(text: string): { columns: Compared[]; ticks: number[]; rows: number[][] } | string {
  const [head, ...lines] = csvParseRows(text);
  if (!head) return 'found nothing, expected CSV with a head';
  const places = order.map((column) => head.indexOf(column));
  const columns = order.filter((_, i) => (places[i] ?? -1) >= 0);
  if (columns.length === 0) return `found the columns ${head.slice(0, 12).join(', ')}, expected some of ${order.join(', ')}`;
  const at = head.indexOf('tick');
  const rows: number[][] = [];
  const ticks: number[] = [];
  for (const [i, line] of lines.entries()) {
    if (line.every((cell) => cell === '')) continue;
    const values = columns.map((column) => {
      const cell = line[head.indexOf(column)] ?? '';
      return column === 'gait' && !/^-?\d/.test(cell) ? gaits.indexOf(cell as never) : cell === '' ? Number.NaN : Number(cell);
    });
    const bad = values.findIndex((value) => !Number.isFinite(value));
    if (bad >= 0)
      return `line ${i + 2}, ${columns[bad]}: found ${line[head.indexOf(columns[bad] as string)] || 'nothing'}, expected a number`;
    rows.push(values);
    ticks.push(at >= 0 ? Number(line[at]) : i);
  }
  return { columns, ticks, rows };
}

/** How far two values are apart; angles the shorter way round. */
const apart = (column: Compared, a: number, b: number) =>
  column === 'facing' ? Math.abs(((((a - b) % 360) + 540) % 360) - 180) : Math.abs(a - b);

/**
 * Holds a game's trace against the model's on the same hands, row by row by their ticks: where they part first, by which stage that looks like
 * (the first in the order of a tick whose column is off), and where most. `slack` counts as the same, relative above 1.
 */
export function verifyTrace(model: Trace, text: string, slack: number): Verified | string {
  const read = readRows(text);
  if (typeof read === 'string') return read;
  const { columns, ticks, rows } = read;
  const tickOf = (row: number) => Math.round(model.at('tick', row));
  const byTick = new Map<number, number>();
  for (let row = model.first; row < model.end; row++) byTick.set(tickOf(row), row);
  let first: Verified['first'] = null;
  const most = new Map<Compared, Parted>();
  let compared = 0;
  for (const [i, values] of rows.entries()) {
    const row = byTick.get(ticks[i] as number);
    if (row === undefined) continue;
    compared++;
    for (const [j, column] of columns.entries()) {
      const [mine, game] = [model.at(column, row), values[j] as number];
      const by = apart(column, mine, game);
      if (by <= slack * Math.max(1, Math.abs(mine))) continue;
      const parted: Parted = { tick: ticks[i] as number, time: model.at('time', row), column, model: mine, game, by };
      if (!first) first = { ...parted, stage: stages[column] };
      if (by > (most.get(column)?.by ?? 0)) most.set(column, parted);
    }
  }
  return {
    rows: compared,
    columns,
    first,
    most: [...most.values()].sort((a, b) => b.by - a.by),
    left: Math.abs(model.end - model.first - rows.length),
  };
}
