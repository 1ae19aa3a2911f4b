import { bucketSegments, WallIndex } from '../ground/wallIndex.ts';
import { orient } from './lattice.ts';
import { PairIndex } from './pairIndex.ts';

/**
 * Straight sides between points on a whole-number lattice. `windings[k]` is the winding number to the left of side k (from `from[k]` to `to[k]`, y
 * upwards), less the one to its right.
 */
export interface PlanarGraph {
  x: number[];
  y: number[];
  from: number[];
  to: number[];
  windings: number[];
}

/** Sides with their ends, and points by their places: points on the same place are one, sides between the same points are one. */
class Collector {
  readonly graph: PlanarGraph = { x: [], y: [], from: [], to: [], windings: [] };
  readonly #points = new PairIndex();
  #sides = new PairIndex();

  point(x: number, y: number): number {
    const id = this.#points.number(x, y);
    if (id === this.graph.x.length) {
      this.graph.x.push(x);
      this.graph.y.push(y);
    }
    return id;
  }

  side(a: number, b: number, winding: number): void {
    if (a === b) return;
    const { from, to, windings } = this.graph;
    const [low, high] = a < b ? [a, b] : [b, a];
    const signed = a < b ? winding : -winding;
    const id = this.#sides.number(low, high);
    if (id === from.length) {
      from.push(low);
      to.push(high);
      windings.push(signed);
    } else windings[id] = (windings[id] as number) + signed;
  }

  /** Splits sides at points (by side: x, y, x, y, …); those that are whole come first. How many those are. */
  split(splits: ReadonlyMap<number, number[]>): number {
    const { graph } = this;
    const { from, to, windings } = graph;
    graph.from = [];
    graph.to = [];
    graph.windings = [];
    this.#sides = new PairIndex();
    for (let k = 0; k < from.length; k++) if (!splits.has(k)) this.side(from[k] as number, to[k] as number, windings[k] as number);
    const whole = graph.from.length;
    for (const [k, points] of splits) {
      const [a, b] = [from[k] as number, to[k] as number];
      let last = a;
      for (const [x, y] of alongSide(graph, a, b, points)) {
        const id = this.point(x, y);
        this.side(last, id, windings[k] as number);
        last = id;
      }
      this.side(last, b, windings[k] as number);
    }
    return whole;
  }
}

/** Rounds of splitting after which sides that still cross are given up; two or three are usual. */
const ROUNDS = 12;

/**
 * Loops (x, y, x, y, … on the lattice) as a graph in which sides meet at their ends only. Sides are split where they cross or touch, crossings are
 * rounded to the lattice, and new crossings from that rounding are split again (iterated snap rounding, Halperin and Packer 2002). `frame` loops
 * count no winding. Throws if it does not terminate.
 */
export function planarGraph(loops: readonly (readonly number[])[], frame: readonly number[]): PlanarGraph {
  const collector = new Collector();
  const add = (loop: readonly number[], winding: number) => {
    const ids: number[] = [];
    for (let i = 0; i < loop.length; i += 2) ids.push(collector.point(loop[i] as number, loop[i + 1] as number));
    ids.forEach((id, i) => {
      collector.side(id, ids[(i + 1) % ids.length] as number, winding);
    });
  };
  for (const loop of loops) add(loop, 1);
  add(frame, 0);
  // Sides before `whole` are known not to cross one another.
  let whole = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const splits = crossings(collector.graph, whole);
    if (splits.size === 0) return collector.graph;
    whole = collector.split(splits);
  }
  throw new Error('the outlines could not be laid out: their sides cross too closely');
}

