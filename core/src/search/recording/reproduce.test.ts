import { describe, expect, it } from 'vitest';
import { cos, PI, sin } from '../../math/functions.ts';
import { type RecordedMotion, reproduce } from './reproduce.ts';

const HZ = 60;
const WALK = 120;

/** Six seconds of an instant mover, by hand: a square with sides of a second, each place by its closed form. */
function square(): RecordedMotion {
  const times = Float64Array.from({ length: 6 * HZ + 1 }, (_, i) => i / HZ);
  const angles = [0, 1, 2, 3, 0, 1].map((quarter) => (quarter * PI) / 2);
  const along = (of: (angle: number) => number) =>
    times.map((time) => angles.reduce((sum, angle, second) => sum + WALK * of(angle) * Math.max(0, Math.min(1, time - second)), 0));
  const rates = { accelerate: 1, decelerate: 1, brake: 1, ease: 1, halfLife: 0.05, tick: 1 / HZ };
  return {
    times,
    x: along(cos),
    y: along(sin),
    mover: { model: 'instant', walk: WALK, sprint: 0, ...rates },
    changes: angles.map((angle, time) => ({ time, angle, isSprint: false })),
    diagonal: 1,
    start: [WALK, 0],
    noise: 0.01,
  };
}

describe('a recorded motion beside the model', () => {
  it('is the same where the numbers are right', () => {
    const { place, misfits, driven } = reproduce(square());
    expect(place).toBeLessThan(1e-9);
    expect(misfits).toEqual([]);
    expect(driven[30]).toBeCloseTo(WALK, 6);
  });

  it.each([0.9, 1.1, 1.4])('is apart by the closed form with %f of the speed', (factor) => {
    // Within a second the distance grows evenly and its mean is subtracted: the root of the mean square is |Δv|/√12, of which an axis has 1/√2.
    const { place, misfits } = reproduce(square(), { walk: factor * WALK });
    expect(place).toBeCloseTo((WALK * Math.abs(factor - 1)) / Math.sqrt(24), 0);
    expect(misfits.length).toBeGreaterThan(0);
    for (const { words } of misfits)
      expect(words).toBe(
        `it is ${Math.round(100 * Math.abs(1 - Math.min(factor, 1 / factor)))} % ${factor > 1 ? 'slower' : 'faster'} than the model`,
      );
  });

  it.each([1, 3, 4])('names the stretch in which the recording is slower, from second %i on', (second) => {
    const motion = square();
    const held = (values: Float64Array) => {
      // Half as fast for half a second; what follows is shifted.
      const step = values.map((value, i) => value - (values[i - 1] ?? value));
      let at = values[0] as number;
      return values.map((_, i) => {
        const time = motion.times[i] as number;
        at += (step[i] as number) * (time > second + 0.2 && time <= second + 0.7 ? 0.5 : 1);
        return at;
      });
    };
    const { misfits } = reproduce({ ...motion, x: held(motion.x), y: held(motion.y) });
    expect(misfits.length).toBeGreaterThan(0);
    for (const { from, to } of misfits) {
      expect(from).toBeGreaterThanOrEqual(second);
      expect(to).toBeLessThanOrEqual(second + 1);
    }
    expect(misfits.some(({ words }) => /^it is \d+ % slower than the model$/.test(words))).toBe(true);
  });

  it('names a heading that differs', () => {
    const motion = square();
    const turned = motion.changes.map((change, i) => (i === 2 ? { ...change, angle: (change.angle as number) + 0.3 } : change));
    const { misfits } = reproduce({ ...motion, changes: turned });
    expect(misfits.map(({ words }) => words)).toContain('it goes 17° left of the model');
  });
});
