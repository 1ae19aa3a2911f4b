import Delaunator from 'delaunator';
import type { Loop } from '../ground/loops.ts';
import { doubleArea } from '../ground/loops.ts';
import { Constrainer, type Triangulation } from './constrain.ts';
import { type Grown, inflate } from './inflate.ts';
import { type PlanarGraph, planarGraph } from './planar.ts';
import { bendsOf, mergeConvex, type Rings } from './rings.ts';
import { spatialOrder } from './spatialOrder.ts';

/** A level rectangle. */
export interface Rectangle {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * The free places of a body's centre, as adjacent convex polygons: plain numbers and typed arrays, so that a worker can build and transfer it.
 * Polygon p has the corners `corners[starts[p] … starts[p + 1])`, counter-clockwise with y upwards, and beyond the side from a corner to the next one
 * lies polygon `neighbours[…]`, −1 for a wall or the border.
 */
export interface Mesh {
  x: Float64Array;
  y: Float64Array;
  /** 1 where a wall's corner is convex towards the free area: a shortest path bends only round such corners. */
  bends: Uint8Array;
  starts: Int32Array;
  corners: Int32Array;
  neighbours: Int32Array;
  /** By side, the number of the same side of the polygon beyond; −1 for a wall or the border. */
  twins: Int32Array;
  /** By polygon, the number of the connected region that it is in. */
  regions: Int32Array;
}

/** Parts of a body's half width that the lattice of the mesh has. */
const FINE = 4096;

/** Maximum number of lattice points per side, so that a pair of coordinates is one exact number. */
const MOST = 2 ** 25;

/** The lattice on which a body of this size is laid out on so wide an area, unit: a power of two. */
function latticeFor(body: Grown, extent: number): number {
  const fine = Math.max(least(body) / FINE, extent / MOST);
  let step = 1;
  while (step > fine) step /= 2;
  while (step < fine / 2 || extent / step > MOST) step *= 2;
  return step;
}

/** The smaller half of a body. */
function least(body: Grown): number {
  return body.shape === 'circle' ? body.radius : Math.min(body.halfWidth, body.halfHeight);
}

/** Empty mesh: the body is larger than the area. */
function nowhere(): Mesh {
  const none = () => new Int32Array(0);
  return {
    x: new Float64Array(0),
    y: new Float64Array(0),
    bends: new Uint8Array(0),
    starts: new Int32Array(1),
    corners: none(),
    neighbours: none(),
    twins: none(),
    regions: none(),
  };
}

/** The largest distance of a wall or the border from the area's corner, along one axis. */
function extentOf(loops: readonly Loop[], area: Rectangle): number {
  let extent = Math.max(area.right - area.left, area.bottom - area.top);
  for (const loop of loops)
    for (let i = 0; i < loop.length; i += 2)
      extent = Math.max(extent, Math.abs((loop[i] as number) - area.left), Math.abs((loop[i + 1] as number) - area.top));
  return extent * 1.5;
}

/**
 * The free places of a body among loops, within a rectangle for its centre. The loops are grown by the body, laid out as a planar graph, triangulated
 * with their sides kept (constrained Delaunay), classified by winding number, and merged into convex polygons (Hertel and Mehlhorn 1983). Throws if
 * the outlines cannot be laid out.
 */
export function buildMesh(loops: readonly Loop[], body: Grown, area: Rectangle): Mesh {
  const extent = extentOf(loops, area);
  if (loops.length > 0 && least(body) > extent * Math.SQRT2) return nowhere();
  const step = latticeFor(body, extent);
  const lattice = (values: readonly number[]) => values.map((value) => Math.round(value / step));
  const grown = loops.map((loop) => lattice(inflate(loop, body))).filter((loop) => doubleArea(loop) !== 0);
  const frame = lattice([area.left, area.top, area.right, area.top, area.right, area.bottom, area.left, area.bottom]);
  const graph = planarGraph(grown, frame);
  const coordinates = new Float64Array(graph.x.length * 2);
  for (let i = 0; i < graph.x.length; i++) {
    coordinates[i * 2] = graph.x[i] as number;
    coordinates[i * 2 + 1] = graph.y[i] as number;
  }
  const delaunay = new Delaunator(coordinates);
  const windings = keepSides(graph, delaunay);
  const free = freeTriangles(graph, delaunay, windings, frame);
  return toMesh(graph, mergeConvex(graph, delaunay, free), step);
}

/**
 * Makes the sides of a graph part of its triangulation. By half-edge, the increase of the winding number on entering its triangle from the one
 * beyond.
 */
function keepSides({ x, y, from, to, windings }: PlanarGraph, triangulation: Triangulation): Int32Array {
  const { triangles, halfedges } = triangulation;
  const steps = new Int32Array(triangles.length);
  if (triangles.length === 0) return steps;
  const constrainer = new Constrainer(x, y, triangulation);
  for (let k = 0; k < from.length; k++) constrainer.keep(from[k] as number, to[k] as number);
  for (let k = 0; k < from.length; k++) {
    const winding = windings[k] as number;
    if (winding === 0) continue;
    const edge = constrainer.edgeBetween(from[k] as number, to[k] as number);
    // The library's triangles run clockwise with y upwards: the inside lies to the right of their half-edges.
    const step = triangles[edge] === from[k] ? -winding : winding;
    steps[edge] = step;
    const twin = halfedges[edge] as number;
    if (twin !== -1) steps[twin] = -step;
  }
  return steps;
}

/** Which triangles lie in the frame and are wound round by no loop: 1 for those. Winding spreads from the outside in. */
function freeTriangles(
  { x, y }: PlanarGraph,
  { triangles, halfedges }: Triangulation,
  steps: Int32Array,
  frame: readonly number[],
): Uint8Array {
  const count = triangles.length / 3;
  const windings = new Int32Array(count);
  const seen = new Uint8Array(count);
  const stack = new Int32Array(count);
  let waiting = 0;
  const enter = (triangle: number, winding: number) => {
    if (seen[triangle]) return;
    seen[triangle] = 1;
    windings[triangle] = winding;
    stack[waiting++] = triangle;
  };
  for (let edge = 0; edge < halfedges.length; edge++) if (halfedges[edge] === -1) enter(Math.floor(edge / 3), steps[edge] as number);
  while (waiting > 0) {
    const triangle = stack[--waiting] as number;
    for (let edge = triangle * 3; edge < triangle * 3 + 3; edge++) {
      const twin = halfedges[edge] as number;
      if (twin >= 0) enter(Math.floor(twin / 3), (windings[triangle] as number) + (steps[twin] as number));
    }
  }
  const [left, top, right, , , bottom] = frame as [number, number, number, number, number, number];
  const free = new Uint8Array(count);
  for (let t = 0; t < count; t++) {
    if ((windings[t] as number) > 0) continue;
    const [a, b, c] = [triangles[t * 3], triangles[t * 3 + 1], triangles[t * 3 + 2]] as [number, number, number];
    const cx = ((x[a] as number) + (x[b] as number) + (x[c] as number)) / 3;
    const cy = ((y[a] as number) + (y[b] as number) + (y[c] as number)) / 3;
    if (cx > left && cx < right && cy > top && cy < bottom) free[t] = 1;
  }
  return free;
}

/** One half-edge of each polygon, so that polygons which lie near one another mostly follow one another. */
function polygonHeads({ x, y }: PlanarGraph, { origin, next, alive }: Rings): Int32Array {
  const isPassed = new Uint8Array(origin.length);
  const heads: number[] = [];
  for (let edge = 0; edge < origin.length; edge++) {
    if (!alive[edge] || isPassed[edge]) continue;
    heads.push(edge);
    for (let at = edge; !isPassed[at]; at = next[at] as number) isPassed[at] = 1;
  }
  const placesOf = (values: readonly number[]) => Float64Array.from(heads, (edge) => values[origin[edge] as number] as number);
  return spatialOrder(placesOf(x), placesOf(y)).map((i) => heads[i] as number);
}

/** Numbers polygons and corners, and labels connected regions. */
function toMesh(graph: PlanarGraph, rings: Rings, step: number): Mesh {
  const { origin, next, twin } = rings;
  const polygonOf = new Int32Array(origin.length).fill(-1);
  const placeOf = new Int32Array(origin.length);
  const starts = [0];
  const places = new Int32Array(origin.length);
  let sides = 0;
  for (const head of polygonHeads(graph, rings)) {
    let at = head;
    do {
      polygonOf[at] = starts.length - 1;
      placeOf[at] = sides;
      places[sides++] = at;
      at = next[at] as number;
    } while (at !== head);
    starts.push(sides);
  }
  const order = places.subarray(0, sides);
  const neighbours = order.map((edge) => ((twin[edge] as number) < 0 ? -1 : (polygonOf[twin[edge] as number] as number)));
  return {
    x: Float64Array.from(graph.x, (value) => value * step),
    y: Float64Array.from(graph.y, (value) => value * step),
    bends: bendsOf(graph, rings, order),
    starts: Int32Array.from(starts),
    corners: order.map((edge) => origin[edge] as number),
    neighbours,
    // A side with the same polygon on both hands leads nowhere.
    twins: order.map((edge) => {
      const other = twin[edge] as number;
      return other < 0 || polygonOf[other] === polygonOf[edge] ? -1 : (placeOf[other] as number);
    }),
    regions: regionsOf(starts, neighbours),
  };
}

function regionsOf(starts: readonly number[], neighbours: Int32Array): Int32Array {
  const regions = new Int32Array(starts.length - 1).fill(-1);
  let count = 0;
  for (let first = 0; first < regions.length; first++) {
    if (regions[first] !== -1) continue;
    const stack = [first];
    regions[first] = count;
    while (stack.length > 0) {
      const polygon = stack.pop() as number;
      for (let i = starts[polygon] as number; i < (starts[polygon + 1] as number); i++) {
        const beyond = neighbours[i] as number;
        if (beyond < 0 || regions[beyond] !== -1) continue;
        regions[beyond] = count;
        stack.push(beyond);
      }
    }
    count++;
  }
  return regions;
}
