import fc from 'fast-check';
import { expect, it } from 'vitest';
import { laneHeights } from './laneHeights.ts';

const shares = fc.array(fc.double({ min: 0.1, max: 10, noNaN: true }), { minLength: 1, maxLength: 12 });

it('fills what is free, leaves every name its room, and gives the larger share no less', () => {
  fc.assert(
    fc.property(shares, fc.double({ min: 0, max: 600, noNaN: true }), (all, free) => {
      const heights = laneHeights(all, free, 10);
      expect(heights.reduce((a, b) => a + b)).toBeCloseTo(free, 6);
      const least = Math.min(10, free / all.length);
      for (const height of heights) expect(height).toBeGreaterThanOrEqual(least - 1e-9);
      all.forEach((share, i) => {
        all.forEach((other, k) => {
          if (share > other) expect(heights[i]).toBeGreaterThanOrEqual((heights[k] as number) - 1e-9);
        });
      });
    }),
  );
});

it('is by shares where all have room', () => expect(laneHeights([1, 3], 80, 10)).toEqual([20, 60]));
