import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeds } from '../../testing/campaign.ts';
import { fitCase, impossibleCase, judgedBy } from '../../testing/fitCases.ts';
import { tuned } from '../../testing/tuned.ts';
import type { FileValue, TuningFile } from '../../tuning/schema.ts';
import { numberAt, withValue } from '../../tuning/tuning.ts';
import { ended } from '../ended.ts';
import { type FitRequest, fitFaults, fitTargets } from './fit.ts';
import { tradeOff } from './front.ts';
import { type BandProblem, costOf, leastChange } from './leastSquares.ts';
import type { FitReport } from './report.ts';

const fitted = (request: Omit<FitRequest, 'ground'>): FitReport => {
  expect(fitFaults({ ...request, ground: null })).toEqual([]);
  return ended(fitTargets({ ...request, ground: null }));
};
const applied = (file: TuningFile, set: Record<string, FileValue>): TuningFile =>
  Object.entries(set).reduce((one, [path, value]) => withValue(one, path, value), file);

describe('the least change', () => {
  it('is no larger than any other, and stays in its box', () => {
    const place = fc.double({ min: -2, max: 2, noNaN: true });
    const problem = fc.integer({ min: 1, max: 5 }).chain((size) =>
      fc.record({
        centre: fc.array(place, { minLength: size, maxLength: size }),
        slopes: fc.array(fc.array(place, { minLength: size, maxLength: size }), { minLength: 1, maxLength: 6 }),
        ends: fc.array(fc.tuple(place, place), { minLength: 6, maxLength: 6 }),
        values: fc.array(place, { minLength: 6, maxLength: 6 }),
        other: fc.array(fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: size, maxLength: size }), {
          minLength: 20,
          maxLength: 20,
        }),
      }),
    );
    fc.assert(
      fc.property(problem, ({ centre, slopes, ends, values, other }) => {
        const one: BandProblem = {
          centre,
          low: centre.map(() => -1),
          high: centre.map(() => 1),
          values: values.slice(0, slopes.length),
          slopes,
          bands: ends.slice(0, slopes.length).map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const),
          weight: 1e4,
        };
        const d = leastChange(one);
        for (const value of d) expect(Math.abs(value)).toBeLessThanOrEqual(1);
        const cost = costOf(one, d);
        for (const place of other) expect(costOf(one, place)).toBeGreaterThanOrEqual(cost * (1 - 1e-9));
        // Nor is a step along any number.
        for (const k of d.keys())
          for (const step of [-1e-4, 1e-4]) {
            const near = d.with(k, Math.min(1, Math.max(-1, (d[k] as number) + step)));
            expect(costOf(one, near)).toBeGreaterThanOrEqual(cost * (1 - 1e-9));
          }
      }),
      { numRuns: 300 },
    );
  });
});

