import { describe, expect, it } from 'vitest';
import { seeds } from '../testing/campaign.ts';
import { drive, openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { ARRIVED } from './events.ts';

const between = (next: () => number, low: number, high: number) => low * (high / low) ** next();

/** Seconds from rest to rest over a distance with steady rates up and down and a highest speed: a triangle or a trapezium of speed over time. */
function shortestTime(distance: number, { walk, up, down }: { walk: number; up: number; down: number }): number {
  const peak = Math.min(walk, Math.sqrt((2 * distance * up * down) / (up + down)));
  const ramps = (peak * peak) / (2 * up) + (peak * peak) / (2 * down);
  return peak / up + peak / down + Math.max(0, distance - ramps) / peak;
}

describe('a click from rest, with exact integration and a brake', () => {
  it('takes the time that steady rates take, however soon a tick reaches the speed of braking', () => {
    for (const seed of seeds(150, 3000)) {
      const next = sequence(seed * 32_452_867);
      const rates = { walk: between(next, 20, 3000), up: between(next, 100, 1e8), down: between(next, 100, 1e6) };
      const hz = [20, 30, 60, 144, 240][seed % 5] as number;
      const distance = between(next, 1, 400);
      const angle = next() * 2 * Math.PI;
      const ground = openGround({ size: { width: 2000, height: 2000 }, start: { x: 1000, y: 1000 } });
      const [x, y] = [1000 + distance * Math.cos(angle), 1000 + distance * Math.sin(angle)];
      const seconds = shortestTime(distance, rates);
      const events = [
        { at: 1, point: [x, y] as [number, number] },
        { at: 1, press: 'pointer' as const },
        { at: 2, release: 'pointer' as const },
      ];
      const world = drive(
        {
          'route.enabled': true,
          'route.planner': 'straight',
          'route.arrival': 'exact',
          'clock.integration': 'exact',
          'clock.hz': hz,
          'pace.walkSpeed': rates.walk,
          'ramp.accelerate': rates.up,
          'ramp.decelerate': rates.down,
        },
        Math.ceil((seconds + 1) * hz) + 4,
        events,
        ground,
      );
      const label = `seed ${seed}: ${JSON.stringify({ ...rates, hz, distance })}`;
      const { trace } = world;
      const arrived = trace.values('events').findIndex((bits) => (bits & ARRIVED) !== 0);
      expect(arrived, label).toBeGreaterThan(0);
      const begun = trace.values('x').findIndex((at, row) => at !== 1000 || trace.at('y', row) !== 1000) - 1;
      // The tick after the one that ends on the point says so.
      const took = trace.at('time', arrived - 1) - trace.at('time', begun);
      expect(Math.abs(took - seconds), `${label}: took ${took} in place of ${seconds}`).toBeLessThanOrEqual(1.001 / hz + 0.002 * seconds);
      for (let row = 0; row < trace.end; row++) {
        const [dx, dy] = [trace.at('x', row) - 1000, trace.at('y', row) - 1000];
        const along = dx * Math.cos(angle) + dy * Math.sin(angle);
        if (!(along <= distance + 1e-6) || !Number.isFinite(trace.at('vx', row))) throw new Error(`${label}: row ${row} at ${along}`);
      }
    }
  });
});
