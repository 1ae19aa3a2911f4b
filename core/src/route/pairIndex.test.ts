import { describe, expect, it } from 'vitest';
import { PairIndex } from './pairIndex.ts';

describe('numbers for pairs', () => {
  it('count up as pairs are met, and are the same for the same pair ever after, as with a map', () => {
    const index = new PairIndex();
    const map = new Map<string, number>();
    let state = 3;
    const next = () => {
      state = (Math.imul(state, 1664525) + 1013904223) | 0;
      return state >> 22;
    };
    for (let i = 0; i < 200_000; i++) {
      const [a, b] = [next(), next()];
      const known = map.get(`${a} ${b}`) ?? map.size;
      map.set(`${a} ${b}`, known);
      if (index.number(a, b) !== known) expect(`${a} ${b} → ${index.number(a, b)}`).toBe(`${a} ${b} → ${known}`);
    }
    expect(index.size).toBe(map.size);
    expect(map.size).toBeGreaterThan(100_000);
  });

  it('distinguish pairs by their order and their signs, to the ends of 32 bits', () => {
    const index = new PairIndex();
    const ends = [0, 1, -1, 2 ** 31 - 1, -(2 ** 31)];
    const numbers = ends.flatMap((a) => ends.map((b) => index.number(a, b)));
    expect(new Set(numbers).size).toBe(ends.length ** 2);
    expect(ends.flatMap((a) => ends.map((b) => index.number(a, b)))).toEqual(numbers);
  });
});
