import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drive, openGround } from '../testing/drive.ts';
import { measureSpan } from './span.ts';

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('calipers on a trace', () => {
  const straight = drive({ 'pace.walkSpeed': 120, 'ramp.model': 'instant', 'clock.hz': 60 }, 300, [{ at: 0, press: 'right' }]).trace;

  it('read a steady walk as speed × time, wherever the ends lie inside their ticks', () => {
    fc.assert(
      fc.property(between(0.1, 4.9), between(0.1, 4.9), (one, other) => {
        const read = measureSpan(straight, one, other);
        expect(read.seconds).toBeCloseTo(Math.abs(one - other), 9);
        expect(read.travelled).toBeCloseTo(120 * Math.abs(one - other), 6);
        expect(read.peakSpeed).toBe(120);
        expect(read.slope).toBeCloseTo(0, 6);
        expect([read.turned, read.contacts, read.touched]).toEqual([0, 0, 0]);
      }),
    );
  });

  it('read a ramp as its acceleration', () => {
    fc.assert(
      fc.property(between(50, 400), between(0.2, 0.8), between(0.1, 0.9), (accelerate, from, length) => {
        const { trace } = drive({ 'pace.walkSpeed': 1e4, 'ramp.accelerate': accelerate }, 200, [{ at: 0, press: 'right' }]);
        const read = measureSpan(trace, from, from + length);
        expect(read.slope).toBeCloseTo(accelerate, 5);
        expect(read.peakSpeed).toBeCloseTo(accelerate * (from + length), 5);
      }),
      { numRuns: 40 },
    );
  });

  it('count turns and contacts', () => {
    const walls = [
      {
        points: [
          [300, 0],
          [300, 2000],
        ] as [number, number][],
        closed: false,
        solid: true,
      },
    ];
    const ground = openGround({ start: { x: 200, y: 200, facing: 0 }, walls });
    const { trace } = drive(
      { 'facing.directions': '4', 'facing.turn': 'instant' },
      240,
      [
        { at: 0, press: 'right' },
        { at: 90, release: 'right' },
        { at: 90, press: 'left' },
        { at: 100, release: 'left' },
        { at: 100, press: 'right' },
      ],
      ground,
    );
    const read = measureSpan(trace, 0.2, 3.5);
    expect(read.turned).toBe(360);
    expect(read.contacts).toBe(2);
    const rows = Array.from({ length: 240 }, (_, i) => i).filter((i) => trace.at('contacts', i) > 0 && trace.at('time', i) <= 3.5 + 1e-9);
    expect(read.touched).toBeCloseTo(rows.length / 60, 6);
  });

  it('are held to what there is', () => {
    expect(measureSpan(straight, -10, 1e9).seconds).toBeCloseTo(5, 9);
    expect(measureSpan(straight, 2, 2)).toMatchObject({ seconds: 0, meanSpeed: 0, slope: 0 });
  });
});
