import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { atan2, cos, exp, exp2, log, pow, sin, wrapAngle } from './functions.ts';

/** Relative difference, absolute near zero: what "to the last bits" means here. */
const apart = (a: number, b: number) => Math.abs(a - b) / Math.max(1e-300, Math.abs(b));

describe('deterministic functions against the engine', () => {
  it('sin and cos agree to 2 ulp of 1 over many turns', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e4, max: 1e4, noNaN: true }), (x) => {
        expect(Math.abs(sin(x) - Math.sin(x))).toBeLessThan(5e-16);
        expect(Math.abs(cos(x) - Math.cos(x))).toBeLessThan(5e-16);
      }),
      { numRuns: 3000 },
    );
  });

  it('atan2 agrees in every quadrant', () => {
    const part = fc.double({ min: -1e6, max: 1e6, noNaN: true, noDefaultInfinity: true });
    fc.assert(
      fc.property(part, part, (y, x) => {
        if (Math.abs(x) + Math.abs(y) < 1e-200) return;
        expect(Math.abs(wrapAngle(atan2(y, x) - Math.atan2(y, x)))).toBeLessThan(1e-15);
      }),
      { numRuns: 3000 },
    );
  });

  it('exp and log agree, from the smallest double to the largest', () => {
    fc.assert(
      fc.property(fc.double({ min: -700, max: 700, noNaN: true }), (x) => {
        expect(apart(exp(x), Math.exp(x))).toBeLessThan(5e-16);
      }),
      { numRuns: 3000 },
    );
    fc.assert(
      fc.property(fc.double({ min: 5e-324, max: 1.7e308, noNaN: true }), (x) => {
        expect(Math.abs(log(x) - Math.log(x))).toBeLessThanOrEqual(4e-16 * Math.max(1, Math.abs(Math.log(x))));
      }),
      { numRuns: 3000 },
    );
  });

  it('has exact values at the ends and at the axes', () => {
    expect(atan2(0, -1)).toBe(Math.PI);
    expect(atan2(-1, 0)).toBe(-Math.PI / 2);
    expect(atan2(0, 0)).toBe(0);
    expect(exp(0)).toBe(1);
    expect(exp(-1000)).toBe(0);
    expect(exp(1000)).toBe(Infinity);
    expect(log(0)).toBe(-Infinity);
    expect(log(-1)).toBeNaN();
    expect(exp2(-1)).toBeCloseTo(0.5, 15);
    expect(pow(0, 2)).toBe(0);
    expect(pow(0.25, 0.5)).toBeCloseTo(0.5, 15);
  });
});

describe('wrapAngle', () => {
  it('keeps the angle and lands in (−π, π]', () => {
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), (angle) => {
        const wrapped = wrapAngle(angle);
        expect(wrapped).toBeGreaterThan(-Math.PI);
        expect(wrapped).toBeLessThanOrEqual(Math.PI);
        expect(Math.cos(wrapped)).toBeCloseTo(Math.cos(angle), 9);
        expect(Math.sin(wrapped)).toBeCloseTo(Math.sin(angle), 9);
      }),
    );
    expect(wrapAngle(-Math.PI)).toBe(Math.PI);
  });
});
