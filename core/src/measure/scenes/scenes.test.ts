import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FileValue } from '../../tuning/schema.ts';
import { newTuning, resolveTuning, withValue } from '../../tuning/tuning.ts';
import { clickRun } from './click.ts';
import { policies, pressAgainstEdge } from './edge.ts';
import { paceProfile } from './paceProfile.ts';
import { STEPS_SHOWN, stepRun } from './step.ts';
import { cameraLag, TURNED, turnedBy, turnOverTime } from './turn.ts';
import { keptAtContact, steadySlide } from './wall.ts';

function tuned(values: Record<string, FileValue>) {
  let file = newTuning('Scene');
  for (const [path, value] of Object.entries(values)) file = withValue(file, path, value);
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value.parameters;
}
const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('the scenes that figures draw', () => {
  it('pace: up to walk in v/a, and a stop in v²/2a less half a tick of walking', () => {
    fc.assert(
      fc.property(
        between(40, 400),
        between(300, 3000),
        between(300, 3000),
        fc.constantFrom(30, 60, 144),
        (walk, accelerate, decelerate, hz) => {
          const { marks, stopDistance } = paceProfile(
            tuned({ 'pace.walkSpeed': walk, 'ramp.accelerate': accelerate, 'ramp.decelerate': decelerate, 'clock.hz': hz }),
          );
          // Within a tick, and within the last hundredth of the speed, which counts as there.
          expect(Math.abs(marks.walkAt - walk / accelerate)).toBeLessThan(1.01 / hz + (0.01 * walk) / accelerate);
          // Semi-implicit ticks lose half a tick of speed, and the last tick ends inside of itself.
          expect(Math.abs(stopDistance - (walk * walk) / (2 * decelerate) + walk / (2 * hz))).toBeLessThan(decelerate / hz / hz);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('clicks: an exact arrival ends on the point, whatever the distance', () => {
    fc.assert(
      fc.property(between(30, 500), (distance) => {
        const run = clickRun(tuned({ 'route.arrival': 'exact' }), distance);
        expect(run.arrived).toBe(true);
        const [dx, dy] = run.around.at(-1) as [number, number];
        expect(Math.hypot(dx, dy)).toBeLessThan(1e-6);
      }),
      { numRuns: 30 },
    );
  });

  it('facing: a steady rate is there after the angle over the rate', () => {
    fc.assert(
      fc.property(between(180, 1500), (rate) => {
        const curve = turnOverTime(tuned({ 'facing.turn': 'rate', 'facing.rate': rate }));
        expect(Math.abs((turnedBy(curve, 0.5) as number) - TURNED / 2 / rate)).toBeLessThan(1 / 60);
      }),
      { numRuns: 40 },
    );
  });

  it('steps: three cells in three step times, turning first', () => {
    const parameters = tuned({ 'step.time': 0.2, 'step.turnTime': 0.1 });
    const curve = stepRun(parameters);
    expect(curve.at(-1)?.[1]).toBeCloseTo(STEPS_SHOWN, 9);
    const first = curve.find(([, cells]) => cells >= 1 - 1e-9) as [number, number];
    expect(Math.abs(first[0] - 0.3)).toBeLessThan(1.5 / 60);
  });

  it('edges: a clamped body is never beyond, and without a policy it is', () => {
    const furthest = Object.fromEntries(
      policies.map((policy) => [policy, Math.max(...pressAgainstEdge(tuned({}), policy).map(({ beyond }) => beyond))]),
    );
    expect(furthest['clamp']).toBeLessThan(1e-6);
    expect(furthest['none']).toBeGreaterThan(20);
  });

  it('walls: along a wall the part of the speed along it is kept, less friction on the part into it', () => {
    fc.assert(
      fc.property(between(1, 89), between(0, 1), (degrees, friction) => {
        const angle = (degrees * Math.PI) / 180;
        const kept = keptAtContact(tuned({ 'contact.wallFriction': friction }).contact, degrees);
        expect(kept).toBeCloseTo(Math.max(0, Math.cos(angle) - friction * Math.sin(angle)), 9);
      }),
    );
    const { x, y } = steadySlide(tuned({}), 30);
    expect(Math.hypot(x, y)).toBeCloseTo(Math.cos(Math.PI / 6), 2);
  });

  it('camera: a locked view never lags, a smooth one does', () => {
    const furthest = (follow: string) => Math.max(...cameraLag(tuned({ 'camera.follow': follow })).map(([, lag]) => Math.abs(lag)));
    expect(furthest('locked')).toBeLessThan(1e-6);
    expect(furthest('smooth')).toBeGreaterThan(5);
  });
});
