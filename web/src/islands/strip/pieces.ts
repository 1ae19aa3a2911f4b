import type { Column, Trace } from '@zygopod/core';

/** Rows of the smallest block, how much larger each next kind is, and the largest. */
const SMALLEST = 4;
const LARGEST = 1024;

/** Lowest, highest and last value of each whole block of so many rows: a ring, like the trace's own. */
class Blocks {
  readonly size: number;
  readonly #room: number;
  readonly #low: Float64Array;
  readonly #high: Float64Array;
  readonly #last: Float64Array;
  /** Blocks that are known. */
  #known = 0;

  constructor(size: number, capacity: number) {
    this.size = size;
    this.#room = Math.ceil(capacity / size) + 2;
    this.#low = new Float64Array(this.#room);
    this.#high = new Float64Array(this.#room);
    this.#last = new Float64Array(this.#room);
  }

  low = (block: number) => this.#low[block % this.#room] as number;
  high = (block: number) => this.#high[block % this.#room] as number;
  last = (block: number) => this.#last[block % this.#room] as number;

  /** Computes the blocks that have become whole since. `finer` are those half as large; the smallest ones are read from the trace. */
  grow(trace: Trace, column: Column, finer: Blocks | null): void {
    const whole = Math.floor(trace.end / this.size);
    // Rows overwritten before they were read are no longer needed.
    this.#known = Math.max(this.#known, Math.ceil(trace.first / this.size));
    for (; this.#known < whole; this.#known++) {
      const block = this.#known;
      let [low, high, last] = [Infinity, -Infinity, 0];
      if (finer)
        for (const part of [2 * block, 2 * block + 1]) {
          low = Math.min(low, finer.low(part));
          high = Math.max(high, finer.high(part));
          last = finer.last(part);
        }
      else
        for (let row = block * this.size; row < (block + 1) * this.size; row++) {
          last = trace.at(column, row);
          low = Math.min(low, last);
          high = Math.max(high, last);
        }
      const at = block % this.#room;
      this.#low[at] = low;
      this.#high[at] = high;
      this.#last[at] = last;
    }
  }
}

/** The blocks of a column, all sizes, kept up with the trace as it is written. */
class Pyramid {
  readonly #levels: Blocks[] = [];
  readonly #trace: Trace;
  readonly #column: Column;
  readonly clears: number;

  constructor(trace: Trace, column: Column) {
    this.#trace = trace;
    this.#column = column;
    this.clears = trace.clears;
    for (let size = SMALLEST; size <= LARGEST; size *= 2) this.#levels.push(new Blocks(size, trace.capacity));
  }

  /** The largest blocks of at most so many rows; null if single rows are to be read. */
  upTo(rows: number): Blocks | null {
    const level = Math.min(this.#levels.length - 1, Math.floor(Math.log2(rows / SMALLEST)));
    if (!(level >= 0)) return null;
    for (let i = 0; i <= level; i++) this.#levels[i]?.grow(this.#trace, this.#column, this.#levels[i - 1] ?? null);
    return this.#levels[level] as Blocks;
  }
}

const pyramids = new WeakMap<Trace, Map<Column, Pyramid>>();

function pyramidOf(trace: Trace, column: Column): Pyramid {
  const columns = pyramids.get(trace) ?? new Map<Column, Pyramid>();
  pyramids.set(trace, columns);
  let pyramid = columns.get(column);
  if (!pyramid || pyramid.clears !== trace.clears) {
    pyramid = new Pyramid(trace, column);
    columns.set(column, pyramid);
  }
  return pyramid;
}

/**
 * The rows of a column from `from` to `to` (that one included), all held, in pieces of at most `most` rows each: its first and last row, its
 * lowest, highest and last value. A piece of many rows costs no more than one of a single row, so a long span costs no more than a short one.
 */
export function eachPiece(
  trace: Trace,
  column: Column,
  from: number,
  to: number,
  most: number,
  visit: (first: number, last: number, low: number, high: number, value: number) => void,
): void {
  const blocks = pyramidOf(trace, column).upTo(most);
  for (let row = from; row <= to; ) {
    if (blocks && row % blocks.size === 0 && row + blocks.size - 1 <= to) {
      const block = row / blocks.size;
      visit(row, row + blocks.size - 1, blocks.low(block), blocks.high(block), blocks.last(block));
      row += blocks.size;
      continue;
    }
    const value = trace.at(column, row);
    visit(row, row, value, value, value);
    row++;
  }
}
