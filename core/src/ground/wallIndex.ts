import type { Ground } from './ground.ts';
import { wallSegments } from './outlines.ts';

/** Maximum number of buckets per side, so that a few walls far apart do not make a huge grid. */
const MOST = 1024;

/**
 * Walls sorted into square buckets: plain numbers and typed arrays, so that a worker can build and transfer it. Bucket b holds `items[starts[b] …
 * starts[b + 1])`, numbers of segments of four numbers each (x0, y0, x1, y1).
 */
export interface WallBuckets {
  segments: Float64Array;
  /** Of each segment its direction as a unit vector and its length: ux, uy, length. */
  courses: Float64Array;
  left: number;
  top: number;
  side: number;
  columns: number;
  rows: number;
  starts: Int32Array;
  items: Int32Array;
}

/** Sorts the walls of a ground into buckets; with `seams` the joints between its cells are felt. */
export function bucketWalls(ground: Ground, seams = false): WallBuckets {
  return bucketSegments(wallSegments(ground, seams));
}

/** Sorts segments into buckets about as many as there are segments. */
export function bucketSegments(segments: Float64Array): WallBuckets {
  const n = segments.length / 4;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < segments.length; i += 2) {
    left = Math.min(left, segments[i] as number);
    right = Math.max(right, segments[i] as number);
    top = Math.min(top, segments[i + 1] as number);
    bottom = Math.max(bottom, segments[i + 1] as number);
  }
  const [width, height] = n > 0 ? [right - left, bottom - top] : [1, 1];
  const courses = coursesOf(segments);
  // Not far smaller than the walls are long, or a few long ones would fill many buckets.
  const side = Math.max(Math.sqrt((width * height) / Math.max(1, n)), meanLength(courses) / 2, width / MOST, height / MOST, 1e-3);
  const buckets: WallBuckets = {
    segments,
    courses,
    left: n > 0 ? left : 0,
    top: n > 0 ? top : 0,
    side,
    columns: Math.floor(width / side) + 1,
    rows: Math.floor(height / side) + 1,
    starts: new Int32Array(0),
    items: new Int32Array(0),
  };
  // Count, then fill: two passes over the same buckets.
  const starts = new Int32Array(buckets.columns * buckets.rows + 1);
  eachBucket(buckets, (bucket) => {
    starts[bucket + 1] = (starts[bucket + 1] as number) + 1;
  });
  for (let b = 1; b < starts.length; b++) starts[b] = (starts[b] as number) + (starts[b - 1] as number);
  const items = new Int32Array(starts.at(-1) as number);
  const next = starts.slice();
  eachBucket(buckets, (bucket, segment) => {
    items[next[bucket] as number] = segment;
    next[bucket] = (next[bucket] as number) + 1;
  });
  return { ...buckets, starts, items };
}

function meanLength(courses: Float64Array): number {
  let sum = 0;
  for (let c = 2; c < courses.length; c += 3) sum += courses[c] as number;
  return courses.length === 0 ? 0 : (sum * 3) / courses.length;
}

function coursesOf(segments: Float64Array): Float64Array {
  const courses = new Float64Array((segments.length / 4) * 3);
  layCourses(segments, courses, segments.length / 4);
  return courses;
}

/** Computes of each segment its direction as a unit vector and its length: ux, uy, length. */
function layCourses(segments: Float64Array, courses: Float64Array, many: number): void {
  for (let wall = 0; wall < many; wall++) {
    const ex = (segments[wall * 4 + 2] as number) - (segments[wall * 4] as number);
    const ey = (segments[wall * 4 + 3] as number) - (segments[wall * 4 + 1] as number);
    const size = Math.sqrt(ex * ex + ey * ey);
    courses[wall * 3] = ex / size;
    courses[wall * 3 + 1] = ey / size;
    courses[wall * 3 + 2] = size;
  }
}

