import { atan2, PI, wrapAngle } from '../math/functions.ts';
import type { CoursePath } from './coursePath.ts';

/** A stretch of a planned path: a bend or a straight piece. Distances in the ground's unit. */
export interface Stretch {
  from: number;
  to: number;
  /** `gate 2, turning back`, `straight to gate 3` */
  name: string;
  /** Directions of the path before and after a bend, rad; null for a straight piece. */
  turn: { into: number; out: number } | null;
}

/** Turn of the path (rad) that makes a bend, and that turns back. */
const BEND = PI / 9;
const BACK = (2 * PI) / 3;
/** Length of path before and after a bend that belongs to it, in body widths. */
const BESIDE = 3;
/** Straight pieces that are shorter, in body widths, belong to the bend before them. */
const SHORTEST = 1;

/** Corners of a path that are close to each other. */
interface Bend {
  from: number;
  to: number;
  into: number;
  out: number;
  /** Sum of all turns, to the right positive. */
  turn: number;
}

/** The bends of a path: its corners, those within a few body widths of each other as one. */
function bendsOf({ points }: CoursePath, width: number): Bend[] {
  const bends: Bend[] = [];
  let s = 0;
  let into = Number.NaN;
  for (let i = 1; i < points.length; i++) {
    const [[x0, y0], [x1, y1]] = [points[i - 1] as readonly [number, number], points[i] as readonly [number, number]];
    const size = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
    if (size === 0) continue;
    const out = atan2(y1 - y0, x1 - x0);
    const turn = Number.isNaN(into) ? 0 : wrapAngle(out - into);
    const last = bends.at(-1);
    if (Math.abs(turn) > 1e-3) {
      if (last && s - last.to < 2 * BESIDE * width) Object.assign(last, { to: s, out, turn: last.turn + turn });
      else bends.push({ from: s, to: s, into, out, turn });
    }
    into = out;
    s += size;
  }
  return bends.filter(({ turn }) => Math.abs(turn) > BEND);
}

/** `bend 2 of 3 before gate 4`: a name for the n-th of several pieces. */
const counted = (what: string, n: number, all: number): string => (all > 1 ? `${what} ${n} of ${all}` : what);

/**
 * Cuts a planned path into bends and the straight pieces between them, each with a name. `gates` is the number of gates in a lap, `width` that of the
 * body.
 */
export function stretchesOf(path: CoursePath, gates: number, width: number): Stretch[] {
  const bends = bendsOf(path, width);
  const lapOf = (crossing: number) => (path.gates.length > gates ? `, lap ${Math.floor(crossing / gates) + 1}` : '');
  const isFinish = (crossing: number) => crossing === path.gates.length - 1;
  const gateName = (crossing: number) => `gate ${(crossing % gates) + 1}`;
  const pieces: (Omit<Stretch, 'name'> & { crossing: number; back: boolean; isAtGate: boolean })[] = [];
  const straight = (from: number, to: number) => {
    let begin = from;
    for (const [crossing, end] of path.gates.entries()) {
      const until = Math.min(to, end);
      if (until <= begin) continue;
      const last = pieces.at(-1);
      if (until - begin < SHORTEST * width && last) last.to = until;
      else pieces.push({ from: begin, to: until, turn: null, crossing, back: false, isAtGate: false });
      begin = until;
    }
  };
  let end = 0;
  for (const [i, { from, to, into, out, turn }] of bends.entries()) {
    const next = bends[i + 1];
    const before = Math.max(end, from - BESIDE * width);
    const begin = before - end < SHORTEST * width ? end : before;
    straight(end, begin);
    end = Math.min(path.length, to + BESIDE * width, next ? (to + next.from) / 2 : Number.POSITIVE_INFINITY);
    // A bend at a gate has its name, any other that of the gate that comes next.
    const own = path.gates.findIndex((s) => s >= from - width && s <= to + width);
    const later = path.gates.findIndex((s) => s >= to);
    const crossing = own >= 0 ? own : later >= 0 ? later : path.gates.length - 1;
    pieces.push({ from: begin, to: end, turn: { into, out }, crossing, back: Math.abs(turn) > BACK, isAtGate: own >= 0 });
  }
  straight(end, path.length);
  const seen = new Map<string, number>();
  const kindOf = ({ crossing, turn, isAtGate }: (typeof pieces)[number]) =>
    `${crossing} ${turn ? (isAtGate ? 'gate' : 'bend') : 'straight'}`;
  return pieces.map((piece) => {
    const { crossing, turn, back, isAtGate, from, to } = piece;
    const kind = kindOf(piece);
    const n = (seen.get(kind) ?? 0) + 1;
    seen.set(kind, n);
    const all = pieces.filter((other) => kindOf(other) === kind).length;
    const goal = isFinish(crossing) ? 'the finish' : gateName(crossing);
    const name = !turn
      ? `${counted('straight', n, all)} to ${goal}`
      : isAtGate
        ? `${gateName(crossing)}, turning${back ? ' back' : ''}${all > 1 ? ` (${n} of ${all})` : ''}`
        : `${counted('bend', n, all)} before ${goal}`;
    return { from, to, turn, name: `${name}${lapOf(crossing)}` };
  });
}
