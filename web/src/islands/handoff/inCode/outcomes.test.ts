import { describe, expect, it } from 'vitest';
import { partsOf } from './Difference.tsx';
import { movedMetrics, significant } from './outcomes.ts';

describe('two lines beside each other', () => {
  it.each([
    ['drain = 12, regen = 8', 'drain = 10, regen = 8', ['drain = 1', '2', ', regen = 8']],
    ['aa', 'aaa', ['aa', '', '']],
    ['aaa', 'aa', ['aa', 'a', '']],
    ['x', 'y', ['', 'x', '']],
    ['', 'y', ['', '', '']],
  ] as const)('%j and %j part where they differ', (text, other, parts) => {
    expect(partsOf(text, other)).toEqual(parts);
    expect(partsOf(text, other).join('')).toBe(text);
  });
});

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

  it('have so many significant digits', () => {
    expect([0.05823, 442.453, 60, 0].map((value) => significant(value, 3))).toEqual(['0.0582', '442', '60', '0']);
  });
});
