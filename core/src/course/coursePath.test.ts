import { describe, expect, it } from 'vitest';
import { isClear, placedBody } from '../collision/placedBody.ts';
import { groundWith } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { seeds } from '../testing/campaign.ts';
import { randomCourse } from '../testing/randomCourse.ts';
import { sequence } from '../testing/sequence.ts';
import { sound, tuningWith } from '../testing/soundTuning.ts';
import { courseNavigator, planCourse } from './coursePath.ts';
import { crossingTime, gateLines } from './gates.ts';

const { parameters } = tuningWith({ 'body.radius': 10 });
const wallsOf = (ground: Parameters<typeof bucketWalls>[0]) => new WallIndex(bucketWalls(ground));

describe('the planned path of a course', () => {
  it('is the shortest on open ground: within 0.1 % of the least over all places on the gates, found by descent', () => {
    let held = 0;
    for (const seed of seeds(40, 400)) {
      const next = sequence(seed);
      const place = (): [number, number] => [100 + next() * 800, 100 + next() * 800];
      const gates = Array.from({ length: 1 + Math.floor(next() * 4) }, () => ({ from: place(), to: place() }));
      const ground = groundWith({
        name: 'Open',
        size: { width: 1000, height: 1000 },
        start: { x: 500, y: 500 },
        course: { gates, laps: 1 },
      });
      const path = planCourse(parameters, ground, wallsOf(ground));
      expect(path.blocked).toBeNull();
      // The oracle: the length is convex in the places, so that descent from the middles finds the least; a turn back costs nothing here.
      const at = (i: number, u: number): [number, number] => {
        const { from, to } = gates[i] as (typeof gates)[number];
        return [from[0] + (to[0] - from[0]) * u, from[1] + (to[1] - from[1]) * u];
      };
      const us = gates.map(() => 0.5);
      const length = () => {
        let [x, y] = [500, 500];
        let sum = 0;
        for (const [i, u] of us.entries()) {
          const [nx, ny] = at(i, u);
          sum += Math.hypot(nx - x, ny - y);
          [x, y] = [nx, ny];
        }
        return sum;
      };
      // Steps in random directions, ever smaller: along single gates alone descent gets stuck at bends.
      for (let step = 0.3; step > 1e-7; step /= 1.6)
        for (let tried = 0; tried < 60; tried++) {
          const was = [...us];
          const now = length();
          for (const i of us.keys()) us[i] = Math.min(1, Math.max(0, (us[i] as number) + (2 * next() - 1) * step));
          if (length() >= now) us.splice(0, us.length, ...was);
        }
      const least = length();
      // The path ends a trifle before each gate.
      expect(path.length, `seed ${seed}`).toBeGreaterThan(least - 0.1 * gates.length);
      // The oracle knows no directions: it holds where its path crosses each gate from before to behind.
      const places = [[500, 500] as [number, number], ...us.map((u, i) => at(i, u))];
      const isForward = gateLines(ground).every(({ nx, ny }, i) => {
        const [from, here, to] = [places[i], places[i + 1], places[i + 2]] as [
          [number, number],
          [number, number],
          [number, number] | undefined,
        ];
        const into = (here[0] - from[0]) * nx + (here[1] - from[1]) * ny;
        return into > 0.01 && (!to || (to[0] - here[0]) * nx + (to[1] - here[1]) * ny > 0.01);
      });
      if (isForward) {
        held++;
        expect(path.length, `seed ${seed}`).toBeLessThan(least * 1.001 + 0.2);
      }
    }
    expect(held).toBeGreaterThan(0);
  });

  it('crosses all gates in order, touches no wall, and is no longer than random paths through the gates', () => {
    for (const seed of seeds(30, 400)) {
      const next = sequence(seed * 17);
      const tuning = sound(seed, { scheme: 'steer', 'body.shape': 'circle', 'bounds.policy': 'clamp' }).parameters;
      const width = 2 * tuning.body.radius;
      const { ground, walls } = randomCourse(tuning, next, width);
      const navigator = courseNavigator(tuning, ground, walls);
      const path = planCourse(tuning, ground, walls, { navigator });
      const body = placedBody(tuning, ground, walls);
      const gates = gateLines(ground);
      let crossed = 0;
      for (let i = 1; i < path.points.length; i++) {
        const [a, b] = [path.points[i - 1] as [number, number], path.points[i] as [number, number]];
        expect(isClear(body, ...a, ...b), `seed ${seed}, leg ${i}`).toBe(true);
        let from = 0;
        for (;;) {
          const gate = gates[crossed % gates.length];
          const time = gate && crossed < path.gates.length ? crossingTime(gate, ...a, ...b) : -1;
          if (time < from) break;
          from = time;
          crossed++;
        }
      }
      // The last gate is the path's end, a thousandth of a body before the line.
      expect(crossed, `seed ${seed}`).toBeGreaterThanOrEqual(path.gates.length - 1);
      for (let trial = 0; trial < 5; trial++) {
        let [x, y] = [ground.start.x, ground.start.y];
        let sum = 0;
        for (const gate of ground.course?.laps === 1 ? gates : []) {
          const u = next();
          const to: [number, number] = [gate.ax + (gate.bx - gate.ax) * u, gate.ay + (gate.by - gate.ay) * u];
          sum += navigator.plan(x, y, ...to)?.length ?? Number.POSITIVE_INFINITY;
          [x, y] = to;
        }
        if (sum > 0 && path.points.length < 2 * gates.length + 40)
          expect(path.length, `seed ${seed}`).toBeLessThan(Math.max(sum * 1.02, sum + 3 * width));
      }
    }
  });

  it('names the first gate that cannot be reached, and why', () => {
    const box = {
      points: [
        [400, 400],
        [600, 400],
        [600, 600],
        [400, 600],
      ] as [number, number][],
      closed: true,
    };
    const ground = (gates: { from: [number, number]; to: [number, number] }[]) =>
      groundWith({
        name: 'Blocked',
        size: { width: 1000, height: 1000 },
        start: { x: 100, y: 100 },
        walls: [box],
        course: { gates, laps: 1 },
      });
    const open = { from: [200, 50] as [number, number], to: [200, 150] as [number, number] };
    const blockedBy = (gate: { from: [number, number]; to: [number, number] }) => {
      const own = ground([open, gate]);
      return planCourse(parameters, own, wallsOf(own)).blocked;
    };
    expect(blockedBy({ from: [450, 500], to: [550, 500] })).toEqual({ gate: 1, why: 'the body does not fit on it anywhere' });
    expect(blockedBy({ from: [300, 300], to: [300, 300] })).toEqual({ gate: 1, why: 'it has no length' });
    expect(blockedBy({ from: [700, 100], to: [700, 200] })).toBeNull();
  });
});
