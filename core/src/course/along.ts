import type { Ground } from '../ground/ground.ts';
import { shareAlong } from '../math/segment.ts';
import type { Trace } from '../motion/trace.ts';
import type { CoursePath } from './coursePath.ts';
import { LapTimer } from './lap.ts';

/** Rows and samples of the path that are aligned between two gates at most. */
const MOST_ROWS = 1500;
const MOST_SAMPLES = 600;
/** Fraction of the path by which a place before a gate stays short of it. */
const SHORT = 1e-7;

/** Distances along a path, with their places. */
interface Samples {
  s: Float64Array;
  x: Float64Array;
  y: Float64Array;
}

/** The places of a path from one distance to another: its corners, and enough between them. */
function samplesOf({ points }: CoursePath, from: number, to: number): Samples {
  const spacing = Math.max((to - from) / MOST_SAMPLES, 1e-9);
  const [s, x, y]: [number[], number[], number[]] = [[], [], []];
  let before = 0;
  for (let i = 1; i < points.length; i++) {
    const [[x0, y0], [x1, y1]] = [points[i - 1] as readonly [number, number], points[i] as readonly [number, number]];
    const size = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
    const [begin, end] = [Math.max(from, before), Math.min(to, before + size)];
    if (end >= begin && size > 0) {
      const count = Math.max(1, Math.ceil((end - begin) / spacing));
      for (let k = s.length === 0 ? 0 : 1; k <= count; k++) {
        const at = begin + ((end - begin) * k) / count;
        s.push(at);
        x.push(x0 + ((x1 - x0) * (at - before)) / size);
        y.push(y0 + ((y1 - y0) * (at - before)) / size);
      }
    }
    before += size;
  }
  return { s: Float64Array.from(s), x: Float64Array.from(x), y: Float64Array.from(y) };
}

/**
 * The sample of each row such that samples never fall back and the sum of squared distances is least: dynamic time warping whose steps are
 * not bounded (Sakoe and Chiba 1978).
 */
function aligned(rows: readonly number[], trace: Trace, { s, x, y }: Samples): Uint16Array {
  const many = s.length;
  const origins = new Uint16Array(rows.length * many);
  let costs = new Float64Array(many);
  let next = new Float64Array(many);
  for (const [i, row] of rows.entries()) {
    const [px, py] = [trace.at('x', row), trace.at('y', row)];
    let best = 0;
    for (let j = 0; j < many; j++) {
      if ((costs[j] as number) < (costs[best] as number)) best = j;
      origins[i * many + j] = best;
      next[j] = (costs[best] as number) + ((x[j] as number) - px) ** 2 + ((y[j] as number) - py) ** 2;
    }
    [costs, next] = [next, costs];
  }
  const found = new Uint16Array(rows.length);
  let j = costs.indexOf(costs.reduce((least, cost) => Math.min(least, cost), Number.POSITIVE_INFINITY));
  for (let i = rows.length - 1; i >= 0; i--) {
    found[i] = j;
    j = origins[i * many + j] as number;
  }
  return found;
}

/** The distance along the path at the foot of a place on one of the two pieces beside a sample. */
function footBeside({ s, x, y }: Samples, j: number, px: number, py: number): number {
  let best = Number.POSITIVE_INFINITY;
  let at = s[j] as number;
  for (const a of [j - 1, j]) {
    if (a < 0 || a + 1 >= s.length) continue;
    const [x0, y0] = [x[a] as number, y[a] as number];
    const [ex, ey] = [(x[a + 1] as number) - x0, (y[a + 1] as number) - y0];
    const share = shareAlong(px - x0, py - y0, ex, ey);
    const d = (x0 + ex * share - px) ** 2 + (y0 + ey * share - py) ** 2;
    if (d < best) [best, at] = [d, (s[a] as number) + ((s[a + 1] as number) - (s[a] as number)) * share];
  }
  return at;
}

/** Index of the first of sorted values that is not less than x, or that is greater. */
function firstFrom(values: Float64Array, x: number, isGreater: boolean): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const value = values[middle] as number;
    if (value < x || (isGreater && value === x)) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** On the straight line between two knots: the value of `ys` where `xs` reaches x for the first time, or for the last; the ends hold on. */
function between(xs: Float64Array, ys: Float64Array, x: number, which: 'first' | 'last'): number {
  const i = firstFrom(xs, x, which === 'last');
  if (i === 0) return ys[0] as number;
  if (i === xs.length) return ys.at(-1) as number;
  const [x0, x1] = [xs[i - 1] as number, xs[i] as number];
  return (ys[i - 1] as number) + ((ys[i] as number) - (ys[i - 1] as number)) * ((x - x0) / (x1 - x0));
}

/**
 * A drive's progress along the planned path of a course: times in s since the body left the start, distances in the ground's unit. Progress never
 * falls back; at a gate it is the gate's own distance, at the time at which the gate was crossed.
 */
export interface Along {
  /** Trace time at which the body left the start, s. */
  began: number;
  /** The farthest distance. */
  reached: number;
  /** Times at which touches began. */
  touches: number[];
  distanceAt(time: number): number;
  /** Time at which a distance was first reached; NaN if it never was. */
  timeAt(distance: number): number;
}

/** Aligns a drive that begins at the start of a ground's course with a planned path through its gates. */
export function alongCourse(trace: Trace, ground: Ground, path: CoursePath): Along {
  const timer = new LapTimer(ground);
  timer.begin(trace, trace.first);
  const touches: number[] = [];
  /** The rows between two crossings. */
  const legs: number[][] = [[]];
  for (let row = trace.first + 1; row < trace.end && !timer.isFinished; row++) {
    const before = timer.touches;
    timer.read(trace, row);
    // A touch in the move over the finish is at the finish.
    const time = timer.isFinished ? (timer.times.at(-1) as number) : trace.at('time', row) - timer.began;
    if (timer.touches > before) touches.push(time);
    while (legs.length <= timer.crossed) legs.push([]);
    if (!timer.isFinished && timer.began >= 0) legs.at(-1)?.push(row);
  }
  const [times, distances] = [[0], [0]];
  let last = 0;
  const push = (time: number, distance: number) => {
    last = Math.max(last, distance);
    times.push(time);
    distances.push(last);
  };
  for (const [leg, rows] of legs.entries()) {
    const to = path.gates[leg];
    if (to === undefined) break;
    const from = path.gates[leg - 1] ?? 0;
    const step = Math.ceil(rows.length / MOST_ROWS);
    const read = step > 1 ? rows.filter((_, i) => i % step === 0 || i === rows.length - 1) : rows;
    const samples = samplesOf(path, from, to);
    if (read.length > 0 && samples.s.length > 1) {
      const ceiling = Math.max(from, to - SHORT * path.length);
      for (const [i, sample] of aligned(read, trace, samples).entries()) {
        const row = read[i] as number;
        const foot = footBeside(samples, sample, trace.at('x', row), trace.at('y', row));
        const time = trace.at('time', row) - timer.began;
        // A tick that ends on a gate has its time: there the gate counts.
        if (time > (times.at(-1) as number)) push(time, Math.min(ceiling, foot));
      }
    }
    if (leg < timer.crossed) push(timer.times[leg] as number, to);
  }
  const [t, s] = [Float64Array.from(times), Float64Array.from(distances)];
  return {
    began: Math.max(0, timer.began),
    reached: last,
    touches,
    distanceAt: (time) => between(t, s, time, 'last'),
    timeAt: (distance) => (distance > last ? Number.NaN : between(s, t, distance, 'first')),
  };
}