/** Every bucket that a segment's box touches and its line passes, with the segment. */
function eachBucket(buckets: WallBuckets, visit: (bucket: number, segment: number) => void): void {
  const { segments, courses, left, top, side, columns, rows } = buckets;
  const column = (x: number) => Math.min(columns - 1, Math.max(0, Math.floor((x - left) / side)));
  const row = (y: number) => Math.min(rows - 1, Math.max(0, Math.floor((y - top) / side)));
  const half = side / 2;
  for (let s = 0, i = 0; i < segments.length; s++, i += 4) {
    const x0 = segments[i] as number;
    const y0 = segments[i + 1] as number;
    const x1 = segments[i + 2] as number;
    const y1 = segments[i + 3] as number;
    const [fromRow, toRow] = [row(Math.min(y0, y1)), row(Math.max(y0, y1))];
    const [fromColumn, toColumn] = [column(Math.min(x0, x1)), column(Math.max(x0, x1))];
    // A level segment passes all the buckets of its box.
    const level = x0 === x1 || y0 === y1;
    const nx = -(courses[s * 3 + 1] as number);
    const ny = courses[s * 3] as number;
    const reach = half * (Math.abs(nx) + Math.abs(ny)) * 1.0001;
    for (let r = fromRow; r <= toRow; r++)
      for (let c = fromColumn; c <= toColumn; c++) {
        const away = level ? 0 : (left + (c + 0.5) * side - x0) * nx + (top + (r + 0.5) * side - y0) * ny;
        if (away <= reach && away >= -reach) visit(r * columns + c, s);
      }
  }
}

/**
 * Finds walls by place: the cost of a search depends on the nearby walls only, and it allocates nothing. `near` writes the numbers of the segments
 * whose buckets touch a box into `found`, each once.
 */
export class WallIndex {
  readonly buckets: WallBuckets;
  /** Numbers of the segments that the last search found: the first `count` of them. */
  readonly found: Int32Array;
  count = 0;
  /** The box of the current query, in fields because passing four numbers costs time. */
  readonly box = { left: 0.5, top: 0.5, right: 0.5, bottom: 0.5 };
  /** The search in which a segment was found last. */
  readonly #stamps: Int32Array;
  #search = 0;

  constructor(buckets: WallBuckets) {
    this.buckets = buckets;
    const n = buckets.segments.length / 4;
    this.found = new Int32Array(n);
    this.#stamps = new Int32Array(n);
  }

  get segments(): Float64Array {
    return this.buckets.segments;
  }

  /** Finds the segments near a box; afterwards `found` holds `count` numbers. */
  near(left: number, top: number, right: number, bottom: number): void {
    this.box.left = left;
    this.box.top = top;
    this.box.right = right;
    this.box.bottom = bottom;
    this.search();
  }

  /** Finds the segments near `box`, as set. */
  search(): void {
    this.count = 0;
    const { left, top, right, bottom } = this.box;
    const { buckets, found } = this;
    const { starts, items, columns, rows, side } = buckets;
    if (items.length === 0) return;
    const search = ++this.#search;
    const stamps = this.#stamps;
    const fromColumn = held(Math.floor((left - buckets.left) / side), columns);
    const toColumn = held(Math.floor((right - buckets.left) / side), columns);
    const fromRow = held(Math.floor((top - buckets.top) / side), rows);
    const toRow = held(Math.floor((bottom - buckets.top) / side), rows);
    let count = 0;
    for (let row = fromRow; row <= toRow; row++)
      for (let bucket = row * columns + fromColumn; bucket <= row * columns + toColumn; bucket++) {
        const end = starts[bucket + 1] as number;
        for (let i = starts[bucket] as number; i < end; i++) {
          const segment = items[i] as number;
          if (stamps[segment] === search) continue;
          stamps[segment] = search;
          found[count++] = segment;
        }
      }
    this.count = count;
  }
}

/** Square of the distance of a point from a segment. */
export function squareTo({ segments, courses }: WallBuckets, segment: number, x: number, y: number): number {
  const rx = x - (segments[segment * 4] as number);
  const ry = y - (segments[segment * 4 + 1] as number);
  const ux = courses[segment * 3] as number;
  const uy = courses[segment * 3 + 1] as number;
  const size = courses[segment * 3 + 2] as number;
  const foot = rx * ux + ry * uy;
  const held = foot < 0 ? 0 : foot > size ? size : foot;
  const fx = rx - ux * held;
  const fy = ry - uy * held;
  return fx * fx + fy * fy;
}

/** A column or row held within the buckets: the outermost ones stand for everything beyond. */
function held(place: number, many: number): number {
  return place < 0 ? 0 : place >= many ? many - 1 : place;
}
