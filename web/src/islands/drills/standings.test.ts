import { drills, metricKey } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import type { Judgement } from '../../workers/drills.ts';
import { standings } from './drillsWork.ts';

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
