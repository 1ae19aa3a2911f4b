import { describe, expect, it } from 'vitest';
import { drive } from '../testing/drive.ts';
import { rateToStopIn, stopDistance } from './outcomes.ts';

/** Distance that the world needs to stop from a steady walk of 140 px/s. */
function measured(rate: number, hz: number, integration: string): number {
  const world = drive({ 'ramp.decelerate': rate, 'clock.hz': hz, 'clock.integration': integration }, 3 * hz, [
    { at: 0, press: 'right' },
    { at: hz, release: 'right' },
  ]);
  return world.trace.at('x', world.trace.end - 1) - world.trace.at('x', hz);
}

describe('stopDistance', () => {
  it.each(['semiImplicit', 'trapezoid', 'exact'] as const)('is what the world does (%s)', (integration) => {
    for (const hz of [30, 60, 144])
      for (const rate of [300, 1200, 8399]) {
        const formula = stopDistance(140, rate, 1 / hz, integration);
        expect(Math.abs(measured(rate, hz, integration) - formula)).toBeLessThan(1e-9);
      }
  });

  it('has an inverse', () => {
    for (const distance of [2, 8, 50])
      expect(stopDistance(140, rateToStopIn(distance, 140, 1 / 60, 'exact'), 1 / 60, 'exact')).toBeCloseTo(distance, 9);
    expect(stopDistance(140, rateToStopIn(8, 140, 1 / 60, 'semiImplicit'), 1 / 60, 'semiImplicit')).toBeCloseTo(8, 6);
  });
});
