import type { Target } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { movedMetrics } from './movedMetrics.ts';

describe('what changed numbers do to the outcomes', () => {
  it('are the metrics that differ in the digits that are shown, those out of their band first', () => {
    const before = { riseTime: 0.2, stopDistance: 8.931, sprintTime: 5 };
    const after = { riseTime: 0.2001, stopDistance: 8.9, sprintTime: 6 };
    const targets = [
      { metric: 'stopDistance' as const, min: 10, max: 12 },
      { metric: 'sprintTime' as const, max: 9 },
    ];
    const moved = movedMetrics(before, after, { unit: 'px', targets, digits: 3 });
    expect(moved.map(({ key, change, isIn, wanted }) => [key, change, isIn, wanted])).toEqual([
      ['stopDistance', '8.93 → 8.9 px', false, '10 to 12 px'],
      ['sprintTime', '5 → 6 s', true, 'at most 9 s'],
    ]);
    // With more digits the smaller difference shows as well.
    expect(movedMetrics(before, after, { unit: 'px', targets: [], digits: 5 }).map(({ key }) => key)).toEqual([
      'sprintTime',
      'stopDistance',
      'riseTime',
    ]);
    expect(movedMetrics(before, { riseTime: 0.2, stopDistance: 8.931 }, { unit: 'px', targets: [], digits: 3 })).toMatchObject([
      { key: 'sprintTime', change: '5 → not measured s' },
    ]);
  });

  it('are of a lap its time, and what has a band', () => {
    const before = { lapTime: 9, lapTouches: 2, 'lapSplit(1)': 3, 'lapSplit(2)': 6 };
    const after = { lapTime: 8, lapTouches: 1, 'lapSplit(1)': 2.8, 'lapSplit(2)': 5.2 };
    const keys = (targets: readonly Target[]) => movedMetrics(before, after, { unit: 'px', targets, digits: 3 }).map(({ key }) => key);
    expect(keys([])).toEqual(['lapTime']);
    expect(keys([{ metric: 'lapSplit', at: 2, max: 5 }])).toEqual(['lapSplit(2)', 'lapTime']);
    expect(keys([{ metric: 'lapTouches', max: 1 }])).toEqual(['lapTouches', 'lapTime']);
  });
});
