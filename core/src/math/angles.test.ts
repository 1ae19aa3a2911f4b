import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { turnTo } from './angles.ts';

describe('the turn between two angles', () => {
  it('is the shorter one, to the side that is positive where both are half a turn', () => {
    expect([turnTo(0, 90), turnTo(90, 0), turnTo(350, 10), turnTo(-170, 170), turnTo(0, 180), turnTo(180, 0), turnTo(45, 765)]).toEqual([
      90, -90, 20, -20, 180, 180, 0,
    ]);
  });

  it('leads to the other angle, whatever turns are in both', () => {
    const angle = fc.double({ min: -2000, max: 2000, noNaN: true });
    fc.assert(
      fc.property(angle, angle, (from, to) => {
        const turn = turnTo(from, to);
        expect(turn).toBeGreaterThan(-180 - 1e-9);
        expect(turn).toBeLessThanOrEqual(180);
        const point = (degrees: number) => [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
        const [[x = 0, y = 0], [wantedX = 0, wantedY = 0]] = [point(from + turn), point(to)];
        expect(Math.hypot(x - wantedX, y - wantedY)).toBeLessThan(1e-9);
      }),
    );
  });
});
