import { length } from '../math/functions.ts';
import { IntervalQueue } from './intervals.ts';
import type { Mesh } from './mesh.ts';
import { ALONG, wayLength, wayThrough } from './way.ts';

/** A way from one point to another: its points, start and end included; its length; intervals looked into to find it. */
export interface FoundWay {
  points: [number, number][];
  length: number;
  expanded: number;
}

/** Intervals looked into a side at the most, by far more than any way needs: a search never hangs. */
const MOST = 400;

/** Root of an interval that is seen from the start itself. */
const START = -1;

/**
 * Shortest ways among convex polygons: Polyanya (Cui, Harabor and Grastien 2017, “Compromise-free Pathfinding on a Navigation
 * Mesh”). A search node is an interval of a side together with its root, the last point at which the way has bent; what can be
 * seen from the root through the interval makes new intervals, and so do the corners at the interval's ends, round which the way
 * may bend. The heuristic is the straight way from the root through the interval to the target, mirrored where it lies on this
 * side, so the first way found is a shortest one. An interval that leads to a single other one is gone through at once. One object
 * searches again and again and allocates next to nothing.
 */
export class WaySearch {
  readonly #mesh: Mesh;
  readonly #queue = new IntervalQueue();
  /** By side, the polygon that it belongs to. */
  readonly #polygonOf: Int32Array;
  /** By corner, the shortest way to it so far, and the search in which that was found. */
  readonly #reached: Float64Array;
  readonly #stamps: Int32Array;
  /** By polygon, the search and the root from which it was last seen as a whole. */
  readonly #seenIn: Int32Array;
  readonly #seenFrom: Int32Array;
  #search = 0;
  #startX = 0;
  #startY = 0;
  #targetX = 0;
  #targetY = 0;
  /** What is being expanded: root, its place, the way until it, and the node that led here. */
  #root = START;
  #rootX = 0;
  #rootY = 0;
  #way = 0;
  #parent = -1;
  /** The polygons that the last search looked into: for whoever shows the work. */
  readonly looked: number[] = [];

  constructor(mesh: Mesh) {
    this.#mesh = mesh;
    this.#reached = new Float64Array(mesh.x.length);
    this.#stamps = new Int32Array(mesh.x.length);
    this.#polygonOf = new Int32Array(mesh.corners.length);
    this.#seenIn = new Int32Array(mesh.starts.length);
    this.#seenFrom = new Int32Array(mesh.starts.length);
    for (let polygon = 0; polygon + 1 < mesh.starts.length; polygon++)
      this.#polygonOf.fill(polygon, mesh.starts[polygon] as number, mesh.starts[polygon + 1] as number);
  }

  /** The shortest way between two points in given polygons; null where they are in different regions. */
  find(startX: number, startY: number, startPolygon: number, targetX: number, targetY: number, targetPolygon: number): FoundWay | null {
    const queue = this.#queue;
    this.looked.length = 0;
    if (this.#mesh.regions[startPolygon] !== this.#mesh.regions[targetPolygon]) return null;
    if (startPolygon === targetPolygon) {
      const points: [number, number][] = [
        [startX, startY],
        [targetX, targetY],
      ];
      return { points, length: wayLength(points), expanded: 0 };
    }
    this.#search++;
    this.#startX = startX;
    this.#startY = startY;
    this.#targetX = targetX;
    this.#targetY = targetY;
    queue.clear();
    this.#bendAt(START, startX, startY, 0, -1);
    this.#seeAll(startPolygon, -1);
    const most = MOST * this.#mesh.corners.length;
    for (let expanded = 1; expanded < most; expanded++) {
      const node = queue.pop();
      if (node === -1) return null;
      const polygon = this.#polygonOf[queue.side[node] as number] as number;
      if (polygon === targetPolygon) return { ...this.#wayOf(node), expanded };
      this.looked.push(polygon);
      this.#expand(node, polygon);
    }
    throw new Error('the search does not end');
  }

  #bendAt(root: number, x: number, y: number, way: number, parent: number): void {
    this.#root = root;
    this.#rootX = x;
    this.#rootY = y;
    this.#way = way;
    this.#parent = parent;
  }

  /** Whether a corner is reached on no longer a way than ever before; notes it. */
  #reaches(corner: number, way: number): boolean {
    const known = this.#stamps[corner] === this.#search;
    const least = this.#reached[corner] as number;
    if (known && least < way - 1e-9) return false;
    if (!known || least > way) this.#reached[corner] = way;
    this.#stamps[corner] = this.#search;
    return true;
  }

