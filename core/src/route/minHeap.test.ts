import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MinHeap } from './minHeap.ts';

describe('a heap', () => {
  it('returns its items by their keys, the least first, at any time', () => {
    // A number is put in; null takes one out.
    fc.assert(
      fc.property(fc.array(fc.option(fc.integer({ min: 0, max: 50 }), { freq: 3 })), (steps) => {
        const heap = new MinHeap();
        const waiting: number[] = [];
        for (const step of [...steps, ...steps.map(() => null)]) {
          const least = waiting.length === 0 ? Infinity : Math.min(...waiting);
          expect(heap.least).toBe(least);
          if (step !== null) {
            heap.push(step + 1000, step);
            waiting.push(step);
          } else if (waiting.length === 0) expect(heap.pop()).toBe(-1);
          else {
            expect(heap.pop()).toBe(least + 1000);
            waiting.splice(waiting.indexOf(least), 1);
          }
        }
        expect(heap.pop()).toBe(-1);
      }),
    );
  });

  it('holds more than it has room for at first, and nothing once it is cleared', () => {
    const heap = new MinHeap();
    for (let i = 0; i < 2000; i++) heap.push(i, (i * 7919) % 2003);
    const keys = Array.from({ length: 2000 }, () => (heap.pop() * 7919) % 2003);
    expect(keys).toEqual([...keys].sort((a, b) => a - b));
    heap.push(1, 1);
    heap.push(2, 2);
    heap.clear();
    expect(heap.least).toBe(Infinity);
    expect(heap.pop()).toBe(-1);
  });
});
