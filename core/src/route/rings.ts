import { nextEdge, type Triangulation } from './constrain.ts';
import { orient } from './lattice.ts';
import type { PlanarGraph } from './planar.ts';

/** Half-edges of the free places: the start of each, its successor round its polygon, and its twin (−1 at a wall). */
export interface Rings {
  origin: Int32Array;
  next: Int32Array;
  twin: Int32Array;
  /** 1 while a half-edge is part of a polygon. */
  alive: Uint8Array;
}

/** Takes away sides between free triangles, the longest first, as long as both corners stay convex. */
export function mergeConvex(graph: PlanarGraph, { triangles, halfedges }: Triangulation, free: Uint8Array): Rings {
  const size = triangles.length;
  const rings: Rings = {
    origin: new Int32Array(size),
    next: new Int32Array(size),
    twin: new Int32Array(size),
    alive: new Uint8Array(size),
  };
  const before = new Int32Array(size);
  // The library's triangles run clockwise with y upwards: reversed, a half-edge starts at its former end.
  for (let edge = 0; edge < size; edge++) {
    const follows = nextEdge(edge);
    rings.origin[edge] = triangles[follows] as number;
    rings.next[follows] = edge;
    before[edge] = follows;
    const twin = halfedges[edge] as number;
    rings.alive[edge] = free[Math.floor(edge / 3)] as number;
    rings.twin[edge] = twin >= 0 && free[Math.floor(twin / 3)] ? twin : -1;
  }
  const { origin, next, twin, alive } = rings;
  const inner = longestFirst(graph, rings);
  const turnsLeft = (a: number, b: number, c: number) =>
    orient(
      graph.x[a] as number,
      graph.y[a] as number,
      graph.x[b] as number,
      graph.y[b] as number,
      graph.x[c] as number,
      graph.y[c] as number,
    ) <= 0;
  for (const edge of inner) {
    const other = twin[edge] as number;
    const [ahead, behind] = [next[edge] as number, before[edge] as number];
    const [otherAhead, otherBehind] = [next[other] as number, before[other] as number];
    const drop = (from: number, to: number) => {
      next[from] = to;
      before[to] = from;
      alive[edge] = 0;
      alive[other] = 0;
    };
    // A side with the same polygon on both hands, left over where two polygons shared several: a spike is drawn in.
    if (ahead === other) {
      drop(behind, otherAhead);
      continue;
    }
    if (otherAhead === edge) {
      drop(otherBehind, ahead);
      continue;
    }
    if (isInRing(next, edge, other)) continue;
    const far = (e: number) => origin[next[e] as number] as number;
    // At the origin: from the side behind into the twin's next; at the end: from the twin's previous into the side ahead.
    const convex =
      turnsLeft(origin[behind] as number, origin[edge] as number, far(otherAhead)) &&
      turnsLeft(origin[otherBehind] as number, origin[other] as number, far(ahead));
    if (!convex) continue;
    next[behind] = otherAhead;
    before[otherAhead] = behind;
    next[otherBehind] = ahead;
    before[ahead] = otherBehind;
    alive[edge] = 0;
    alive[other] = 0;
  }
  return rings;
}

/** The inner sides, one half-edge of each, by classes of length, each up to √2 times as long as the next one's: a sort would take most of the time. */
function longestFirst({ x, y }: PlanarGraph, { origin, twin, alive }: Rings): Int32Array {
  const classes = new Uint8Array(origin.length);
  const starts = new Int32Array(257);
  for (let edge = 0; edge < origin.length; edge++) {
    const other = twin[edge] as number;
    if (!alive[edge] || other < edge) continue;
    const [a, b] = [origin[edge] as number, origin[other] as number];
    const size = ((x[a] as number) - (x[b] as number)) ** 2 + ((y[a] as number) - (y[b] as number)) ** 2;
    // Squares of lengths on the lattice are whole numbers from 1 up.
    const kind = 200 - exponentOf(size);
    classes[edge] = kind;
    starts[kind + 1] = (starts[kind + 1] as number) + 1;
  }
  for (let kind = 1; kind < starts.length; kind++) starts[kind] = (starts[kind] as number) + (starts[kind - 1] as number);
  const sorted = new Int32Array(starts.at(-1) as number);
  for (let edge = 0; edge < origin.length; edge++) {
    const kind = classes[edge] as number;
    if (kind === 0) continue;
    sorted[starts[kind] as number] = edge;
    starts[kind] = (starts[kind] as number) + 1;
  }
  return sorted;
}

/** The power of two that a number from 1 up lies at or above. */
function exponentOf(value: number): number {
  let exponent = 0;
  let rest = value;
  for (; rest >= 4294967296; rest /= 4294967296) exponent += 32;
  return exponent + 31 - Math.clz32(rest);
}

/** True if a half-edge belongs to the ring of another one. */
function isInRing(next: Int32Array, edge: number, other: number): boolean {
  for (let at = next[edge] as number; at !== edge; at = next[at] as number) if (at === other) return true;
  return false;
}

/** Corners at which the wall turns away from the room: from its side that ends there to the one that begins there. */
export function bendsOf(graph: PlanarGraph, { origin, next, twin }: Rings, order: Int32Array): Uint8Array {
  const bends = new Uint8Array(graph.x.length);
  for (const edge of order) {
    if ((twin[edge] as number) >= 0) continue;
    // Round the corner at the side's end, to the next side that is a wall.
    let out = next[edge] as number;
    for (let guard = 0; (twin[out] as number) >= 0 && guard < 1000; guard++) out = next[twin[out] as number] as number;
    const [a, b, c] = [origin[edge] as number, origin[out] as number, origin[next[out] as number] as number];
    const turn = orient(
      graph.x[a] as number,
      graph.y[a] as number,
      graph.x[b] as number,
      graph.y[b] as number,
      graph.x[c] as number,
      graph.y[c] as number,
    );
    if (turn > 0) bends[b] = 1;
  }
  return bends;
}
