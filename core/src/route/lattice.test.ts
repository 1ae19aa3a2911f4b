import fc from 'fast-check';
import { expect, it } from 'vitest';
import { orient } from './lattice.ts';

it('orient has the sign, and the value, of exact whole-number arithmetic', () => {
  const near = fc.integer({ min: -(2 ** 25), max: 2 ** 25 });
  fc.assert(
    fc.property(near, near, near, near, near, near, fc.integer({ min: -2, max: 2 }), (ax, ay, bx, by, cx, cy, nudge) => {
      const exact = (points: number[]) => {
        const [px, py, qx, qy, rx, ry] = points.map(BigInt) as [bigint, bigint, bigint, bigint, bigint, bigint];
        return (py - ry) * (qx - rx) - (px - rx) * (qy - ry);
      };
      // Anywhere, and with the third point on or beside the line of the others.
      for (const points of [
        [ax, ay, bx, by, cx, cy],
        [ax, ay, bx, by, ax, ay + nudge],
        [ax, ay, bx, by, Math.round((ax + bx) / 2), Math.round((ay + by) / 2) + nudge],
      ])
        expect(BigInt(orient(...(points as [number, number, number, number, number, number])))).toBe(exact(points));
    }),
    { numRuns: 5000 },
  );
});