describe('a fit to targets', () => {
  it('follows the closed form: a stop within s takes a deceleration of v²/2s', () => {
    fc.assert(
      fc.property(fc.double({ min: 60, max: 400, noNaN: true }), fc.double({ min: 0.4, max: 2.5, noNaN: true }), (walk, factor) => {
        const tuning = tuned({ 'pace.walkSpeed': walk, 'ramp.decelerate': walk * 8, 'clock.integration': 'exact' });
        const distance = (walk / 16) * factor;
        const report = fitted({
          tuning,
          targets: [{ metric: 'stopDistance', min: distance * 0.999, max: distance * 1.001 }],
          moves: [{ path: 'ramp.decelerate' }],
        });
        expect(report.met).toBe(true);
        const found = (report.set['ramp.decelerate'] ?? walk * 8) as number;
        expect(found / (walk ** 2 / (2 * distance))).toBeCloseTo(1, 2);
        const { low = 0, high = 0 } = report.held['ramp.decelerate'] ?? {};
        expect([low, high].map((end) => Number((end / (walk ** 2 / (2 * distance))).toFixed(2)))).toEqual([1, 1]);
      }),
      { numRuns: 12 },
    );
  });

  it('changes nothing where all targets are met, and no more than the hidden tuning where they are missed', () => {
    for (const seed of seeds(2, 200)) {
      const { request, hiddenChange } = fitCase(seed);
      const report = fitted(request);
      const file = applied(request.tuning.file, report.set);
      expect([seed, report.met], JSON.stringify(report)).toEqual([seed, judgedBy(file, request.targets).every(({ ok }) => ok === true)]);
      expect([seed, report.met]).toEqual([seed, true]);
      const change = Object.entries(report.set).reduce(
        (sum, [path, value]) => sum + Math.log((value as number) / numberAt(request.tuning.parameters, path)) ** 2,
        0,
      );
      expect(change).toBeLessThanOrEqual(hiddenChange * 1.02 + 1e-6);
      const again = fitted({ ...request, tuning: { ...request.tuning, file }, targets: request.targets });
      expect(again.met).toBe(true);
    }
  });

  it('names the pair that conflicts, and what they meet in', () => {
    for (const seed of seeds(1, 100)) {
      const { request, pair } = impossibleCase(seed);
      const report = fitted(request);
      expect([seed, report.met]).toEqual([seed, false]);
      const conflict = report.conflicts.find(({ targets }) => pair.every((key) => targets.includes(key)));
      expect([seed, conflict?.targets.length, conflict?.through]).toEqual([seed, 2, ['ramp.decelerate']]);
      expect(conflict?.why).toMatch(/ conflict through Decelerate$/);
    }
  });

  it('says which number no target holds, and keeps links', () => {
    const tuning = tuned({});
    const targets = [{ metric: 'stopDistance', max: 5 }];
    const report = fitted({ tuning, targets, moves: [{ path: 'ramp.decelerate' }, { path: 'ramp.accelerate' }] });
    expect(report.free).toEqual(['ramp.accelerate']);
    expect(Object.keys(report.set)).toEqual(['ramp.decelerate']);
    // Without a choice, what moves the missed target moves: not the body, no link.
    const own = fitted({ tuning, targets, moves: [] });
    expect(own.met).toBe(true);
    expect(Object.keys({ ...own.held, ...Object.fromEntries(own.free.map((path) => [path, 0])) }).toSorted()).toEqual([
      'pace.walkSpeed',
      'ramp.decelerate',
    ]);
    const factor = fitted({
      tuning,
      targets: [{ metric: 'stopDistance', max: 5 }],
      moves: [{ path: 'pace.sprintSpeed.times' }, { path: 'ramp.decelerate' }],
    });
    expect(factor.met).toBe(true);
    expect(factor.free).toEqual(['pace.sprintSpeed.times']);
  });

  it('refuses what can’t be fitted, with what would be right', () => {
    const tuning = tuned({});
    const faults = (over: Partial<FitRequest>) =>
      fitFaults({ tuning, targets: [{ metric: 'stopTime', max: 1 }], ground: null, moves: [], ...over });
    expect(faults({ targets: [] })).toEqual(['found no target, expected one or more']);
    expect(faults({ targets: [{ metric: 'lapTime', max: 9 }] })).toEqual(['lapTime: needs a ground with a course']);
    expect(faults({ targets: [{ metric: 'swiftness', max: 9 }] })).toEqual(['target 1: no metric is called swiftness']);
    const moves = (path: string, min?: number, max?: number) => faults({ moves: [{ path, min, max }] })[0];
    expect(moves('pace.speed')).toMatch(/^pace.speed: found no such parameter/);
    expect(moves('ramp.model')).toMatch(/found a choice, expected a number/);
    expect(moves('ramp.brake.times')).toMatch(/found no link/);
    expect(moves('ramp.brake', 9, 2)).toMatch(/found the range 9 to 2/);
    expect(moves('ramp.brake', -5, 2)).toMatch(/expected numbers from 0/);
    expect(moves('ramp.brake', Number.NaN, 2)).toMatch(/not a number/);
    expect(faults({ moves: [{ path: 'ramp.brake' }, { path: 'ramp.brake' }] })).toEqual([
      'ramp.brake: found it twice, expected each number once',
    ]);
  });

  it('draws the trade-off of two outcomes: along it one falls and the other rises', () => {
    const request = {
      tuning: tuned({ 'clock.integration': 'exact' }),
      targets: [
        { metric: 'stopDistance', max: 3 },
        { metric: 'stopTime', min: 0.2 },
      ],
      ground: null,
      moves: [{ path: 'ramp.decelerate' }],
    };
    const points = ended(tradeOff(request, ['stopDistance', 'stopTime']));
    const { walkSpeed } = request.tuning.parameters.pace;
    for (const { values } of points) expect((values[0] as number) / (((values[1] as number) * walkSpeed) / 2)).toBeCloseTo(1, 2);
    const distances = points.map(({ values }) => values[0] as number);
    expect(distances).toEqual(distances.toSorted((a, b) => b - a));
    expect(distances.at(-1)).toBeCloseTo(3, 1);
    expect(points[0]?.values[1]).toBeCloseTo(0.2, 2);
  });
});
