import type { Probe } from './probe.ts';
import { sweepBoxes } from './sweepBox.ts';
import { sweepCircles } from './sweepCircle.ts';

/** Ensures that `near` holds all walls that the body can touch while its centre is within the probe's `reach` of its place. */
export function gather(p: Probe): void {
  const { x, y, reach } = p;
  if (x - reach < p.left || x + reach > p.right || y - reach < p.top || y + reach > p.bottom) search(p);
}

/** Collects walls a little farther than requested, so that the next ticks need not collect again. */
function search(p: Probe): void {
  const room = 4 * p.reach + (p.halfWidth + p.halfHeight) / 4;
  p.left = p.x - room;
  p.right = p.x + room;
  p.top = p.y - room;
  p.bottom = p.y + room;
  lookUp(p);
  const { index } = p;
  const { segments, found } = index;
  const left = p.left - p.halfWidth;
  const right = p.right + p.halfWidth;
  const top = p.top - p.halfHeight;
  const bottom = p.bottom + p.halfHeight;
  reserve(p, index.count);
  const { near } = p;
  let count = 0;
  for (let k = 0; k < index.count; k++) {
    const wall = found[k] as number;
    const ax = segments[wall * 4] as number;
    const ay = segments[wall * 4 + 1] as number;
    const bx = segments[wall * 4 + 2] as number;
    const by = segments[wall * 4 + 3] as number;
    if ((ax < left && bx < left) || (ax > right && bx > right) || (ay < top && by < top) || (ay > bottom && by > bottom)) continue;
    near[count] = wall;
    count++;
  }
  p.count = count;
  putInOrder(near, count);
}

/** Queries the index for the walls that the body may touch while its centre is within the box. */
function lookUp(p: Probe): void {
  const { box } = p.index;
  box.left = p.left - p.halfWidth;
  box.right = p.right + p.halfWidth;
  box.top = p.top - p.halfHeight;
  box.bottom = p.bottom + p.halfHeight;
  p.index.search();
}

/** Reserves space for as many nearby walls as were found. */
function reserve(p: Probe, many: number): void {
  if (p.near.length < many) p.near = new Int32Array(2 * many);
}

/** Sorts the first `count` numbers. */
function putInOrder(numbers: Int32Array, count: number): void {
  if (count > 32) numbers.subarray(0, count).sort();
  else sortFew(numbers, count);
}

/** Insertion sort of the first `count` numbers. */
function sortFew(numbers: Int32Array, count: number): void {
  for (let i = 1; i < count; i++) {
    const number = numbers[i] as number;
    let at = i;
    for (; at > 0 && (numbers[at - 1] as number) > number; at--) numbers[at] = numbers[at - 1] as number;
    numbers[at] = number;
  }
}

/** Finds the first contact along the displacement among nearby walls; returns true if there is one. Without one, `time` is 1. */
export function sweep(p: Probe): boolean {
  if (p.circle) sweepCircles(p);
  else sweepBoxes(p);
  return p.wall >= 0;
}
