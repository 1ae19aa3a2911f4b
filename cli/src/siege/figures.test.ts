import { describe, expect, it } from 'vitest';
import { Dice } from './dice.ts';
import { atLeast, none, quantile, tableOf, unbounded, under } from './figures.ts';
import { generated } from './requests.ts';

describe('figures', () => {
  it('are within their reach, or not', () => {
    expect([none('a', 'b', 0), none('a', 'b', 1)].map(({ isGood }) => isGood)).toEqual([true, false]);
    expect([under('a', 'b', 5.9, 6, 's'), under('a', 'b', 6, 6, 's')].map(({ isGood }) => isGood)).toEqual([true, false]);
    expect([atLeast('a', 'b', 300, 300), atLeast('a', 'b', 299, 300)].map(({ isGood }) => isGood)).toEqual([true, false]);
    expect(unbounded('a', 'b', 'c').isGood).toBe(true);
  });

  it('stand in a table whose columns line up', () => {
    const lines = tableOf([none('kills', 'lost', 2), unbounded('kills', 'how many', 'a very long figure of words')]).split('\n');
    expect(lines).toHaveLength(4);
    expect(new Set(lines.map((line) => line.length)).size).toBe(1);
    expect(lines[2]).toMatch(/\| kills +\| lost +\| 2 +\| 0 +\| NOT met +\|/);
  });

  it('know which share of values lies under which', () => {
    const values = Array.from({ length: 100 }, (_, i) => 99 - i);
    expect([quantile(values, 0), quantile(values, 0.5), quantile(values, 0.99), quantile(values, 1)]).toEqual([0, 50, 99, 99]);
    expect(quantile([], 0.5)).toBe(0);
  });
});

describe('chance', () => {
  it('comes again for a seed, is another for another, and spreads evenly', () => {
    const draw = (seed: number) => {
      const dice = new Dice(seed);
      return Array.from({ length: 1000 }, () => dice.below(10));
    };
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
    for (let i = 0; i < 10; i++) expect(draw(7).filter((n) => n === i).length).toBeGreaterThan(60);
  });

  it('makes requests that can be sent, of all methods', () => {
    const dice = new Dice(1);
    const requests = Array.from({ length: 3000 }, () => generated(dice, { tunings: ['1'], grounds: ['2'], tapes: ['3'] }));
    for (const { path } of requests) expect(path).toMatch(/^[!-~]+$/);
    expect(new Set(requests.map(({ method }) => method)).size).toBe(10);
  });
});
