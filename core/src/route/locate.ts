import { shareAlong } from '../math/segment.ts';
import type { Mesh } from './mesh.ts';

/** Tolerance (unit) within which a point on a polygon's side is in it. */
const NEAR = 1e-7;

/** A point of a mesh, and the polygon that holds it. */
export interface Located {
  x: number;
  y: number;
  polygon: number;
}

/** Finds the polygon of a mesh that holds a point, by a grid of buckets over the polygons' boxes. */
export class Locator {
  readonly #mesh: Mesh;
  readonly #left: number;
  readonly #top: number;
  readonly #side: number;
  readonly #columns: number;
  readonly #rows: number;
  readonly #starts: Int32Array;
  readonly #items: Int32Array;

  constructor(mesh: Mesh) {
    this.#mesh = mesh;
    const { corners, x, y } = mesh;
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < corners.length; i++) {
      const corner = corners[i] as number;
      left = Math.min(left, x[corner] as number);
      right = Math.max(right, x[corner] as number);
      top = Math.min(top, y[corner] as number);
      bottom = Math.max(bottom, y[corner] as number);
    }
    const polygons = mesh.starts.length - 1;
    const [width, height] = polygons > 0 ? [right - left, bottom - top] : [1, 1];
    this.#left = polygons > 0 ? left : 0;
    this.#top = polygons > 0 ? top : 0;
    this.#side = Math.max(Math.sqrt((width * height) / Math.max(1, polygons)), width / 512, height / 512, 1e-3);
    this.#columns = Math.floor(width / this.#side) + 1;
    this.#rows = Math.floor(height / this.#side) + 1;
    const counts = new Int32Array(this.#columns * this.#rows + 1);
    this.#eachBucket((bucket) => {
      counts[bucket + 1] = (counts[bucket + 1] as number) + 1;
    });
    for (let b = 1; b < counts.length; b++) counts[b] = (counts[b] as number) + (counts[b - 1] as number);
    this.#starts = counts;
    this.#items = new Int32Array(counts.at(-1) as number);
    const next = counts.slice();
    this.#eachBucket((bucket, polygon) => {
      this.#items[next[bucket] as number] = polygon;
      next[bucket] = (next[bucket] as number) + 1;
    });
  }

  /** The polygon that holds a point, −1 if there is none. Of several that share it, the first. */
  at(x: number, y: number): number {
    const column = Math.floor((x - this.#left) / this.#side);
    const row = Math.floor((y - this.#top) / this.#side);
    // A point on the outermost border may lie a hair beyond the buckets.
    for (const c of column < 0 || column >= this.#columns ? [this.#column(x)] : [column])
      for (const r of row < 0 || row >= this.#rows ? [this.#row(y)] : [row]) {
        const bucket = r * this.#columns + c;
        for (let i = this.#starts[bucket] as number; i < (this.#starts[bucket + 1] as number); i++)
          if (this.#holds(this.#items[i] as number, x, y)) return this.#items[i] as number;
      }
    return -1;
  }

  /** The nearest point to (x, y) of the polygons accepted by `wanted`, and its polygon; null if it accepts none. */
  nearest(x: number, y: number, wanted: (polygon: number) => boolean = () => true): Located | null {
    let least = Infinity;
    let found: Located | null = null;
    this.#eachFoot(x, y, wanted, (px, py, polygon) => {
      const distance = (px - x) ** 2 + (py - y) ** 2;
      if (distance >= least) return;
      least = distance;
      found = { x: px, y: py, polygon };
    });
    return found;
  }

  /** The nearest point to (x, y) that `takes` accepts among the feet and ends of the borders' sides, the nearest `most` of them; else null. */
  nearestThat(x: number, y: number, takes: (x: number, y: number) => boolean, most = 400): Located | null {
    const feet: (Located & { distance: number })[] = [];
    const give = (px: number, py: number, polygon: number) => feet.push({ x: px, y: py, polygon, distance: (px - x) ** 2 + (py - y) ** 2 });
    this.#eachFoot(
      x,
      y,
      () => true,
      (px, py, polygon, side) => {
        give(px, py, polygon);
        const corner = this.#mesh.corners[side] as number;
        give(this.#mesh.x[corner] as number, this.#mesh.y[corner] as number, polygon);
      },
    );
    feet.sort((a, b) => a.distance - b.distance);
    return feet.slice(0, most).find((foot) => takes(foot.x, foot.y)) ?? null;
  }

  /** The point nearest to (x, y) on each side that lies at a wall or the border: only there can one be nearest from outside. */
  #eachFoot(
    x: number,
    y: number,
    wanted: (polygon: number) => boolean,
    give: (x: number, y: number, polygon: number, side: number) => void,
  ): void {
    const mesh = this.#mesh;
    for (let polygon = 0; polygon + 1 < mesh.starts.length; polygon++) {
      if (!wanted(polygon)) continue;
      const [from, to] = [mesh.starts[polygon] as number, mesh.starts[polygon + 1] as number];
      for (let i = from; i < to; i++) {
        if (mesh.neighbours[i] !== -1) continue;
        const a = mesh.corners[i] as number;
        const b = mesh.corners[i + 1 === to ? from : i + 1] as number;
        const [ax, ay] = [mesh.x[a] as number, mesh.y[a] as number];
        const [ex, ey] = [(mesh.x[b] as number) - ax, (mesh.y[b] as number) - ay];
        const share = shareAlong(x - ax, y - ay, ex, ey);
        give(ax + ex * share, ay + ey * share, polygon, i);
      }
    }
  }

  #holds(polygon: number, x: number, y: number): boolean {
    const { starts, corners, x: xs, y: ys } = this.#mesh;
    const from = starts[polygon] as number;
    const to = starts[polygon + 1] as number;
    let a = corners[to - 1] as number;
    for (let i = from; i < to; i++) {
      const b = corners[i] as number;
      const ex = (xs[b] as number) - (xs[a] as number);
      const ey = (ys[b] as number) - (ys[a] as number);
      const left = ex * (y - (ys[a] as number)) - ey * (x - (xs[a] as number));
      if (left < 0 && left * left > NEAR * NEAR * (ex * ex + ey * ey)) return false;
      a = b;
    }
    return true;
  }

  #column(x: number): number {
    return Math.min(this.#columns - 1, Math.max(0, Math.floor((x - this.#left) / this.#side)));
  }

  #row(y: number): number {
    return Math.min(this.#rows - 1, Math.max(0, Math.floor((y - this.#top) / this.#side)));
  }

  #eachBucket(visit: (bucket: number, polygon: number) => void): void {
    const { starts, corners, x, y } = this.#mesh;
    for (let polygon = 0; polygon + 1 < starts.length; polygon++) {
      let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
      for (let i = starts[polygon] as number; i < (starts[polygon + 1] as number); i++) {
        const corner = corners[i] as number;
        left = Math.min(left, x[corner] as number);
        right = Math.max(right, x[corner] as number);
        top = Math.min(top, y[corner] as number);
        bottom = Math.max(bottom, y[corner] as number);
      }
      for (let row = this.#row(top - NEAR); row <= this.#row(bottom + NEAR); row++)
        for (let column = this.#column(left - NEAR); column <= this.#column(right + NEAR); column++)
          visit(row * this.#columns + column, polygon);
    }
  }
}
