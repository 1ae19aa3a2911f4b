import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergeHeads, type ProjectHead } from './mergeHeads.ts';

const head = (names: Record<string, string>, over: Partial<ProjectHead> = {}): ProjectHead => ({
  name: 'Game',
  unit: 'px',
  names,
  ...over,
});

describe('two states of a project', () => {
  it('are merged name by name; what both changed is mine, and listed', () => {
    const from = head({ a: '1', b: '2', c: '3' });
    const mine = head({ a: '9', c: '3', d: '4' }, { unit: 'm' });
    const theirs = head({ a: '8', b: '2', c: '7', e: '5' }, { name: 'Other' });
    expect(mergeHeads(from, mine, theirs)).toEqual({
      head: { name: 'Other', unit: 'm', names: { a: '9', c: '7', d: '4', e: '5' } },
      conflicts: ['names.a'],
    });
  });

  it('without a common one keep what only one has', () => {
    const { head: merged, conflicts } = mergeHeads(null, head({ a: '1', b: '2' }, { unit: 'm' }), head({ b: '3', c: '4' }));
    expect(merged).toEqual(head({ a: '1', b: '2', c: '4' }, { unit: 'm' }));
    expect(conflicts).toEqual(['names.b', 'unit']);
  });

  it('lose no name that only one side changed', () => {
    const names = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd', 'e'), fc.constantFrom('x', 'y', 'z'));
    fc.assert(
      fc.property(names, names, names, (from, mine, theirs) => {
        const merged = mergeHeads(head(from), head(mine), head(theirs)).head.names;
        for (const key of ['a', 'b', 'c', 'd', 'e'])
          if (mine[key] === from[key]) expect(merged[key]).toBe(theirs[key]);
          else expect(merged[key]).toBe(mine[key]);
      }),
    );
  });
});
