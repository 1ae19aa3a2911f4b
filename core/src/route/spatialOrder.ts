/** Cells a side of the square by which things are ordered: a power of two. */
const CELLS = 256;

/**
 * An order in which things near one another mostly follow one another, so that a walk over them finds its data nearby in memory, too: along a Z-order
 * curve (Morton 1966) over a square of cells, by counting.
 * @param x places, one a thing, any unit
 * @param y as x
 * @returns the things' numbers in their new order
 */
export function spatialOrder(x: Float64Array, y: Float64Array): Int32Array {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < x.length; i++) {
    left = Math.min(left, x[i] as number);
    right = Math.max(right, x[i] as number);
    top = Math.min(top, y[i] as number);
    bottom = Math.max(bottom, y[i] as number);
  }
  const size = Math.max(right - left, bottom - top) || 1;
  const cell = (value: number, from: number) => Math.min(CELLS - 1, Math.floor(((value - from) / size) * CELLS));
  const cells = x.map((value, i) => spread(cell(value, left)) + 2 * spread(cell(y[i] as number, top)));
  const starts = new Int32Array(CELLS * CELLS + 1);
  for (const at of cells) starts[at + 1] = (starts[at + 1] as number) + 1;
  for (let at = 1; at < starts.length; at++) starts[at] = (starts[at] as number) + (starts[at - 1] as number);
  const order = new Int32Array(x.length);
  cells.forEach((at, i) => {
    order[starts[at] as number] = i;
    starts[at] = (starts[at] as number) + 1;
  });
  return order;
}

/** The bits of a number with a gap after each. */
function spread(value: number): number {
  let spreadOut = 0;
  for (let bit = 0; 1 << bit < CELLS; bit++) spreadOut |= (value & (1 << bit)) << bit;
  return spreadOut;
}