/** By side, the points at which it has to be split because another one crosses or touches it; sides before `whole` are not tried with one another. */
function crossings({ x, y, from, to }: PlanarGraph, whole: number): Map<number, number[]> {
  const segments = new Float64Array(from.length * 4);
  for (let k = 0, i = 0; k < from.length; k++, i += 4) {
    const [a, b] = [from[k] as number, to[k] as number];
    segments[i] = x[a] as number;
    segments[i + 1] = y[a] as number;
    segments[i + 2] = x[b] as number;
    segments[i + 3] = y[b] as number;
  }
  const index = new WallIndex(bucketSegments(segments));
  const splits = new Map<number, number[]>();
  const splitAt = (side: number, px: number, py: number) => {
    const points = splits.get(side);
    if (points) points.push(px, py);
    else splits.set(side, [px, py]);
  };
  for (let k = whole, i = whole * 4; k < from.length; k++, i += 4) {
    const [ax, ay, bx, by] = [segments[i], segments[i + 1], segments[i + 2], segments[i + 3]] as [number, number, number, number];
    index.near(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
    for (let f = 0; f < index.count; f++) {
      const other = index.found[f] as number;
      if (other > k || other < whole) cross(segments, k, other, splitAt);
    }
  }
  return splits;
}

/** The points that split a side, in the order in which they lie on it. */
function alongSide({ x, y }: PlanarGraph, a: number, b: number, points: readonly number[]): [number, number][] {
  const [ax, ay] = [x[a] as number, y[a] as number];
  const [dx, dy] = [(x[b] as number) - ax, (y[b] as number) - ay];
  const along = ([px, py]: [number, number]) => (px - ax) * dx + (py - ay) * dy;
  return Array.from({ length: points.length / 2 }, (_, i): [number, number] => [points[i * 2] as number, points[i * 2 + 1] as number]).sort(
    (p, q) => along(p) - along(q),
  );
}

/** Calls back with the points at which two sides must be split, if they share more than an end. */
function cross(s: Float64Array, k: number, other: number, splitAt: (side: number, px: number, py: number) => void): void {
  const [i, j] = [k * 4, other * 4];
  const [ax, ay, bx, by] = [s[i], s[i + 1], s[i + 2], s[i + 3]] as [number, number, number, number];
  const [cx, cy, dx, dy] = [s[j], s[j + 1], s[j + 2], s[j + 3]] as [number, number, number, number];
  if (Math.max(ax, bx) < Math.min(cx, dx) || Math.max(cx, dx) < Math.min(ax, bx)) return;
  if (Math.max(ay, by) < Math.min(cy, dy) || Math.max(cy, dy) < Math.min(ay, by)) return;
  const c = orient(ax, ay, bx, by, cx, cy);
  const d = orient(ax, ay, bx, by, dx, dy);
  if ((c > 0 && d > 0) || (c < 0 && d < 0)) return;
  const a = orient(cx, cy, dx, dy, ax, ay);
  const b = orient(cx, cy, dx, dy, bx, by);
  if ((a > 0 && b > 0) || (a < 0 && b < 0)) return;
  // An end of one within the other.
  if (c === 0 && isWithin(ax, ay, bx, by, cx, cy)) splitAt(k, cx, cy);
  if (d === 0 && isWithin(ax, ay, bx, by, dx, dy)) splitAt(k, dx, dy);
  if (a === 0 && isWithin(cx, cy, dx, dy, ax, ay)) splitAt(other, ax, ay);
  if (b === 0 && isWithin(cx, cy, dx, dy, bx, by)) splitAt(other, bx, by);
  if (a === 0 || b === 0 || c === 0 || d === 0) return;
  const share = a / (a - b);
  const px = Math.round(ax + (bx - ax) * share);
  const py = Math.round(ay + (by - ay) * share);
  // Rounded onto an end, a crossing still splits the other side there.
  if ((px !== ax || py !== ay) && (px !== bx || py !== by)) splitAt(k, px, py);
  if ((px !== cx || py !== cy) && (px !== dx || py !== dy)) splitAt(other, px, py);
}

/** True if a point on the line of a side lies between its ends and on neither. */
function isWithin(ax: number, ay: number, bx: number, by: number, px: number, py: number): boolean {
  const along = (px - ax) * (bx - ax) + (py - ay) * (by - ay);
  return along > 0 && along < (bx - ax) * (bx - ax) + (by - ay) * (by - ay);
}
