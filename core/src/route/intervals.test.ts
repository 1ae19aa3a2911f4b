import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { IntervalQueue } from './intervals.ts';

/** Puts an interval with this estimate into a queue; its side is its number. */
const put = (queue: IntervalQueue, whole: number, number: number) => queue.push(-1, 0, whole, 0, 1, -1, 2, 3, -1, number, -1);
const drain = (queue: IntervalQueue) => {
  const sides: number[] = [];
  for (let node = queue.pop(); node !== -1; node = queue.pop()) sides.push(queue.side[node] as number);
  return sides;
};

describe('a queue of intervals', () => {
  it('gives the shortest estimate first, of equal ones the older, whatever is put in between', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 30 }), { maxLength: 400 }), (estimates) => {
        const queue = new IntervalQueue();
        estimates.forEach((whole, i) => {
          put(queue, whole, i);
        });
        const sorted = estimates.map((whole, i) => ({ whole, i })).sort((a, b) => a.whole - b.whole || a.i - b.i);
        expect(drain(queue)).toEqual(sorted.map(({ i }) => i));
      }),
    );
  });

  it('grows beyond its first room and keeps what it holds', () => {
    const queue = new IntervalQueue();
    for (let i = 0; i < 5000; i++) put(queue, 5000 - i, i);
    expect(drain(queue)).toEqual(Array.from({ length: 5000 }, (_, i) => 4999 - i));
    queue.clear();
    expect(queue.pop()).toBe(-1);
    put(queue, 3, 7);
    expect(drain(queue)).toEqual([7]);
  });

  it('keeps what an interval is', () => {
    const queue = new IntervalQueue();
    queue.push(4, 10, 12, 1, 2, 5, 3, 4, 6, 8, 2);
    const node = queue.pop();
    expect([queue.root[node], queue.way[node], queue.left[node], queue.right[node], queue.side[node], queue.parent[node]]).toEqual([
      4, 10, 5, 6, 8, 2,
    ]);
    expect([queue.lx[node], queue.ly[node], queue.rx[node], queue.ry[node]]).toEqual([1, 2, 3, 4]);
  });
});
