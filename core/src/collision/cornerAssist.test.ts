import { describe, expect, it } from 'vitest';
import { drive, openGround } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';

/** A block whose upper corner blocks a body moving right, by `overlap`. */
const block = (overlap: number) =>
  openGround({
    start: { x: 0, y: -12 + overlap },
    walls: [
      {
        points: [
          [60, 0],
          [160, 0],
          [160, 200],
          [60, 200],
        ],
        closed: true,
      },
    ],
  });
const run = (overlap: number, values: Record<string, FileValue> = {}) =>
  drive({ 'body.shape': 'box', 'ramp.model': 'instant', ...values }, 90, [{ at: 0, press: 'right' }], block(overlap));

describe('corner assist', () => {
  it('eases a box round a corner that it would be stopped by, within the overlap that is allowed', () => {
    expect(run(4).body.x).toBeLessThan(60);
    expect(run(4, { 'contact.cornerAssist': 5 }).body.x).toBeGreaterThan(150);
    expect(run(6, { 'contact.cornerAssist': 5 }).body.x).toBeLessThan(60);
  });

  it('keeps the speed, goes aside no faster than it went on, and never into the wall', () => {
    const { trace } = run(4, { 'contact.cornerAssist': 5 });
    for (let row = 1; row < trace.end; row++) {
      const moved = Math.hypot(trace.at('x', row) - trace.at('x', row - 1), trace.at('y', row) - trace.at('y', row - 1));
      expect(moved).toBeLessThanOrEqual(140 / 60 + 1e-9);
      if (trace.at('x', row) > 48) expect(trace.at('y', row)).toBeLessThan(-11.9);
    }
    expect(trace.at('speed', trace.end - 1)).toBe(140);
  });

  it('works for a circle, and not through a second wall', () => {
    const circle = { 'body.shape': 'circle', 'contact.cornerAssist': 15 };
    const bare = run(14, { ...circle, 'contact.cornerAssist': 0 }).body.x;
    expect(bare).toBeLessThan(60);
    expect(run(14, circle).body.x).toBeGreaterThan(100);
    const shut = block(4);
    shut.walls.push({
      points: [
        [40, -22],
        [160, -22],
      ],
    });
    const held = drive({ 'body.shape': 'box', 'contact.cornerAssist': 5 }, 90, [{ at: 0, press: 'right' }], shut);
    expect(held.body.x).toBeLessThan(60);
  });
});
