import { describe, expect, it } from 'vitest';
import { newTuning, readTuning, type Tuning, withValue } from '../../tuning/tuning.ts';
import { effectTable } from './table.ts';

function tuning(values: Record<string, unknown>): Tuning {
  const file = Object.entries(values).reduce((changed, [path, value]) => withValue(changed, path, value as never), newTuning('Any'));
  const read = readTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

describe('numbers against outcomes', () => {
  const table = effectTable(tuning({ 'pace.walkSpeed': 150, 'ramp.decelerate': 1100, 'clock.integration': 'exact' }), null);
  const share = (path: string, metric: string) => {
    const column = table.outcomes.findIndex((outcome) => outcome.metric === metric);
    return table.rows.find((row) => row.path === path)?.effects[column]?.share ?? null;
  };

  it('are the derivatives of the closed forms: a stop within v²/2d, a rise of v/a', () => {
    expect(share('pace.walkSpeed', 'stopDistance')).toBeCloseTo((1.1 ** 2 - 0.9 ** 2) / 2, 2);
    expect(share('ramp.decelerate', 'stopDistance')).toBeCloseTo((1 / 1.1 - 1 / 0.9) / 2, 2);
    expect(share('pace.walkSpeed', 'riseTime')).toBeCloseTo(0.1, 1);
    expect(share('ramp.accelerate', 'riseTime')).toBeCloseTo((1 / 1.1 - 1 / 0.9) / 2, 1);
    expect(share('ramp.accelerate', 'stopDistance')).toBeNull();
  });

  it('name the numbers that change nothing apart, the largest effects first', () => {
    expect(table.rows.some(({ path }) => table.without.includes(path))).toBe(false);
    const sums = table.rows.map(({ effects }) => effects.reduce((sum, one) => sum + (one ? Math.min(1, Math.abs(one.share ?? 1)) : 0), 0));
    expect(sums).toEqual(sums.toSorted((a, b) => b - a));
    expect(table.rows.every(({ effects }) => effects.some((effect) => effect !== null))).toBe(true);
  });

  it('are one-sided at the end of a range', () => {
    const most = effectTable(tuning({ 'stamina.enabled': true, 'stamina.max': 1e6, 'stamina.drain': 1e6 }), null);
    const drain = most.rows.find(({ path }) => path === 'stamina.drain');
    expect(drain?.effects.some((effect) => effect?.isOneSided)).toBe(true);
  });
});
