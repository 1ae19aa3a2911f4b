import { describe, expect, it } from 'vitest';
import { sequence } from '../testing/sequence.ts';
import { atLeast, chanceOf, shareInterval } from './binomial.ts';

/** P(X ≥ k) by walking all 2ⁿ outcomes, row after row of Pascal's triangle. */
function counted(k: number, n: number, p: number): number {
  let chances = [1];
  for (let i = 0; i < n; i++) {
    const next = Array.from({ length: chances.length + 1 }, () => 0);
    for (const [j, chance] of chances.entries()) {
      next[j] = (next[j] as number) + chance * (1 - p);
      next[j + 1] = (next[j + 1] as number) + chance * p;
    }
    chances = next;
  }
  return chances.slice(Math.max(0, k)).reduce((a, b) => a + b, 0);
}

describe('a tally', () => {
  it('has the chances of a coin', () => {
    expect(chanceOf(7, 9)).toBeCloseTo(46 / 512, 12);
    expect(chanceOf(5, 5)).toBeCloseTo(1 / 32, 12);
    expect(chanceOf(0, 0)).toBe(1);
  });

  it('agrees with counting for any chance', () => {
    const next = sequence(31);
    for (let i = 0; i < 200; i++) {
      const n = Math.floor(next() * 40);
      const k = Math.floor(next() * (n + 2));
      const p = next();
      expect(atLeast(k, n, p), `${k} of ${n} at ${p}`).toBeCloseTo(counted(k, n, p), 9);
    }
  });

  it('bounds the share from both sides, each with half of what is left', () => {
    // 1 − 0.025^(1/n) and its mirror, where all or none are seen.
    expect(shareInterval(0, 10)[0]).toBe(0);
    expect(shareInterval(0, 10)[1]).toBeCloseTo(1 - 0.025 ** 0.1, 9);
    expect(shareInterval(10, 10)[0]).toBeCloseTo(0.025 ** 0.1, 9);
    expect(shareInterval(0, 0)).toEqual([0, 1]);
    for (let n = 1; n <= 30; n++)
      for (let k = 0; k <= n; k++) {
        const [low, high] = shareInterval(k, n);
        expect(low).toBeLessThanOrEqual(k / n);
        expect(high).toBeGreaterThanOrEqual(k / n);
        if (k > 0) expect(counted(k, n, low)).toBeCloseTo(0.025, 6);
        if (k < n) expect(counted(k + 1, n, high)).toBeCloseTo(0.975, 6);
      }
  });
});
