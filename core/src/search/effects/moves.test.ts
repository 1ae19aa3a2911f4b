import { describe, expect, it } from 'vitest';
import { drills } from '../../measure/drills/list.ts';
import { metricsOf, runDrills } from '../../measure/drills/run.ts';
import type { TuningFile } from '../../tuning/schema.ts';
import { newTuning, readTuning, type Tuning, withValue } from '../../tuning/tuning.ts';
import { triedPaths, whatIsMoved, whatMoves } from './moves.ts';

function tuning(values: Record<string, never | number | string | boolean | object>): Tuning {
  const file = Object.entries(values).reduce((changed, [path, value]) => withValue(changed, path, value as never), newTuning('Any'));
  const read = readTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}
const measure = (name: string) => async (files: readonly TuningFile[]) =>
  files.map((file) => {
    const read = readTuning(file);
    if (!read.ok) throw new Error('no tuning');
    return metricsOf([...runDrills(read.value.parameters, { drills: drills.filter((drill) => drill.name === name) })]);
  });

describe('what moves a metric', () => {
  it('is what stands in its formula, by its derivative: a stop within V²/2d', async () => {
    const [v, d] = [150, 1100];
    const found = await whatMoves(
      tuning({ 'pace.walkSpeed': v, 'ramp.decelerate': d, 'clock.integration': 'exact' }),
      'stopDistance',
      measure('hard-stop'),
    );
    expect(found.map(({ path }) => path)).toEqual(['pace.walkSpeed', 'ramp.decelerate']);
    const distance = v ** 2 / (2 * d);
    // Central differences over ± 10 %: ((1.1² − 0.9²)/2) and ((1/1.1 − 1/0.9)/2).
    expect(found[0]?.by).toBeCloseTo(distance * 0.2, 1);
    expect(found[1]?.by).toBeCloseTo((distance * (1 / 1.1 - 1 / 0.9)) / 2, 1);
    expect(found.every(({ isOneSided }) => !isOneSided)).toBe(true);
  });

  it('follows links, and says where only one side could be tried', async () => {
    const file = { 'stamina.enabled': true, 'stamina.max': 1e6, 'stamina.drain': 1e6 };
    const found = await whatMoves(tuning(file), 'sprintTime', measure('sprint-to-empty'));
    expect(found.find(({ path }) => path === 'stamina.drain')?.isOneSided).toBe(true);
    const distance = await whatMoves(tuning({ 'stamina.enabled': true }), 'sprintDistance', measure('sprint-to-empty'));
    // The walk moves the sprint that follows it.
    expect(distance.map(({ path }) => path)).toEqual(
      expect.arrayContaining(['pace.walkSpeed', 'pace.sprintSpeed', 'stamina.max', 'stamina.drain']),
    );
  });

  it('fails where the drill does not measure the metric: that is another thing than nothing', async () => {
    await expect(whatMoves(tuning({}), 'stepTime', measure('grid-walk'))).rejects.toThrow('ends before it can be measured');
  });
});

describe('what a number moves', () => {
  const all = async (files: readonly TuningFile[]) => {
    const found = await Promise.all(['standing-start', 'hard-stop', 'view-lag'].map((name) => measure(name)(files)));
    return files.map((_, i) => Object.assign({}, ...found.map((metrics) => metrics[i])));
  };

  it('is all that has it in its formula, by its share of that, and nothing else', async () => {
    const steady = tuning({ 'pace.walkSpeed': 150, 'ramp.decelerate': 1100, 'clock.integration': 'exact' });
    const found = await whatIsMoved(steady, 'ramp.decelerate', all);
    expect(found.map(({ metric }) => metric).sort()).toEqual(['stopDistance', 'stopTime']);
    // Both go as 1/d: ((1/1.1 − 1/0.9)/2) of themselves.
    for (const { share } of found) expect(share).toBeCloseTo((1 / 1.1 - 1 / 0.9) / 2, 2);
    const walk = await whatIsMoved(steady, 'pace.walkSpeed', all);
    const shares = Object.fromEntries(walk.map(({ metric, share }) => [metric, share]));
    expect(shares['riseTime']).toBeCloseTo(0.1, 2);
    expect(shares['riseDistance']).toBeCloseTo(0.2, 2);
    expect(shares['cameraLag']).toBeCloseTo(0.1, 2);
    expect(walk.map(({ share }) => Math.abs(share))).toEqual(walk.map(({ share }) => Math.abs(share)).toSorted((a, b) => b - a));
  });

  it('is computed from one side if the other is out of range', async () => {
    const most = tuning({ 'stamina.enabled': true, 'stamina.max': 1e6, 'stamina.drain': 1e6 });
    expect(triedPaths(most)).toContain('stamina.drain');
    const found = await whatIsMoved(most, 'stamina.drain', measure('sprint-to-empty'));
    expect(found.find(({ metric }) => metric === 'sprintTime')?.isOneSided).toBe(true);
  });

  it('does not exist for a value without a tenth', () => {
    const paths = triedPaths(tuning({ 'contact.wallFriction': 0 }));
    expect(paths).not.toContain('contact.wallFriction');
    expect(paths).not.toContain('clock.hz');
    expect(paths).toContain('pace.sprintSpeed');
  });
});
