import { type Absences, drills, metricsOf, newTuning, readTuning, runDrills, type Tuning, type TuningFile, withValue } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { ordered, standings, withBand } from './drillsWork.ts';
import { TriedBefore, triedPaths, whatIsMoved, whatMoves } from './moves.ts';

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

describe('what was tried before', () => {
  it('is not tried again, unless the tuning or the question is another, or it failed', async () => {
    const known = new TriedBefore();
    let tries = 0;
    const find = async () => ++tries;
    const [one, other] = [newTuning('One'), withValue(newTuning('One'), 'pace.walkSpeed', 77)];
    expect([await known.of(one, 'a', find), await known.of(structuredClone(one), 'a', find)]).toEqual([1, 1]);
    expect([await known.of(other, 'a', find), await known.of(one, 'b', find)]).toEqual([2, 3]);
    await expect(known.of(one, 'c', () => Promise.reject(new Error('away')))).rejects.toThrow('away');
    expect(await known.of(one, 'c', find)).toBe(4);
  });

  it('forgets the oldest of many', async () => {
    const known = new TriedBefore();
    let tries = 0;
    for (let i = 0; i <= 200; i++) await known.of(newTuning('One'), `${i}`, async () => ++tries);
    await known.of(newTuning('One'), '200', async () => ++tries);
    expect(tries).toBe(201);
    await known.of(newTuning('One'), '0', async () => ++tries);
    expect(tries).toBe(202);
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
