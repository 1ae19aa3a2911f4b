import { describe, expect, it } from 'vitest';
import type { SideRef } from '../work/comparison.ts';
import { markCorners, markOfSide } from './marks.ts';
import { lastParts, shortNames } from './names.ts';

const side = (name: string, revision = 'rev 1', rate: SideRef['rate'] = null) => ({ name, revision, ref: { id: 'id', revision: 1, rate } });

describe('what sides are called', () => {
  it('is what their names do not share', () => {
    expect(shortNames([side('Carrier, day boots'), side('Carrier, storm boots')])).toEqual(['day boots', 'storm boots']);
    expect(shortNames([side('Boots'), side('Boots, heavy')])).toEqual(['Boots', 'Boots, heavy']);
    expect(shortNames([side('Pram cart'), side('Ferry hand'), side('Sorting clerk')])).toEqual([
      'Pram cart',
      'Ferry hand',
      'Sorting clerk',
    ]);
    expect(shortNames([side('Alone')])).toEqual(['Alone']);
  });

  it('is the revision where the names are one, and the rate where that is another', () => {
    expect(shortNames([side('Boots', 'rev 3'), side('Boots', 'rev 2')])).toEqual(['rev 3', 'rev 2']);
    expect(shortNames([side('Boots', 'rev 3', 30), side('Boots', 'rev 3', 'uneven'), side('Boots', 'rev 3')])).toEqual([
      '30 Hz',
      'uneven frames',
      'own rate',
    ]);
  });

  it('is never empty, and never the same for two that differ', () => {
    const all = [side('A B', 'rev 1'), side('A B', 'rev 2'), side('A B', 'rev 2', 60), side('A C', 'rev 1')];
    for (const a of all)
      for (const b of all) {
        const names = shortNames([a, b]);
        expect(names.every((name) => name.length > 0)).toBe(true);
        if (a !== b) expect(new Set(names).size, JSON.stringify(names)).toBe(2);
      }
  });
});

describe('the marks of sides', () => {
  it('differ in shape, ink and dashes, each by itself', () => {
    const marks = [0, 1, 2, 3].map(markOfSide);
    for (const of of ['shape', 'ink', 'dash'] as const) expect(new Set(marks.map((mark) => JSON.stringify(mark[of]))).size, of).toBe(4);
  });

  it('have their middle where they are put', () => {
    for (const { shape } of [1, 3].map(markOfSide)) {
      const corners = markCorners(shape, 5);
      for (const axis of [0, 1] as const) expect(corners.reduce((sum, corner) => sum + corner[axis], 0)).toBeCloseTo(0, 9);
    }
  });
});

it('a side by itself has its whole name', () => {
  const ref = { id: 'own', revision: 1, rate: null };
  expect(shortNames([{ name: 'Carrier, day boots', ref, revision: 'rev 1' }])).toEqual(['Carrier, day boots']);
});

describe('the last parts of names', () => {
  const parts = (...names: string[]) => lastParts(names.map((name) => ({ name, short: `short ${name}` })));
  it('are what comes after the last comma, where that tells the sides apart', () => {
    expect(parts('Carrier, day boots', 'Carrier, storm boots', 'First draft')).toEqual(['day boots', 'storm boots', 'First draft']);
    expect(parts('Carrier, boots', 'Clerk, boots')).toEqual(['short Carrier, boots', 'short Clerk, boots']);
    expect(parts('Carrier,', 'Clerk')).toEqual(['short Carrier,', 'short Clerk']);
  });
});
