import type { Probe } from './probe.ts';
import { sweepBoxes } from './sweepBox.ts';
import { sweepCircles } from './sweepCircle.ts';

/** Sees to it that `near` holds all walls that the body can touch while its centre is no farther than `reach` from where it is. */
export function gather(p: Probe, reach: number): void {
  if (p.x - reach >= p.left && p.x + reach <= p.right && p.y - reach >= p.top && p.y + reach <= p.bottom) return;
  search(p, reach);
}

/** Looks a little farther than asked, so that the next ticks need not look again. */
function search(p: Probe, reach: number): void {
  const room = 2 * reach + p.halfWidth + p.halfHeight;
  p.left = p.x - room;
  p.right = p.x + room;
  p.top = p.y - room;
  p.bottom = p.y + room;
  const left = p.left - p.halfWidth;
  const right = p.right + p.halfWidth;
  const top = p.top - p.halfHeight;
  const bottom = p.bottom + p.halfHeight;
  const { index } = p;
  index.near(left, top, right, bottom);
  const { segments, found } = index;
  if (p.near.length < index.count) p.near = new Int32Array(2 * index.count);
  const { near } = p;
  let count = 0;
  for (let k = 0; k < index.count; k++) {
    const wall = found[k] as number;
    const ax = segments[wall * 4] as number;
    const ay = segments[wall * 4 + 1] as number;
    const bx = segments[wall * 4 + 2] as number;
    const by = segments[wall * 4 + 3] as number;
    if ((ax < left && bx < left) || (ax > right && bx > right) || (ay < top && by < top) || (ay > bottom && by > bottom)) continue;
    near[count++] = wall;
  }
  p.count = count;
  if (count > 32) near.subarray(0, count).sort();
  else sortFew(near, count);
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

/** Finds the first contact on the way among the walls near by; true when there is one. With none, `time` is 1. */
export function sweep(p: Probe): boolean {
  if (p.circle) sweepCircles(p);
  else sweepBoxes(p);
  return p.wall >= 0;
}
