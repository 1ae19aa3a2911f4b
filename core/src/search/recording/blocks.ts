import type { Drive, Variation } from './drive.ts';

/** Seconds of a block: its rows share an unknown offset of the place, so that an error early on doesn’t count for ever. */
const BLOCK = 1;

/** Derivatives of the deviations by a parameter, in the rows from `begin` to before `end`; 0 elsewhere. */
export interface Column {
  begin: number;
  end: number;
  ax: Float64Array;
  ay: Float64Array;
}

/** The rows of a recording in blocks of a second, whose offsets don’t count. */
export class Blocks {
  /** The first row of each block, and the number of rows. */
  readonly #firsts: number[] = [];
  readonly #blockOf: Int32Array;

  constructor(times: Float64Array) {
    this.#blockOf = new Int32Array(times.length);
    let last = -1;
    for (const [row, time] of times.entries()) {
      const second = Math.floor((time - (times[0] as number)) / BLOCK);
      if (second !== last) this.#firsts.push(row);
      last = second;
      this.#blockOf[row] = this.#firsts.length - 1;
    }
    this.#firsts.push(times.length);
  }

  get count(): number {
    return this.#firsts.length - 1;
  }

  /** Subtracts the weighted mean of each block. */
  centred(values: Float64Array, weights: Float64Array): Float64Array {
    this.#centre(values, 0, values.length, weights);
    return values;
  }

  /** `values` are those of the rows from `begin`, a first row of a block, to before `end`. */
  #centre(values: Float64Array, begin: number, end: number, weights: Float64Array): void {
    if (begin >= end) return;
    for (let block = this.#blockOf[begin] as number; (this.#firsts[block] as number) < end; block++) {
      const [first, last] = [this.#firsts[block] as number, this.#firsts[block + 1] as number];
      let [sum, total] = [0, 1e-9];
      for (let row = first; row < last; row++) {
        sum += (weights[row] as number) * (values[row - begin] as number);
        total += weights[row] as number;
      }
      for (let row = first; row < last; row++) values[row - begin] = (values[row - begin] as number) - sum / total;
    }
  }

  /** The derivatives of the deviations by a parameter that was varied by `step`. */
  column({ from, to, px, py, dx, dy }: Variation, drive: Drive, step: number, weights: Float64Array): Column {
    const count = this.#blockOf.length;
    if (from >= count) return { begin: 0, end: 0, ax: new Float64Array(0), ay: new Float64Array(0) };
    const begin = this.#firsts[this.#blockOf[from] as number] as number;
    // Blocks in which all rows differ by the same don’t count.
    const block = this.#blockOf[Math.min(to, count - 1)] as number;
    const end = to < count && to === this.#firsts[block] ? to : (this.#firsts[block + 1] as number);
    const [ax, ay] = [new Float64Array(end - begin), new Float64Array(end - begin)];
    for (let row = from; row < end; row++) {
      ax[row - begin] = (row < to ? (drive.px[row] as number) - (px[row] as number) : -dx) / step;
      ay[row - begin] = (row < to ? (drive.py[row] as number) - (py[row] as number) : -dy) / step;
    }
    this.#centre(ax, begin, end, weights);
    this.#centre(ay, begin, end, weights);
    return { begin, end, ax, ay };
  }

  /** The weighted product of two columns. */
  product(one: Column, other: Column, weights: Float64Array): number {
    let sum = 0;
    const end = Math.min(one.end, other.end);
    for (let row = Math.max(one.begin, other.begin); row < end; row++) {
      const [i, j] = [row - one.begin, row - other.begin];
      sum += (weights[row] as number) * ((one.ax[i] as number) * (other.ax[j] as number) + (one.ay[i] as number) * (other.ay[j] as number));
    }
    return sum;
  }
}
