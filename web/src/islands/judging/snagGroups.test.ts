import { bySeverity, type Snag, snagWords } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { groupSnags } from './snagGroups.ts';

const ids = Object.keys(snagWords) as Snag['id'][];
const severities = ['fault', 'risk', 'hint'] as const;

describe('snags grouped by kind', () => {
  it('are counted in words', () => {
    const gap = (width: number): Snag => ({ id: 'gap-too-narrow', severity: 'risk', evidence: `${width} px wide` });
    const groups = groupSnags([gap(20), { id: 'tremble', severity: 'hint', evidence: '' }, gap(22)]);
    expect(groups.map(({ title, snags }) => [title, snags.length])).toEqual([
      ['2 gaps are too narrow', 2],
      ['Trembles', 1],
    ]);
    expect(groupSnags([gap(20)])[0]?.title).toBe('A gap is too narrow');
    expect(groupSnags([0, 1, 2].map(() => ({ id: 'pop', severity: 'fault', evidence: '' })))[0]?.title).toBe('Jumps (3 times)');
    expect(groupSnags([])).toEqual([]);
  });

  it('keep every snag once, the worst kind first', () => {
    for (let round = 1; round <= 200; round++) {
      const snags: Snag[] = Array.from({ length: (round * 7) % 23 }, (_, i) => ({
        id: ids[(round * 31 + i * i * 17) % ids.length] as Snag['id'],
        severity: severities[(round + i * 5) % 3] as Snag['severity'],
        evidence: String(i),
      }));
      const groups = groupSnags(bySeverity(snags));
      expect(groups.flatMap((group) => group.snags).sort((a, b) => Number(a.evidence) - Number(b.evidence))).toEqual(snags);
      expect(new Set(groups.map(({ id }) => id)).size).toBe(groups.length);
      for (const { id, snags: of } of groups) for (const snag of of) expect(snag.id).toBe(id);
      const ranks = groups.map(({ severity }) => severities.indexOf(severity));
      expect(ranks).toEqual(ranks.toSorted());
    }
  });
});
