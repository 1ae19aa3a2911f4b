import { pilotDevices, pilotLines, sprintPolicies } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import {
  type Comparison,
  comparisonAddress,
  drivers,
  MOST_SIDES,
  type PilotChoice,
  type Rate,
  rates,
  readComparison,
  usualPilot,
} from './comparison.ts';

const nothing: Comparison = { sides: [], ground: { id: 'none', revision: null }, tape: null, by: 'tape', pilot: usualPilot, at: null };

/** Any id of the form that the server gives. */
function anyId(next: () => number): string {
  const hex = (count: number) => Array.from({ length: count }, () => Math.floor(next() * 16).toString(16)).join('');
  return [8, 4, 4, 4, 12].map(hex).join('-');
}

describe('the address of a comparison', () => {
  it('says all of it: read again it is the same', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const next = sequence(seed * 41);
      const ref = () => ({ id: anyId(next), revision: next() < 0.3 ? null : 1 + Math.floor(next() * 5000) });
      const rate = (): Rate | null => (next() < 0.5 ? null : (rates[Math.floor(next() * rates.length)] as Rate));
      const of = <T>(values: readonly T[]) => values[Math.floor(next() * values.length)] as T;
      const by = of(drivers);
      const pilot: PilotChoice = {
        ...(next() < 0.5 ? {} : { device: of(pilotDevices) }),
        reaction: of([0.2, 0, Number((next() * 2).toFixed(2))]),
        lookAhead: of([0.3, 0, Number((next() * 5).toFixed(2))]),
        sprint: of(sprintPolicies),
        line: of(pilotLines),
        jitter: of([0, Number(next().toFixed(2))]),
      };
      const comparison: Comparison = {
        sides: Array.from({ length: 1 + Math.floor(next() * MOST_SIDES) }, () => ({ ...ref(), rate: rate() })),
        ground: ref(),
        tape: next() < 0.2 ? null : ref(),
        by,
        pilot: by === 'pilot' ? pilot : usualPilot,
        at: next() < 0.2 ? null : Number((next() * 600).toFixed(3)),
      };
      const url = new URL(comparisonAddress(comparison), 'http://localhost');
      expect(url.pathname).toBe(`/compare/${comparison.sides[0]?.id}`);
      expect(readComparison(url.search, nothing), `seed ${seed}`).toEqual(comparison);
    }
  });

  it('leaves out what cannot be read, and takes no more sides than there can be', () => {
    const id = anyId(sequence(1));
    const read = (search: string) => readComparison(search, nothing);
    expect(read('?side=nonsense&side=&side=../x')).toEqual(nothing);
    expect(read(`?side=${id}.0&side=${id}.-1&side=${id}.2x`).sides.map(({ revision }) => revision)).toEqual([null, null, null]);
    expect(read(`?side=${id}~9000`).sides[0]?.rate).toBeNull();
    expect(read(`?${`side=${id}&`.repeat(9)}`).sides).toHaveLength(MOST_SIDES);
    for (const at of ['-1', 'x', '', 'Infinity', 'NaN']) expect(read(`?at=${at}`).at ?? 0, at).toBe(0);
    for (const [name, value] of Object.entries({ device: 'oars', reaction: '-1', ahead: '1e9', sprint: 'x', line: '', jitter: '1.5' }))
      expect(read(`?by=pilot&${name}=${value}`), name).toEqual({ ...nothing, by: 'pilot' });
    expect(read('?by=nobody')).toEqual(nothing);
    expect(read(`?tape=${id.toUpperCase()}`).tape).toBeNull();
  });
});
