import { describe, expect, it } from 'vitest';
import { significant, significantPair } from './significant.ts';

describe('a number in significant digits', () => {
  it.each([
    [22.299, '22.3'],
    [0.05823, '0.0582'],
    [442.453, '442'],
    [60, '60'],
    [0, '0'],
    [-0.92916, '-0.929'],
    [1234.5, '1235'],
    [123456, '123456'],
    [1e21, '1e+21'],
  ])('%d is %s', (value, words) => expect(significant(value)).toBe(words));

  it('is within half a unit of its last digit, for any size', () => {
    for (let i = 0; i < 2000; i++) {
      const value = (i % 2 ? 1 : -1) * 10 ** (((i * 37) % 180) / 10 - 9) * (1 + ((i * 61) % 97) / 97);
      for (const digits of [1, 2, 3, 5]) {
        const unit = Math.max(10 ** (Math.floor(Math.log10(Math.abs(value))) - digits + 1), 0);
        const bound = Math.abs(value) >= 10 ** digits ? 0.5 : unit / 2;
        expect(Math.abs(Number(significant(value, digits)) - value)).toBeLessThanOrEqual(bound * (1 + 1e-9));
      }
    }
  });

  it('has as many digits as distinguish it from another one', () => {
    expect(significantPair(0.99961, 1)).toEqual(['0.9996', '1']);
    expect(significantPair(140, 140.04)).toEqual(['140', '140.04']);
    expect(significantPair(140, 110)).toEqual(['140', '110']);
    expect(significantPair(5, 5)).toEqual(['5', '5']);
    expect(significantPair(1, 1 + Number.EPSILON)).toEqual(['1', '1.0000000000000002']);
    expect(significantPair(2000.25, 2000.375)).toEqual(['2000.3', '2000.4']);
  });
});
