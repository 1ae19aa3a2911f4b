import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drive } from '../testing/drive.ts';
import { type MetricName, metricSpecs } from './metricSpecs.ts';
import { traceMetrics } from './metrics.ts';

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
/** Out for two seconds, then nothing. */
const outAndStop = (hz: number) => [
  { at: Math.round(0.5 * hz), press: 'right' as const },
  { at: Math.round(2.5 * hz), release: 'right' as const },
];

describe('the metrics of a trace', () => {
  it('rise in 0.99 v/a, stop in v/a, and within v²/2a less half a tick, at every rate', () => {
    fc.assert(
      fc.property(between(40, 300), between(300, 3000), between(300, 3000), fc.constantFrom(30, 60, 144), (walk, up, down, hz) => {
        const { trace, parameters } = drive(
          { 'pace.walkSpeed': walk, 'ramp.accelerate': up, 'ramp.decelerate': down, 'clock.hz': hz },
          5 * hz,
          outAndStop(hz),
        );
        const metrics = traceMetrics(trace, parameters);
        // A ramp that is over within its first tick is spread over it.
        const tick = 1 / hz;
        if (walk / up > 2 * tick) expect(metrics.riseTime).toBeCloseTo((0.99 * walk) / up, 6);
        if (walk / down > 2 * tick) expect(metrics.stopTime).toBeCloseTo(walk / down, 6);
        expect(Math.abs((metrics.stopDistance as number) - (walk * walk) / (2 * down) + (walk * tick) / 2)).toBeLessThan(
          down * tick * tick + 1e-9,
        );
        expect(metrics.inputLatency).toBe(1);
        expect(metrics.peakSpeed).toBeCloseTo(walk, 9);
      }),
      { numRuns: 80 },
    );
  });

  it('fade to the last hundredth with a smooth ramp: half-life × log2 100', () => {
    fc.assert(
      fc.property(between(0.02, 0.2), (halfLife) => {
        const { trace, parameters } = drive(
          { 'ramp.model': 'smooth', 'ramp.halfLife': halfLife, 'clock.hz': 144 },
          144 * 6,
          outAndStop(144),
        );
        expect(Math.abs((traceMetrics(trace, parameters).stopTime as number) - halfLife * Math.log2(100))).toBeLessThan(1 / 144);
      }),
      { numRuns: 30 },
    );
  });

  it('share the time out among the gaits, to the last tick', () => {
    const { trace, parameters } = drive({ 'stamina.enabled': true, 'stamina.drain': 60 }, 600, [
      { at: 30, press: 'right' },
      { at: 60, press: 'sprint' },
    ]);
    const { timeStanding, timeWalking, timeSprinting, timeSpent } = traceMetrics(trace, parameters) as Record<MetricName, number>;
    expect(timeStanding + timeWalking + timeSprinting + timeSpent).toBeCloseTo(10, 9);
    expect(timeStanding).toBeCloseTo(0.5, 9);
    expect(timeSprinting).toBeGreaterThan(100 / 60 - 0.1);
    expect(timeSpent).toBeGreaterThan(0);
  });

  it('are absent where the trace does not hold them, and all have words', () => {
    const { trace, parameters } = drive({}, 60, []);
    const metrics = traceMetrics(trace, parameters);
    expect(metrics).toMatchObject({ travelled: 0, contacts: 0 });
    expect(metrics.timeStanding).toBeCloseTo(1, 9);
    for (const name of ['riseTime', 'stopTime', 'inputLatency'] as const) expect(name in metrics).toBe(false);
    for (const [name, { words }] of Object.entries(metricSpecs)) expect(words, name).not.toBe('');
  });
});
