import { describe, expect, it } from 'vitest';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import type { Trace } from '../motion/trace.ts';
import { driveLaps } from '../pilot/laps.ts';
import { rerun } from '../replay/rerun.ts';
import { seeds } from '../testing/campaign.ts';
import { randomCourse } from '../testing/randomCourse.ts';
import { sequence } from '../testing/sequence.ts';
import { sound } from '../testing/soundTuning.ts';
import { bodySize } from '../tuning/body.ts';
import { alongCourse } from './along.ts';
import { type CoursePath, planCourse } from './coursePath.ts';
import { lapInTrace } from './lap.ts';

/** A random tuning on a random course, with its planned path. */
function planned(seed: number) {
  const next = sequence(seed * 31);
  const { parameters } = sound(seed, { 'bounds.policy': 'clamp' });
  const { width, height } = bodySize(parameters.body);
  const { ground, walls } = randomCourse(parameters, next, Math.max(width, height), 0.6);
  return { next, parameters, ground, walls, path: planCourse(parameters, ground, walls), width: Math.max(width, height) };
}

/** The place at a distance along a path, by adding up its legs. */
function placeAt({ points }: CoursePath, s: number): [number, number] {
  let left = s;
  for (let i = 1; i < points.length; i++) {
    const [[x0, y0], [x1, y1]] = [points[i - 1] as [number, number], points[i] as [number, number]];
    const size = Math.hypot(x1 - x0, y1 - y0);
    if (left <= size || i === points.length - 1) return [x0 + ((x1 - x0) * left) / size, y0 + ((y1 - y0) * left) / size];
    left -= size;
  }
  return points[0] as [number, number];
}

/** The distances of a path's corners. */
const cornersOf = ({ points }: CoursePath): number[] =>
  points.map((_, end) => {
    const legs = points
      .slice(1, end + 1)
      .map(([x, y], i) => Math.hypot(x - (points[i] as [number, number])[0], y - (points[i] as [number, number])[1]));
    return legs.reduce((sum, leg) => sum + leg, 0);
  });

/** A trace of places, a hundredth of a second apart. */
const traceOf = (places: readonly (readonly [number, number])[]): Trace => {
  const at = (name: string, row: number) => {
    const [x, y] = places[row] as readonly [number, number];
    return name === 'x' ? x : name === 'y' ? y : name === 'time' ? row / 100 : 0;
  };
  return { first: 0, end: places.length, at } as never;
};

describe('progress along a course', () => {
  it('of a body that follows the planned path is the distance travelled, whatever its pace', () => {
    for (const seed of seeds(12, 600)) {
      const { next, ground, path, width } = planned(seed);
      if (path.blocked) continue;
      // Standing now and then; at all corners, too: where the path turns back it is behind a gate for a hair's breadth.
      const travelled = cornersOf(path);
      for (let s = 0; s < path.length; s += next() < 0.1 && s > 0 ? 0 : next() * 0.3 * width) travelled.push(s);
      travelled.sort((a, b) => a - b);
      const along = alongCourse(traceOf(travelled.map((s) => placeAt(path, Math.min(s, path.length)))), ground, path);
      const fault = travelled.reduce((most, s, row) => {
        const time = row / 100 - along.began;
        return s > along.reached ? most : Math.max(most, Math.abs(along.distanceAt(time) - s));
      }, 0);
      // As exact as the samples of the path; where it turns back, its two sides are a hair's breadth apart.
      expect(fault, `seed ${seed}`).toBeLessThan(path.length / 600 + 0.01 * width);
      expect(along.reached, `seed ${seed}`).toBeGreaterThan(path.length * 0.999 - width);
    }
  });

  it('never falls back, is each gate’s own at its split, and lies as near to the drive as a monotone one can: laps of the pilot', () => {
    for (const seed of seeds(12, 600)) {
      const { next, parameters, ground, walls, path, width } = planned(seed);
      const { tape, laps } = driveLaps(parameters, ground, {}, 1, walls);
      const { trace } = rerun(tape, parameters, ground);
      const along = alongCourse(trace, ground, path);
      const lap = lapInTrace(trace, ground, tape.events, tape.hz);
      expect([seed, lap.gates]).toEqual([seed, laps[0]?.gates]);
      for (const [gate, time] of lap.gates.entries()) {
        const s = path.gates[gate];
        if (s === undefined) break;
        expect(along.timeAt(s), `seed ${seed}, gate ${gate}`).toBeCloseTo(time, 9);
        // Two gates crossed at once: the second one counts.
        if (lap.gates[gate + 1] !== time) expect(along.distanceAt(time), `seed ${seed}, gate ${gate}`).toBeCloseTo(s, 6);
      }
      let last = 0;
      let own = 0;
      let rows = 0;
      const times: number[] = [];
      for (let row = trace.first + 1; row < trace.end && trace.at('time', row) - along.began < lap.time; row++) {
        const time = trace.at('time', row) - along.began;
        if (time <= 0) continue;
        const s = along.distanceAt(time);
        expect(s, `seed ${seed}, row ${row}`).toBeGreaterThanOrEqual(last);
        if (s > last) expect(along.timeAt(s), `seed ${seed}, row ${row}`).toBeLessThanOrEqual(time + 1e-9);
        last = s;
        const [x, y] = placeAt(path, s);
        own += (x - trace.at('x', row)) ** 2 + (y - trace.at('y', row)) ** 2;
        rows++;
        times.push(time);
      }
      // Any other monotone progress that passes the gates at their times is no nearer.
      if (!lap.finished || path.blocked) continue;
      for (let trial = 0; trial < 5; trial++) {
        const power = 0.6 + next();
        let other = 0;
        for (const time of times) {
          const gate = lap.gates.findIndex((end) => time <= end);
          const [t0, t1] = [lap.gates[gate - 1] ?? 0, lap.gates[gate] as number];
          const [s0, s1] = [path.gates[gate - 1] ?? 0, path.gates[gate] as number];
          const [x, y] = placeAt(path, s0 + (s1 - s0) * ((time - t0) / (t1 - t0)) ** power);
          const row = trace.rowAt(time + along.began - 1e-9);
          other += (x - trace.at('x', row)) ** 2 + (y - trace.at('y', row)) ** 2;
        }
        expect(own, `seed ${seed}`).toBeLessThan(other + rows * (0.1 * width) ** 2);
      }
    }
  });

  it('goes on to the farthest place of a drive that isn’t finished, and not beyond', () => {
    const { ground, path, parameters } = planned(3);
    const walls = new WallIndex(bucketWalls(ground, parameters.contact.seams));
    expect(planCourse(parameters, ground, walls).length).toBe(path.length);
    const half = path.length / 2;
    const travelled = [...cornersOf(path).filter((s) => s < half), ...Array.from({ length: 101 }, (_, i) => (half * i) / 100)];
    const places = travelled.sort((a, b) => a - b).map((s) => placeAt(path, s));
    const along = alongCourse(traceOf(places), ground, path);
    expect(along.reached).toBeCloseTo(half, 1);
    expect(along.timeAt(along.reached + 1)).toBeNaN();
    expect(along.distanceAt(99)).toBe(along.reached);
    const none = alongCourse(traceOf([path.points[0] as [number, number]]), ground, path);
    expect([none.reached, none.distanceAt(5), none.timeAt(0), none.touches]).toEqual([0, 0, 0, []]);
  });
});
