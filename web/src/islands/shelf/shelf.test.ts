import { newTuning, specs, withValue } from '@zygopod/core';
import { describe, expect, it, vi } from 'vitest';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { keptOr } from './kept.ts';
import { numbersCsv } from './numbersCsv.ts';
import { onTheLine } from './Soundings.tsx';
import { readQuery, writeQuery } from './shelfWork.ts';

describe('the address of a shelf', () => {
  it('says what is shown, found and how it is ordered, and nothing that is as at first', () => {
    expect(writeQuery({ board: 'tunings', q: '', sort: 'changed' })).toBe('');
    for (const query of [
      { board: 'away', q: '', sort: 'changed' },
      { board: 'tapes', q: 'walk > 150 & more', sort: 'name' },
      { board: 'tunings', q: 'é 漢', sort: 'made' },
    ] as const)
      expect(readQuery(writeQuery(query))).toEqual(query);
  });

  it('that says nothing known is the first', () => {
    expect(readQuery('?show=boats&sort=taste&x=1')).toEqual({ board: 'tunings', q: '', sort: 'changed' });
  });
});

describe('numbers as CSV', () => {
  it('have a row a parameter and a column a tuning; what cannot be read is left out', () => {
    const one = withValue(newTuning('Boots, "day"'), 'pace.walkSpeed', 120);
    const csv = numbersCsv([one, { format: 'zygopod/boat' }, newTuning('Plain')]);
    const lines = csv.split('\r\n');
    expect(lines[0]).toBe('path,name,"Boots, ""day""",Plain');
    expect(lines).toContain('pace.walkSpeed,Walk,120,140');
    // The sprint follows the walk.
    expect(lines).toContain('pace.sprintSpeed,Sprint,210,245');
    expect(lines.length).toBe([...specs.values()].filter(({ kind }) => kind === 'number').length + 2);
  });
});

describe('what is made once', () => {
  it('is kept by its key, and made again where nothing can be kept', async () => {
    const store = new Map<string, Response>();
    const open = async () => ({
      match: async (key: string) => store.get(key)?.clone(),
      put: async (key: string, response: Response) => void store.set(key, response),
    });
    vi.stubGlobal('caches', { open });
    let drawn = 0;
    const draw = async () => new Blob([String(++drawn)]);
    const of = async (key: string) => (await keptOr(key, draw)).text();
    expect([await of('a'), await of('a'), await of('b c/d'), await of('b c/d')]).toEqual(['1', '1', '2', '2']);
    vi.stubGlobal('caches', { open: () => Promise.reject(new Error('no secure context')) });
    expect([await of('a'), await of('a')]).toEqual(['3', '4']);
    vi.unstubAllGlobals();
    expect(await of('a')).toBe('5');
  });
});

describe('the line of revisions', () => {
  const random = sequence(14);

  it('has the newest, and named ones however old, newest first, and never more than fit', () => {
    for (let run = 0; run < 500; run++) {
      const count = 1 + Math.floor(random() * 60);
      const all = Array.from({ length: count }, (_, i) => ({ number: count - i, name: random() < 0.15 ? `cut ${i}` : '' }));
      // The server leaves out old ones without names.
      const sent = all.filter(({ name }, i) => i < 12 || name);
      const numbers = onTheLine(sent).map(({ number }) => number);
      expect(numbers.length).toBe(Math.min(12, sent.length));
      expect(numbers[0]).toBe(count);
      expect(numbers).toEqual(numbers.toSorted((a, b) => b - a));
      // The four that are newest of the old named ones are there; so are at least the eight newest of all.
      const old = all.slice(12).filter(({ name }) => name);
      for (const { number } of [...all.slice(0, 8), ...old.slice(0, 4)]) expect(numbers).toContain(number);
    }
  });
});
