import fc from 'fast-check';
import { expect, it } from 'vitest';
import { shareAlong } from './segment.ts';

const number = fc.double({ min: -1e3, max: 1e3, noNaN: true });

it('no other place on the segment is nearer', () => {
  fc.assert(
    fc.property(number, number, number, number, (x, y, ex, ey) => {
      const share = shareAlong(x, y, ex, ey);
      const far = (at: number) => Math.hypot(x - at * ex, y - at * ey);
      expect(share).toBeGreaterThanOrEqual(0);
      expect(share).toBeLessThanOrEqual(1);
      for (let at = 0; at <= 1; at += 1 / 64) expect(far(share)).toBeLessThanOrEqual(far(at) + 1e-6);
    }),
    { numRuns: 2000 },
  );
});

it('a segment without extent is its own beginning', () => expect(shareAlong(3, 4, 0, 0)).toBe(0));
