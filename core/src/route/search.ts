import { length } from '../math/functions.ts';
import { IntervalQueue } from './intervals.ts';
import type { Mesh } from './mesh.ts';

/** A way from one point to another: its points, start and end included; its length; intervals looked into to find it. */
export interface FoundWay {
  points: [number, number][];
  length: number;
  expanded: number;
}

/** Angle (radians) within which a corner lies on a line of sight. */
const ALONG = 1e-10;

/** Root of an interval that is seen from the start itself. */
const START = -1;

/**
 * Shortest ways among convex polygons: Polyanya (Cui, Harabor and Grastien 2017, “Compromise-free Pathfinding on a Navigation
 * Mesh”). A search node is an interval of a side together with its root, the last point at which the way has bent; what can be
 * seen from the root through the interval makes new intervals, and so do the corners at the interval's ends, round which the way
 * may bend. The heuristic is the straight way from the root through the interval to the target, mirrored where it lies on this
 * side, so the first way found is a shortest one. One object searches again and again and allocates next to nothing.
 */
export class WaySearch {
  readonly #mesh: Mesh;
  readonly #queue = new IntervalQueue();
  /** By corner, the shortest way to it so far, and the search in which that was found. */
  readonly #reached: Float64Array;
  readonly #stamps: Int32Array;
  #search = 0;
  #startX = 0;
  #startY = 0;
  #targetX = 0;
  #targetY = 0;
  /** What is being expanded: root, its place, the way until it, and the interval seen from it. */
  #root = START;
  #rootX = 0;
  #rootY = 0;
  #way = 0;
  #parent = -1;
  /** The intervals that the last search looked into: for whoever shows the work. */
  readonly looked: number[] = [];

  constructor(mesh: Mesh) {
    this.#mesh = mesh;
    this.#reached = new Float64Array(mesh.x.length);
    this.#stamps = new Int32Array(mesh.x.length);
  }

  /** The shortest way between two points in given polygons; null where they are in different regions. */
  find(startX: number, startY: number, startPolygon: number, targetX: number, targetY: number, targetPolygon: number): FoundWay | null {
    const mesh = this.#mesh;
    const queue = this.#queue;
    this.looked.length = 0;
    if (mesh.regions[startPolygon] !== mesh.regions[targetPolygon]) return null;
    if (startPolygon === targetPolygon) {
      return {
        points: [
          [startX, startY],
          [targetX, targetY],
        ],
        length: length(targetX - startX, targetY - startY),
        expanded: 0,
      };
    }
    this.#search++;
    this.#startX = startX;
    this.#startY = startY;
    this.#targetX = targetX;
    this.#targetY = targetY;
    queue.clear();
    this.#bendAt(START, startX, startY, 0, -1);
    this.#seeAll(startPolygon, -1);
    for (let expanded = 1; ; expanded++) {
      const node = queue.pop();
      if (node === -1) return null;
      if (queue.polygon[node] === targetPolygon) return { ...this.#wayOf(node), expanded };
      this.looked.push(queue.polygon[node] as number);
      this.#expand(node);
    }
  }

  #xOf(root: number): number {
    return root === START ? this.#startX : (this.#mesh.x[root] as number);
  }

  #yOf(root: number): number {
    return root === START ? this.#startY : (this.#mesh.y[root] as number);
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
    if (this.#stamps[corner] === this.#search && (this.#reached[corner] as number) < way - 1e-9) return false;
    if (this.#stamps[corner] !== this.#search || (this.#reached[corner] as number) > way) this.#reached[corner] = way;
    this.#stamps[corner] = this.#search;
    return true;
  }

  /** Every side of a polygon but `entry`, seen as a whole from the root in it. */
  #seeAll(polygon: number, entry: number): void {
    const { starts, corners, neighbours, x, y } = this.#mesh;
    const from = starts[polygon] as number;
    const to = starts[polygon + 1] as number;
    for (let i = from; i < to; i++) {
      if (i === entry || neighbours[i] === -1) continue;
      const a = corners[i] as number;
      const b = corners[i + 1 === to ? from : i + 1] as number;
      this.#push(x[b] as number, y[b] as number, b, x[a] as number, y[a] as number, a, neighbours[i] as number, polygon);
    }
  }

