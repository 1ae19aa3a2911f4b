import { describe, expect, it } from 'vitest';
import { readingOf } from './readings.ts';

describe('a reading', () => {
  it.each([
    [4.1666, null, '4.17'],
    [0.12149, { min: 0.1, max: 0.2 }, '0.121'],
    [0.20004, { max: 0.2 }, '0.20004'],
    [0.09996, { min: 0.1 }, '0.09996'],
    [0.25, { max: 0.2 }, '0.25'],
    [1234.56, null, '1235'],
  ] as const)('of %d within %j is %s', (value, band, words) => expect(readingOf(value, band)).toBe(words));

  it('of a value out of its band is out of it, too', () => {
    for (let i = 1; i < 3000; i++) {
      // Ends as people type them: with three decimals at most.
      const end = ((i * 7919) % 40_000) / 1000 + 0.001;
      const by = 10 ** -((i % 9) + 1);
      expect(Number(readingOf(end * (1 + by), { max: end })), `above ${end}`).toBeGreaterThan(end);
      expect(Number(readingOf(end * (1 - by), { min: end })), `below ${end}`).toBeLessThan(end);
    }
  });
});
