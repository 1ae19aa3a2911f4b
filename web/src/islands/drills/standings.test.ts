import { type Absences, drills, metricKey } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import type { Judgement } from '../../workers/drills.ts';
import { ordered, standings, withBand } from './drillsWork.ts';

describe('how a drill stands', () => {
  it('shows the main metric, or the one out of its band if the main one is not', () => {
    const found = { sprintTime: 5, sprintDistance: 900, recoverTime: 3 };
    const now = { drills: [{ name: 'sprint-to-empty', not: null, metrics: found }] } as unknown as Judgement;
    const standing = (targets: Parameters<typeof standings>[2]) =>
      standings(now, null, targets).find(({ name }) => name === 'sprint-to-empty');
    const inside = { metric: 'sprintTime', min: 4, max: 6 };
    expect(standing([inside])).toMatchObject({ key: 'sprintTime', value: 5, state: 'in' });
    const out = { metric: 'recoverTime', max: 2 };
    expect(standing([inside, out])).toMatchObject({ key: 'recoverTime', value: 3, target: out, state: 'out' });
    expect(standing([{ metric: 'sprintTime', max: 4 }, out])).toMatchObject({ key: 'sprintTime', state: 'out' });
    expect(drills.every(({ main, at }) => standings(null, null, []).some(({ key }) => key === metricKey(main, at)))).toBe(true);
  });
});

describe('how drills stand', () => {
  const part = (name: string, metrics: object, not: string | null = null, absent: Absences = {}) => ({
    name,
    not,
    cutShort: null,
    metrics,
    absent,
    runs: [],
    walls: [],
  });
  const judgement = (...parts: ReturnType<typeof part>[]) => ({
    drills: parts,
    metrics: Object.assign({}, ...parts.map(({ metrics }) => metrics)),
    absent: Object.assign({}, ...parts.map(({ absent }) => absent)),
    snags: [],
    milliseconds: 0,
    ticks: 0,
  });
  const now = judgement(
    part('standing-start', { riseTime: 0.5, riseDistance: 9 }),
    part('hard-stop', { stopDistance: 7 }),
    part('turn-round', {}, 'no'),
  );
  const was = judgement(part('standing-start', { riseTime: 0.5 }), part('hard-stop', { stopDistance: 3 }));
  const targets = [
    { metric: 'riseDistance' as const, max: 5 },
    { metric: 'stopDistance' as const, max: 8 },
  ];

  it('is out where any of its metrics is, and free where none has a band', () => {
    const states = Object.fromEntries(standings(now, was, targets).map(({ name, state }) => [name, state]));
    expect([states['standing-start'], states['hard-stop'], states['turn-round']]).toEqual(['out', 'in', 'not']);
    expect(standings(now, was, [])[0]?.state).toBe('free');
  });

  it('is out where a metric with a band could not be measured, and not where it does not apply', () => {
    const stateOf = (applies: boolean, not: string | null) => {
      const absent = { stopDistance: { why: 'it did not come to rest', applies } };
      return standings(judgement(part('hard-stop', {}, not, absent)), null, targets).find(({ name }) => name === 'hard-stop');
    };
    expect(stateOf(true, null)).toMatchObject({ state: 'out', key: 'stopDistance', value: null });
    expect(stateOf(true, 'it failed: no room')?.state).toBe('out');
    expect(stateOf(false, null)?.state).toBe('free');
    expect(stateOf(false, 'it steps from cell to cell')?.state).toBe('not');
  });

  it('is ordered by what is out, by work, and by what has changed most', () => {
    const all = standings(now, was, targets);
    const first = (order: Parameters<typeof ordered>[1]) =>
      ordered(all, order)
        .slice(0, 2)
        .map(({ name }) => name);
    expect(first('out')).toEqual(['standing-start', 'hard-stop']);
    expect(first('changed')).toEqual(['hard-stop', 'standing-start']);
    expect(first('work')).toEqual(['standing-start', 'hard-stop']);
  });

  it('takes another band for one metric, at its own angle', () => {
    const slides = [
      { metric: 'slideKept' as const, at: 15, min: 0.9 },
      { metric: 'slideKept' as const, at: 45, min: 0.6 },
    ];
    expect(withBand(slides, { metric: 'slideKept', at: 45 }, { min: 0.5 })).toEqual([slides[0], { metric: 'slideKept', at: 45, min: 0.5 }]);
    expect(withBand(slides, { metric: 'slideKept', at: 15 }, null)).toEqual([slides[1]]);
  });
});
