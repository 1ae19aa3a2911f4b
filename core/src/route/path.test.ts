import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pathLength, pathThrough } from './path.ts';

const coordinate = fc.integer({ min: -50, max: 50 });

describe('the path through an interval', () => {
  it('is straight where the interval lets it through, and goes round its ends where it does not', () => {
    expect(pathThrough(0, -10, -5, 0, 5, 0, 0, 10)).toBe(20);
    expect(pathThrough(0, -3, -1, 0, 1, 0, 5, 3)).toBeCloseTo(Math.hypot(1, 3) + Math.hypot(4, 3), 12);
    expect(pathThrough(0, -3, -1, 0, 1, 0, -5, 3)).toBeCloseTo(Math.hypot(1, 3) + Math.hypot(4, 3), 12);
  });

  it('to a target on this side is there and back, as to its mirror image', () => {
    expect(pathThrough(0, -10, -5, 0, 5, 0, 0, -10)).toBe(20);
    expect(pathThrough(-3, -4, -5, 0, 5, 0, 3, -4)).toBe(10);
  });

  it('from a root on its line passes the nearer end, or goes straight from within', () => {
    expect(pathThrough(-8, 0, -5, 0, 5, 0, -5, 4)).toBe(3 + 4);
    expect(pathThrough(8, 0, -5, 0, 5, 0, 5, 4)).toBe(3 + 4);
    expect(pathThrough(0, 0, -5, 0, 5, 0, 3, 4)).toBe(5);
    expect(pathThrough(-5, 0, -5, 0, 5, 0, -2, 4)).toBe(5);
  });

  it('is the least over all points of the interval, and so never longer than any path through', () => {
    fc.assert(
      fc.property(coordinate, coordinate, fc.integer({ min: 1, max: 40 }), coordinate, coordinate, (px, depth, width, tx, ty) => {
        // Seen from below, the interval's left end lies at −width, its right end at width.
        const py = -1 - Math.abs(depth);
        const found = pathThrough(px, py, -width, 0, width, 0, tx, ty);
        let least = Infinity;
        for (let i = 0; i <= 8000; i++) {
          const x = -width + (2 * width * i) / 8000;
          least = Math.min(least, Math.hypot(x - px, py) + Math.hypot(tx - x, ty));
        }
        expect(found).toBeLessThanOrEqual(least + 1e-9);
        // The nearest sampled point is at most half a spacing off the best one, 0.005, and a path grows by at most twice that.
        expect(found).toBeGreaterThan(least - 0.01 - 1e-9);
      }),
      { examples: [[-14, 36, 26, -25, 0]] },
    );
  });
});

describe('the length of a path', () => {
  it('is the sum of its legs', () => {
    expect(
      pathLength([
        [0, 0],
        [3, 4],
        [3, 10],
      ]),
    ).toBe(11);
    expect(pathLength([[5, 5]])).toBe(0);
  });
});
