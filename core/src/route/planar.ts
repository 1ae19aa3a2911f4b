import { orient2d } from 'robust-predicates';
import { bucketSegments, WallIndex } from '../ground/wallIndex.ts';

/**
 * Straight sides between points on a whole-number lattice. `windings[k]` says how many times more the outlines wind round
 * what lies to the left of side k (from `from[k]` to `to[k]`, y upwards) than round what lies to its right.
 */
export interface PlanarGraph {
  x: number[];
  y: number[];
  from: number[];
  to: number[];
  windings: number[];
}

/** Two whole numbers as one: exact while the first is below 2²⁶ and the second within ±2²⁵. */
const WIDE = 2 ** 27;

/** Collects sides by their end points; points on the same place are one, sides between the same points are one. */
class Collector {
  readonly graph: PlanarGraph = { x: [], y: [], from: [], to: [], windings: [] };
  readonly #points = new Map<number, number>();
  readonly #sides = new Map<number, number>();

  point(x: number, y: number): number {
    const key = x * WIDE + y;
    const known = this.#points.get(key);
    if (known !== undefined) return known;
    const { graph } = this;
    const id = graph.x.length;
    graph.x.push(x);
    graph.y.push(y);
    this.#points.set(key, id);
    return id;
  }

  side(a: number, b: number, winding: number): void {
    if (a === b) return;
    const { graph } = this;
    const [low, high] = a < b ? [a, b] : [b, a];
    const key = low * WIDE + high;
    const signed = a < b ? winding : -winding;
    const known = this.#sides.get(key);
    if (known !== undefined) {
      graph.windings[known] = (graph.windings[known] as number) + signed;
      return;
    }
    this.#sides.set(key, graph.from.length);
    graph.from.push(low);
    graph.to.push(high);
    graph.windings.push(signed);
  }
}

/** Rounds of splitting after which sides that still cross are given up; two or three are usual. */
const ROUNDS = 12;

/**
 * Loops (x, y, x, y, … on the lattice) as a graph in which sides meet at their ends only: sides are split where they cross or
 * touch, crossings are rounded to the lattice, and what that rounding makes cross is split again (iterated snap rounding,
 * Halperin and Packer 2002). `frame` loops count no winding. Throws when it does not come to an end.
 */
export function planarGraph(loops: readonly (readonly number[])[], frame: readonly number[]): PlanarGraph {
  const first = new Collector();
  const add = (loop: readonly number[], winding: number) => {
    const ids: number[] = [];
    for (let i = 0; i < loop.length; i += 2) ids.push(first.point(loop[i] as number, loop[i + 1] as number));
    ids.forEach((id, i) => {
      first.side(id, ids[(i + 1) % ids.length] as number, winding);
    });
  };
  for (const loop of loops) add(loop, 1);
  add(frame, 0);
  let graph = first.graph;
  for (let round = 0; round < ROUNDS; round++) {
    const split = splitCrossings(graph);
    if (!split) return graph;
    graph = split;
  }
  throw new Error('the outlines could not be laid out: their sides cross too closely');
}

/** The graph with every side split at the points where others cross or touch it; null where none do. */
function splitCrossings(graph: PlanarGraph): PlanarGraph | null {
  const { x, y, from, to } = graph;
  const segments = new Float64Array(from.length * 4);
  from.forEach((a, k) => {
    const b = to[k] as number;
    segments.set([x[a] as number, y[a] as number, x[b] as number, y[b] as number], k * 4);
  });
  const index = new WallIndex(bucketSegments(segments));
  /** By side, the points at which it is split: x, y, x, y, … */
  const splits = new Map<number, number[]>();
  const splitAt = (side: number, px: number, py: number) => {
    const points = splits.get(side);
    if (points) points.push(px, py);
    else splits.set(side, [px, py]);
  };
  for (let k = 0, i = 0; k < from.length; k++, i += 4) {
    const [ax, ay, bx, by] = [segments[i], segments[i + 1], segments[i + 2], segments[i + 3]] as [number, number, number, number];
    index.near(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
    for (let f = 0; f < index.count; f++) {
      const other = index.found[f] as number;
      if (other > k) cross(segments, k, other, splitAt);
    }
  }
  if (splits.size === 0) return null;
  const next = new Collector();
  for (let k = 0; k < from.length; k++) {
    const [a, b] = [from[k] as number, to[k] as number];
    const way = [x[a] as number, y[a] as number, ...alongSide(graph, a, b, splits.get(k)), x[b] as number, y[b] as number];
    let last = next.point(way[0] as number, way[1] as number);
    for (let i = 2; i < way.length; i += 2) {
      const id = next.point(way[i] as number, way[i + 1] as number);
      next.side(last, id, graph.windings[k] as number);
      last = id;
    }
  }
  return next.graph;
}

/** The points that split a side, in the order in which they lie on it. */
function alongSide({ x, y }: PlanarGraph, a: number, b: number, points: number[] | undefined): number[] {
  if (!points) return [];
  const [dx, dy] = [(x[b] as number) - (x[a] as number), (y[b] as number) - (y[a] as number)];
  const pairs = Array.from({ length: points.length / 2 }, (_, i) => [points[i * 2] as number, points[i * 2 + 1] as number] as const);
  return pairs
    .map(([px, py]) => ({ px, py, along: (px - (x[a] as number)) * dx + (py - (y[a] as number)) * dy }))
    .sort((p, q) => p.along - q.along)
    .flatMap(({ px, py }) => [px, py]);
}

/** Tells the points at which two sides have to be split, if they share more than an end. */
function cross(s: Float64Array, k: number, other: number, splitAt: (side: number, px: number, py: number) => void): void {
  const [i, j] = [k * 4, other * 4];
  const [ax, ay, bx, by] = [s[i], s[i + 1], s[i + 2], s[i + 3]] as [number, number, number, number];
  const [cx, cy, dx, dy] = [s[j], s[j + 1], s[j + 2], s[j + 3]] as [number, number, number, number];
  if (Math.max(ax, bx) < Math.min(cx, dx) || Math.max(cx, dx) < Math.min(ax, bx)) return;
  if (Math.max(ay, by) < Math.min(cy, dy) || Math.max(cy, dy) < Math.min(ay, by)) return;
  const c = orient2d(ax, ay, bx, by, cx, cy);
  const d = orient2d(ax, ay, bx, by, dx, dy);
  if ((c > 0 && d > 0) || (c < 0 && d < 0)) return;
  const a = orient2d(cx, cy, dx, dy, ax, ay);
  const b = orient2d(cx, cy, dx, dy, bx, by);
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

/** Whether a point on the line of a side lies between its ends and on neither. */
function isWithin(ax: number, ay: number, bx: number, by: number, px: number, py: number): boolean {
  const along = (px - ax) * (bx - ax) + (py - ay) * (by - ay);
  return along > 0 && along < (bx - ax) * (bx - ax) + (by - ay) * (by - ay);
}