  /** Every side of a polygon but `entry`, seen as a whole from the root in it; once a root, so as not to go round it for ever. */
  #seeAll(polygon: number, entry: number): void {
    if (this.#seenIn[polygon] === this.#search && this.#seenFrom[polygon] === this.#root) return;
    this.#seenIn[polygon] = this.#search;
    this.#seenFrom[polygon] = this.#root;
    const { starts, corners, twins, x, y } = this.#mesh;
    const from = starts[polygon] as number;
    const to = starts[polygon + 1] as number;
    for (let i = from; i < to; i++) {
      if (i === entry || twins[i] === -1) continue;
      const a = corners[i] as number;
      const b = corners[i + 1 === to ? from : i + 1] as number;
      this.#push(x[b] as number, y[b] as number, b, x[a] as number, y[a] as number, a, twins[i] as number);
    }
  }

  /** Puts an interval into the queue: seen from the root, left and right end with their corners (−1: within a side), the side beyond. */
  #push(lx: number, ly: number, left: number, rx: number, ry: number, right: number, side: number): void {
    const rest = wayThrough(this.#rootX, this.#rootY, lx, ly, rx, ry, this.#targetX, this.#targetY);
    this.#queue.push(this.#root, this.#way, this.#way + rest, lx, ly, left, rx, ry, right, side, this.#parent);
  }

  #expand(node: number, polygon: number): void {
    const q = this.#queue;
    const mesh = this.#mesh;
    const root = q.root[node] as number;
    const way = q.way[node] as number;
    if (root !== START && !this.#reaches(root, way)) return;
    const px = root === START ? this.#startX : (mesh.x[root] as number);
    const py = root === START ? this.#startY : (mesh.y[root] as number);
    const entry = q.side[node] as number;
    const lx = q.lx[node] as number;
    const ly = q.ly[node] as number;
    const left = q.left[node] as number;
    const right = q.right[node] as number;
    const ex = (q.rx[node] as number) - lx;
    const ey = (q.ry[node] as number) - ly;
    const fx = px - lx;
    const fy = py - ly;
    const line = ex * fy - ey * fx;
    const size = ex * ex + ey * ey;
    const far = fx * fx + fy * fy;
    if (line * line <= ALONG * size * (far > size ? far : size)) {
      const along = fx * ex + fy * ey;
      if (along >= 0 && along <= size) {
        this.#bendAt(root, px, py, way, node);
        this.#seeAll(polygon, entry);
      } else {
        const corner = along < 0 ? left : right;
        if (corner !== -1 && mesh.bends[corner]) this.#bendRound(corner, polygon, entry, node, px, py, way);
      }
      return;
    }
    this.#bendAt(root, px, py, way, node);
    this.#lookThrough(polygon, entry, -fx, -fy, ex - fx, ey - fy);
    if (right !== -1 && mesh.bends[right]) this.#bendAside(node, polygon, entry, right, px, py, way, -1);
    if (left !== -1 && mesh.bends[left]) this.#bendAside(node, polygon, entry, left, px, py, way, 1);
  }

  /** The way bends at an end of an interval that is seen edge on: everything beyond is seen from there. */
  #bendRound(corner: number, polygon: number, entry: number, node: number, px: number, py: number, way: number): void {
    const x = this.#mesh.x[corner] as number;
    const y = this.#mesh.y[corner] as number;
    const longer = way + length(x - px, y - py);
    if (!this.#reaches(corner, longer)) return;
    this.#bendAt(corner, x, y, longer, node);
    this.#seeAll(polygon, entry);
  }

