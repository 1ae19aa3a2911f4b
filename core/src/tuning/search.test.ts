import { describe, expect, it } from 'vitest';
import { specs } from './catalogue/catalogue.ts';
import { parameterNamed, readSearch } from './search.ts';

describe('a search', () => {
  it('is text, where it asks for no number', () => {
    for (const text of ['day boots', 'Boots, day', 'salt and pepper', 'a > b', '> 5', 'nothing at all > 5', '', '  '])
      expect(readSearch(text), text).toEqual({ text: text.trim(), conditions: [] });
  });

  it('asks for numbers by path, label or beginning', () => {
    for (const name of ['walk', 'Walk', 'pace.walkSpeed', 'walkSpeed', 'walk speed', 'walk_speed', 'WALK-SPEED'])
      expect(readSearch(`${name} > 150`), name).toEqual({ text: '', conditions: [{ path: 'pace.walkSpeed', is: '>', value: 150 }] });
  });

  it('accepts every sign and every notation of a number', () => {
    const conditionsOf = (text: string) => readSearch(text).conditions.map(({ is, value }) => [is, value]);
    expect(conditionsOf('walk<1')).toEqual([['<', 1]]);
    expect(conditionsOf('walk <= .5')).toEqual([['<=', 0.5]]);
    expect(conditionsOf('walk ≥ 1e3')).toEqual([['>=', 1000]]);
    expect(conditionsOf('walk ≤ -2.5')).toEqual([['<=', -2.5]]);
    expect(conditionsOf('walk = 140.')).toEqual([['=', 140]]);
  });

  it('goes together with text and with other numbers', () => {
    expect(readSearch('boots, walk > 100 and walk < 150')).toEqual({
      text: 'boots',
      conditions: [
        { path: 'pace.walkSpeed', is: '>', value: 100 },
        { path: 'pace.walkSpeed', is: '<', value: 150 },
      ],
    });
  });

  it('finds every numeric parameter by its path, and some parameter by its label', () => {
    for (const [path, { kind, label }] of specs) {
      if (kind !== 'number') continue;
      expect(parameterNamed(path)).toBe(path);
      const found = parameterNamed(label);
      expect(found && specs.get(found)?.label).toBe(label);
    }
  });
});
