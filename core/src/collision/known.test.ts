import { describe, expect, it } from 'vitest';
import { bucketSegments, WallIndex } from '../ground/wallIndex.ts';
import { sequence } from '../testing/sequence.ts';
import { easeRound } from './cornerAssist.ts';
import { separate } from './overlap.ts';
import { Probe } from './probe.ts';
import { gather, sweep } from './sweep.ts';

/** Two bodies at one place among the same walls: one has collected as few walls as it must, one also knows distant walls. */
function pair(seed: number): { near: Probe; far: Probe; next: () => number } {
  const next = sequence(seed * 6133);
  const segments = new Float64Array(
    Array.from({ length: 30 }, () => {
      const [x, y, angle, long] = [next() * 120, next() * 120, next() * 7, 5 + next() * 40];
      return [x, y, x + Math.cos(angle) * long, y + Math.sin(angle) * long];
    }).flat(),
  );
  const index = new WallIndex(bucketSegments(segments));
  const [circle, width, height] = [next() < 0.5, 3 + next() * 8, 3 + next() * 8];
  const [x, y] = [20 + next() * 80, 20 + next() * 80];
  const [near, far] = [1, 2].map(() => Object.assign(new Probe(index, circle, width, circle ? width : height), { x, y })) as [Probe, Probe];
  far.reach = 200;
  gather(far);
  expect(far.count).toBe(30);
  return { near, far, next };
}

describe('walls that happen to be known', () => {
  it('change nothing of how a body is pushed out of those that it overlaps', () => {
    let moved = 0;
    for (let seed = 1; seed <= 2000; seed++) {
      const { near, far } = pair(seed);
      if (separate(near)) moved++;
      separate(far);
      expect([near.x, near.y, near.wall], `seed ${seed}`).toEqual([far.x, far.y, far.wall]);
    }
    expect(moved).toBeGreaterThan(500);
  });

  it('change nothing of the displacement that meets the first one', () => {
    for (let seed = 1; seed <= 2000; seed++) {
      const { near, far, next } = pair(seed);
      const [dx, dy] = [next() * 20 - 10, next() * 20 - 10];
      const met = [near, far].map((probe) => {
        Object.assign(probe, { dx, dy, reach: Math.hypot(dx, dy) });
        gather(probe);
        sweep(probe);
        return [probe.time, probe.wall, probe.normalX, probe.normalY];
      });
      expect(met[0], `seed ${seed}`).toEqual(met[1]);
    }
  });

  it('change nothing of the step by which it is eased round a corner', () => {
    let eased = 0;
    for (let seed = 1; seed <= 4000; seed++) {
      const { near, far, next } = pair(seed);
      const [dx, dy, assist] = [next() * 6 - 3, next() * 6 - 3, next() * 10];
      const done = [near, far].map((probe) => {
        Object.assign(probe, { dx, dy, reach: Math.hypot(dx, dy) });
        gather(probe);
        sweep(probe);
        return [easeRound(probe, assist), probe.easeX, probe.easeY, probe.easeRest];
      });
      if (done[0]?.[0]) eased++;
      expect(done[0], `seed ${seed}`).toEqual(done[1]);
    }
    expect(eased).toBeGreaterThan(100);
  });
});