  /** Puts an interval into the queue: seen from the root, left and right end with their corners (−1: within a side), what lies beyond. */
  #push(lx: number, ly: number, left: number, rx: number, ry: number, right: number, beyond: number, from: number): void {
    const rest = this.#estimate(lx, ly, rx, ry);
    this.#queue.push(this.#root, this.#way, this.#way + rest, lx, ly, left, rx, ry, right, beyond, from, this.#parent);
  }

  /** The straight way from the root through an interval to the target, or round that end of it which is in the way. */
  #estimate(lx: number, ly: number, rx: number, ry: number): number {
    const [px, py] = [this.#rootX, this.#rootY];
    let tx = this.#targetX;
    let ty = this.#targetY;
    const ex = rx - lx;
    const ey = ry - ly;
    const size = ex * ex + ey * ey;
    const root = ex * (py - ly) - ey * (px - lx);
    const target = ex * (ty - ly) - ey * (tx - lx);
    if (root * target > 0) {
      // Mirrored at the line of the interval.
      const twice = (2 * target) / size;
      tx += twice * ey;
      ty -= twice * ex;
    }
    const straight = length(tx - px, ty - py);
    if (size === 0 || root * root <= ALONG * ALONG * size * ((px - lx) ** 2 + (py - ly) ** 2)) {
      // The root lies on the line of the interval: past its nearer end, or through it.
      const along = (px - lx) * ex + (py - ly) * ey;
      if (along >= 0 && along <= size) return straight;
      const [nx, ny] = along < 0 ? [lx, ly] : [rx, ry];
      return length(nx - px, ny - py) + length(tx - nx, ty - ny);
    }
    if ((lx - px) * (ty - py) - (ly - py) * (tx - px) > 0) return length(lx - px, ly - py) + length(tx - lx, ty - ly);
    if ((rx - px) * (ty - py) - (ry - py) * (tx - px) < 0) return length(rx - px, ry - py) + length(tx - rx, ty - ry);
    return straight;
  }

  #expand(node: number): void {
    const q = this.#queue;
    const mesh = this.#mesh;
    const polygon = q.polygon[node] as number;
    const root = q.root[node] as number;
    const way = q.way[node] as number;
    if (root !== START && !this.#reaches(root, way)) return;
    const px = this.#xOf(root);
    const py = this.#yOf(root);
    const entry = this.#entryOf(polygon, q.from[node] as number, q.left[node] as number, q.right[node] as number, node);
    const [lx, ly, rx, ry] = [q.lx[node] as number, q.ly[node] as number, q.rx[node] as number, q.ry[node] as number];
    const line = (rx - lx) * (py - ly) - (ry - ly) * (px - lx);
    const size = (rx - lx) ** 2 + (ry - ly) ** 2;
    if (line * line <= ALONG * ALONG * size * Math.max(size, (px - lx) ** 2 + (py - ly) ** 2)) {
      const along = (px - lx) * (rx - lx) + (py - ly) * (ry - ly);
      if (along >= 0 && along <= size) {
        this.#bendAt(root, px, py, way, node);
        this.#seeAll(polygon, entry);
      } else this.#bendRound(along < 0 ? (q.left[node] as number) : (q.right[node] as number), polygon, entry, node, px, py, way);
      return;
    }
    this.#lookThrough(node, polygon, entry, px, py);
    const [left, right] = [q.left[node] as number, q.right[node] as number];
    if (right !== -1 && mesh.bends[right]) this.#bendAside(node, polygon, entry, right, px, py, way, false);
    if (left !== -1 && mesh.bends[left]) this.#bendAside(node, polygon, entry, left, px, py, way, true);
  }

  /** The way bends at an end of an interval that is seen edge on: everything beyond is seen from there. */
  #bendRound(corner: number, polygon: number, entry: number, node: number, px: number, py: number, way: number): void {
    if (corner === -1 || !this.#mesh.bends[corner]) return;
    const [x, y] = [this.#mesh.x[corner] as number, this.#mesh.y[corner] as number];
    const longer = way + length(x - px, y - py);
    if (!this.#reaches(corner, longer)) return;
    this.#bendAt(corner, x, y, longer, node);
    this.#seeAll(polygon, entry);
  }

  /** The side of a polygon through which it was entered. */
  #entryOf(polygon: number, from: number, left: number, right: number, node: number): number {
    const { starts, corners, neighbours, x, y } = this.#mesh;
    const first = starts[polygon] as number;
    const end = starts[polygon + 1] as number;
    let found = -1;
    for (let i = first; i < end; i++) {
      if (neighbours[i] !== from) continue;
      const a = corners[i] as number;
      const b = corners[i + 1 === end ? first : i + 1] as number;
      if (a === left || b === right) return i;
      // Two polygons may share several sides in a row: the one that holds the interval's middle is meant.
      const q = this.#queue;
      const mx = ((q.lx[node] as number) + (q.rx[node] as number)) / 2;
      const my = ((q.ly[node] as number) + (q.ry[node] as number)) / 2;
      const [ax, ay] = [x[a] as number, y[a] as number];
      const [ex, ey] = [(x[b] as number) - ax, (y[b] as number) - ay];
      const along = (mx - ax) * ex + (my - ay) * ey;
      if (
        found === -1 ||
        (along >= 0 && along <= ex * ex + ey * ey && Math.abs(ex * (my - ay) - ey * (mx - ax)) < 1e-6 * (ex * ex + ey * ey))
      )
        found = i;
    }
    return found;
  }

  /** The parts of the other sides that are seen from the root through the interval. */
  #lookThrough(node: number, polygon: number, entry: number, px: number, py: number): void {
    const { starts, corners, neighbours, x, y } = this.#mesh;
    const q = this.#queue;
    const first = starts[polygon] as number;
    const count = (starts[polygon + 1] as number) - first;
    const [dlx, dly] = [(q.lx[node] as number) - px, (q.ly[node] as number) - py];
    const [drx, dry] = [(q.rx[node] as number) - px, (q.ry[node] as number) - py];
    this.#bendAt(q.root[node] as number, px, py, q.way[node] as number, node);
    let a = corners[first + ((entry - first + 1) % count)] as number;
    let fromLeft = sideOf(dlx, dly, (x[a] as number) - px, (y[a] as number) - py);
    let fromRight = sideOf(drx, dry, (x[a] as number) - px, (y[a] as number) - py);
    // From the right end of the entry round to its left end: each side runs from its right end to its left one.
    for (let k = 1; k < count; k++) {
      const i = first + ((entry - first + k) % count);
      const b = corners[first + ((entry - first + k + 1) % count)] as number;
      const toLeft = sideOf(dlx, dly, (x[b] as number) - px, (y[b] as number) - py);
      const toRight = sideOf(drx, dry, (x[b] as number) - px, (y[b] as number) - py);
      if (neighbours[i] !== -1 && toRight > 0 && fromLeft < 0) {
        const [ax, ay, bx, by] = [x[a] as number, y[a] as number, x[b] as number, y[b] as number];
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
            neighbours[i] as number,
            polygon,
          );
      }
      a = b;
      fromLeft = toLeft;
      fromRight = toRight;
    }
  }

  /** The parts of the other sides that are seen only once the way has bent round an end of the interval. */
  #bendAside(node: number, polygon: number, entry: number, corner: number, px: number, py: number, way: number, left: boolean): void {
    const { starts, corners, neighbours, x, y } = this.#mesh;
    const [cx, cy] = [x[corner] as number, y[corner] as number];
    const [dx, dy] = [cx - px, cy - py];
    if (dx === 0 && dy === 0) return;
    const longer = way + Math.sqrt(dx * dx + dy * dy);
    if (!this.#reaches(corner, longer)) return;
    this.#bendAt(corner, cx, cy, longer, node);
    const first = starts[polygon] as number;
    const count = (starts[polygon + 1] as number) - first;
    for (let k = 1; k < count; k++) {
      const i = first + ((entry - first + k) % count);
      if (neighbours[i] === -1) continue;
      const a = corners[i] as number;
      const b = corners[first + ((entry - first + k + 1) % count)] as number;
      const [ax, ay, bx, by] = [x[a] as number, y[a] as number, x[b] as number, y[b] as number];
      // Sides run from right to left: beyond the left line of sight lies their end, beyond the right one their start.
      const from = sideOf(dx, dy, ax - px, ay - py) * (left ? 1 : -1);
      const to = sideOf(dx, dy, bx - px, by - py) * (left ? 1 : -1);
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
          neighbours[i] as number,
          polygon,
        );
    }
  }

  /** The way to the target through an interval of its polygon. */
  #wayOf(node: number): { points: [number, number][]; length: number } {
    const q = this.#queue;
    const points: [number, number][] = [[this.#targetX, this.#targetY]];
    const root = q.root[node] as number;
    const [px, py, tx, ty] = [this.#xOf(root), this.#yOf(root), this.#targetX, this.#targetY];
    const [lx, ly, rx, ry] = [q.lx[node] as number, q.ly[node] as number, q.rx[node] as number, q.ry[node] as number];
    if ((lx - px) * (ty - py) - (ly - py) * (tx - px) > 0) points.push([lx, ly]);
    else if ((rx - px) * (ty - py) - (ry - py) * (tx - px) < 0) points.push([rx, ry]);
    let last = -2;
    for (let at = node; at !== -1; at = q.parent[at] as number) {
      const bend = q.root[at] as number;
      if (bend !== last) points.push([this.#xOf(bend), this.#yOf(bend)]);
      last = bend;
    }
    points.reverse();
    const way = points.filter(([x, y], i) => i === 0 || x !== points[i - 1]?.[0] || y !== points[i - 1]?.[1]);
    return { points: way, length: wayLength(way) };
  }
}

/** Length of a way through points. */
export function wayLength(points: readonly (readonly [number, number])[]): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]] as [[number, number], [number, number]];
    sum += length(b[0] - a[0], b[1] - a[1]);
  }
  return sum;
}

/** Cross product of a line of sight with the way to a corner: positive to its left (y upwards); 0 where it lies along it. */
function sideOf(dx: number, dy: number, x: number, y: number): number {
  const cross = dx * y - dy * x;
  return cross * cross <= ALONG * ALONG * (dx * dx + dy * dy) * (x * x + y * y) ? 0 : cross;
}