  /** The parts of the other sides that are seen from the root between the lines of sight to the interval's left and right end. */
  #lookThrough(polygon: number, entry: number, leftX: number, leftY: number, rightX: number, rightY: number): void {
    const { starts, corners, twins, x, y } = this.#mesh;
    const px = this.#rootX;
    const py = this.#rootY;
    const first = starts[polygon] as number;
    const end = starts[polygon + 1] as number;
    let i = entry + 1 === end ? first : entry + 1;
    let a = corners[i] as number;
    let ax = x[a] as number;
    let ay = y[a] as number;
    let fromLeft = sideOf(leftX, leftY, ax - px, ay - py);
    let fromRight = sideOf(rightX, rightY, ax - px, ay - py);
    // From the right end of the entry round to its left end: each side runs from its right end to its left one.
    while (i !== entry) {
      const next = i + 1 === end ? first : i + 1;
      const b = corners[next] as number;
      const bx = x[b] as number;
      const by = y[b] as number;
      const toLeft = sideOf(leftX, leftY, bx - px, by - py);
      const toRight = sideOf(rightX, rightY, bx - px, by - py);
      const side = twins[i] as number;
      if (side !== -1 && toRight > 0 && fromLeft < 0) {
        const low = fromRight >= 0 ? 0 : fromRight / (fromRight - toRight);
        const high = toLeft <= 0 ? 1 : fromLeft / (fromLeft - toLeft);
        if (high > low)
          this.#push(
            ax + (bx - ax) * high,
            ay + (by - ay) * high,
            toLeft <= 0 ? b : -1,
            ax + (bx - ax) * low,
            ay + (by - ay) * low,
            fromRight >= 0 ? a : -1,
            side,
          );
      }
      a = b;
      ax = bx;
      ay = by;
      fromLeft = toLeft;
      fromRight = toRight;
      i = next;
    }
  }

  /** The parts of the other sides that are seen only once the way has bent round the left (`hand` 1) or right (−1) end of the interval. */
  #bendAside(node: number, polygon: number, entry: number, corner: number, px: number, py: number, way: number, hand: number): void {
    const { starts, corners, twins, x, y } = this.#mesh;
    const cx = x[corner] as number;
    const cy = y[corner] as number;
    const dx = cx - px;
    const dy = cy - py;
    const longer = way + length(dx, dy);
    if (!this.#reaches(corner, longer)) return;
    this.#bendAt(corner, cx, cy, longer, node);
    const first = starts[polygon] as number;
    const end = starts[polygon + 1] as number;
    for (let i = entry + 1 === end ? first : entry + 1; i !== entry; ) {
      const next = i + 1 === end ? first : i + 1;
      const side = twins[i] as number;
      const a = corners[i] as number;
      const b = corners[next] as number;
      i = next;
      if (side === -1) continue;
      const ax = x[a] as number;
      const ay = y[a] as number;
      const bx = x[b] as number;
      const by = y[b] as number;
      // Sides run from right to left: beyond the left line of sight lies their end, beyond the right one their start.
      const from = sideOf(dx, dy, ax - px, ay - py) * hand;
      const to = sideOf(dx, dy, bx - px, by - py) * hand;
      if (from <= 0 && to <= 0) continue;
      const low = from >= 0 ? 0 : from / (from - to);
      const high = to >= 0 ? 1 : from / (from - to);
      if (high > low)
        this.#push(
          ax + (bx - ax) * high,
          ay + (by - ay) * high,
          to >= 0 ? b : -1,
          ax + (bx - ax) * low,
          ay + (by - ay) * low,
          from >= 0 ? a : -1,
          side,
        );
    }
  }

  #placeOf(root: number): [number, number] {
    return root === START ? [this.#startX, this.#startY] : [this.#mesh.x[root] as number, this.#mesh.y[root] as number];
  }

  /** The way to the target through an interval of its polygon. */
  #wayOf(node: number): { points: [number, number][]; length: number } {
    const q = this.#queue;
    const points: [number, number][] = [[this.#targetX, this.#targetY]];
    const [px, py] = this.#placeOf(q.root[node] as number);
    const [tx, ty] = [this.#targetX, this.#targetY];
    const [lx, ly, rx, ry] = [q.lx[node] as number, q.ly[node] as number, q.rx[node] as number, q.ry[node] as number];
    if ((lx - px) * (ty - py) - (ly - py) * (tx - px) > 0) points.push([lx, ly]);
    else if ((rx - px) * (ty - py) - (ry - py) * (tx - px) < 0) points.push([rx, ry]);
    let last = -2;
    for (let at = node; at !== -1; at = q.parent[at] as number) {
      const bend = q.root[at] as number;
      if (bend !== last) points.push(this.#placeOf(bend));
      last = bend;
    }
    points.reverse();
    const way = points.filter(([x, y], i) => i === 0 || x !== points[i - 1]?.[0] || y !== points[i - 1]?.[1]);
    return { points: way, length: wayLength(way) };
  }
}

/** Cross product of a line of sight with the way to a corner: positive to its left (y upwards); 0 where it lies along it. */
function sideOf(dx: number, dy: number, x: number, y: number): number {
  const cross = dx * y - dy * x;
  return cross * cross <= ALONG * (dx * dx + dy * dy) * (x * x + y * y) ? 0 : cross;
}
