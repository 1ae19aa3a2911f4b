import type { Ground } from './ground.ts';
import { wallSegments } from './outlines.ts';

/** Buckets a side at the most, so that a few walls far apart do not make a huge grid. */
const MOST = 1024;

/**
 * Walls in a grid of square buckets: a search costs what is near, not what exists. Built once a ground; `near` writes the
 * numbers of the segments whose buckets touch a box into `found`, each once, and allocates nothing.
 */
export class WallIndex {
  readonly segments: Float64Array;
  /** Numbers of the segments that the last search found: the first `count` of them. */
  readonly found: Int32Array;
  count = 0;
  readonly #left: number;
  readonly #top: number;
  readonly #side: number;
  readonly #columns: number;
  readonly #rows: number;
  /** Bucket b holds `items[starts[b] … starts[b + 1])`. */
  readonly #starts: Int32Array;
  readonly #items: Int32Array;
  /** The search in which a segment was found last. */
  readonly #stamps: Int32Array;
  #search = 0;

  constructor(ground: Ground) {
    this.segments = wallSegments(ground);
    const n = this.segments.length / 4;
    this.found = new Int32Array(n);
    this.#stamps = new Int32Array(n);
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < this.segments.length; i += 2) {
      left = Math.min(left, this.segments[i] as number);
      right = Math.max(right, this.segments[i] as number);
      top = Math.min(top, this.segments[i + 1] as number);
      bottom = Math.max(bottom, this.segments[i + 1] as number);
    }
    const [width, height] = n > 0 ? [right - left, bottom - top] : [1, 1];
    this.#left = n > 0 ? left : 0;
    this.#top = n > 0 ? top : 0;
    this.#side = Math.max(Math.sqrt((width * height) / Math.max(1, n)), width / MOST, height / MOST, 1e-3);
    this.#columns = Math.floor(width / this.#side) + 1;
    this.#rows = Math.floor(height / this.#side) + 1;

    // Count, then fill: two passes over the same buckets.
    this.#starts = new Int32Array(this.#columns * this.#rows + 1);
    this.#eachBucket((bucket) => {
      this.#starts[bucket + 1] = (this.#starts[bucket + 1] as number) + 1;
    });
    for (let b = 1; b < this.#starts.length; b++) this.#starts[b] = (this.#starts[b] as number) + (this.#starts[b - 1] as number);
    this.#items = new Int32Array(this.#starts.at(-1) as number);
    const next = this.#starts.slice();
    this.#eachBucket((bucket, segment) => {
      this.#items[next[bucket] as number] = segment;
      next[bucket] = (next[bucket] as number) + 1;
    });
  }

  /** Every bucket that a segment's box touches and its line passes, with the segment. */
  #eachBucket(visit: (bucket: number, segment: number) => void): void {
    const half = this.#side / 2;
    for (let s = 0; s * 4 < this.segments.length; s++) {
      const [x0, y0, x1, y1] = this.segments.subarray(s * 4, s * 4 + 4) as unknown as [number, number, number, number];
      const length = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
      const [nx, ny] = [(y0 - y1) / length, (x1 - x0) / length];
      const reach = half * (Math.abs(nx) + Math.abs(ny)) * 1.0001;
      for (let row = this.#row(Math.min(y0, y1)); row <= this.#row(Math.max(y0, y1)); row++)
        for (let column = this.#column(Math.min(x0, x1)); column <= this.#column(Math.max(x0, x1)); column++) {
          const away = (this.#left + (column + 0.5) * this.#side - x0) * nx + (this.#top + (row + 0.5) * this.#side - y0) * ny;
          if (away <= reach && away >= -reach) visit(row * this.#columns + column, s);
        }
    }
  }

  #column(x: number): number {
    const column = Math.floor((x - this.#left) / this.#side);
    return column < 0 ? 0 : column >= this.#columns ? this.#columns - 1 : column;
  }

  #row(y: number): number {
    const row = Math.floor((y - this.#top) / this.#side);
    return row < 0 ? 0 : row >= this.#rows ? this.#rows - 1 : row;
  }

  /** Finds the segments near a box; afterwards `found` holds `count` numbers. */
  near(left: number, top: number, right: number, bottom: number): void {
    this.count = 0;
    if (this.segments.length === 0) return;
    this.#search++;
    const [fromColumn, toColumn, fromRow, toRow] = [this.#column(left), this.#column(right), this.#row(top), this.#row(bottom)];
    for (let row = fromRow; row <= toRow; row++)
      for (let column = fromColumn; column <= toColumn; column++) {
        const bucket = row * this.#columns + column;
        const end = this.#starts[bucket + 1] as number;
        for (let i = this.#starts[bucket] as number; i < end; i++) {
          const segment = this.#items[i] as number;
          if (this.#stamps[segment] === this.#search) continue;
          this.#stamps[segment] = this.#search;
          this.found[this.count++] = segment;
        }
      }
  }
}
