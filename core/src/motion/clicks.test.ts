import { describe, expect, it } from 'vitest';
import type { Ground } from '../ground/ground.ts';
import type { TapeEvent } from '../tape/tape.ts';
import { campaign, seeds } from '../testing/campaign.ts';
import { drive, openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';
import { ARRIVED, CIRCLED, NEAREST_TAKEN, SQUEEZED, START_MOVED, STUCK } from './events.ts';
import type { World } from './world.ts';

const oneOf = <T>(next: () => number, ...values: T[]) => values[Math.floor(next() * values.length)] as T;
const between = (next: () => number, low: number, high: number) => low * (high / low) ** next();
const click = (at: number, x: number, y: number): TapeEvent[] => [
  { at, point: [x, y] },
  { at, press: 'pointer' },
  { at: at + 2, release: 'pointer' },
];
const rowOf = ({ trace }: World, bit: number) => trace.values('events').findIndex((events) => (events & bit) !== 0);

/** Cells, or polygons and lines at any angle, with room between them. */
function anyGround(next: () => number): Ground {
  const cell = oneOf(next, 32, 50, 100);
  const [width, height] = [14 * cell, 10 * cell];
  const start = { x: next() * width, y: next() * height };
  if (next() < 0.5) {
    const cells = Array.from({ length: 10 }, () => Array.from({ length: 14 }, () => (next() < 0.22 ? '#' : '.')).join(''));
    return openGround({ size: { width, height }, cell, cells, start });
  }
  const walls = Array.from({ length: 6 }, () => {
    const [x, y, angle, length, depth] = [next() * width, next() * height, next() * 7, 40 + next() * 200, 10 + next() * 80];
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const closed = next() < 0.6;
    const points: [number, number][] = [
      [x, y],
      [x + c * length, y + s * length],
    ];
    if (closed) points.push([x + c * length - s * depth, y + s * length + c * depth], [x - s * depth, y + c * depth]);
    return { points, closed, solid: true };
  });
  return openGround({ size: { width, height }, walls, start });
}

const anyTuning = (next: () => number): Record<string, FileValue> => ({
  'route.enabled': true,
  'bounds.policy': oneOf(next, 'clamp', 'none'),
  'body.shape': oneOf(next, 'circle', 'box'),
  'ramp.model': oneOf(next, 'instant', 'linear', 'smooth', 'curve'),
  'ramp.turning': oneOf(next, 'vector', 'vector', 'heading'),
  'clock.integration': oneOf(next, 'semiImplicit', 'trapezoid', 'exact'),
  'clock.hz': oneOf(next, 30, 60, 144),
  'pace.walkSpeed': oneOf(next, 60, 140, 245, 500),
  scheme: oneOf(next, 'steer', 'steer', 'steer', 'turn'),
});

describe('any clicks', () => {
  it('all arrive on their points without touching a wall, in about the expected time', () => {
    let clicks = 0;
    for (let seed = 1; clicks < campaign(250, 1000); seed++) {
      const next = sequence(seed * 15_485_863);
      const values = anyTuning(next);
      const ground = anyGround(next);
      const [x, y] = [next() * ground.size.width, next() * ground.size.height];
      const still = drive(values, 1, [], ground);
      if (rowOf(still, START_MOVED) >= 0) continue;
      const path = still.navigator.plan(still.body.x, still.body.y, x, y);
      if (!path?.reached || path.squeezed || path.length < 1) continue;
      clicks++;
      const [hz, speed] = [values['clock.hz'] as number, values['pace.walkSpeed'] as number];
      const seconds = path.length / speed + 1;
      const world = drive(values, Math.ceil(hz * (seconds + 3)) + 1, click(1, x, y), ground);
      const label = `seed ${seed}: ${JSON.stringify(values)}`;
      expect([world.body.x, world.body.y], label).toEqual([x, y]);
      expect(rowOf(world, ARRIVED) / hz, label).toBeLessThan(seconds);
      expect(Math.max(...world.trace.values('contacts')), label).toBe(0);
    }
  });

  it('in motion end exactly on their points, from any speed, with any rates', () => {
    for (const seed of seeds(250, 1000)) {
      const next = sequence(seed * 32_452_843);
      const hz = oneOf(next, 30, 60, 144);
      const values: Record<string, FileValue> = {
        ...anyTuning(next),
        'bounds.policy': 'none',
        'clock.hz': hz,
        'pace.walkSpeed': between(next, 20, 2000),
        'ramp.accelerate': between(next, 100, 1e4),
        'ramp.decelerate': between(next, 100, 1e4),
        'ramp.brake': between(next, 100, 1e4),
        'ramp.ease': between(next, 100, 1e4),
        'ramp.turnRate': between(next, 30, 3000),
        'ramp.halfLife': between(next, 0.01, 0.4),
        'route.arriveRadius': oneOf(next, 0, 4),
      };
      const ground = openGround({ size: { width: 6000, height: 6000 }, start: { x: 3000, y: 3000 } });
      const [angle, at] = [next() * 7, Math.ceil(hz * (0.2 + next()))];
      const running: TapeEvent[] = [
        { at: 0, stick: [Math.cos(angle), Math.sin(angle)] },
        { at: 0, press: 'sprint' },
        { at, stick: [0, 0] },
        { at, release: 'sprint' },
      ];
      const before = drive(values, at, running, ground).body;
      const [x, y] = [before.x + (next() * 2 - 1) * between(next, 1, 400), before.y + (next() * 2 - 1) * between(next, 1, 400)];
      if (Math.min(x, y, 6000 - x, 6000 - y) < 30) continue;
      const world = drive(values, at + 30 * hz, [...running, ...click(at, x, y)], ground);
      expect([world.body.x, world.body.y], `seed ${seed}: ${JSON.stringify(values)}`).toEqual([x, y]);
    }
  });
});

describe('a click', () => {
  it('beyond the corner of a solid that a box hugs is reached with the instant ramp', () => {
    const corners: [number, number][] = [
      [100, 100],
      [500, 100],
      [500, 1000],
      [100, 1000],
    ];
    const ground = openGround({
      size: { width: 1200, height: 1200 },
      start: { x: 200, y: 80 },
      walls: [{ points: corners, closed: true, solid: true }],
    });
    const world = drive({ 'route.enabled': true, 'body.shape': 'box', 'ramp.model': 'instant' }, 1000, click(1, 514.2, 1000), ground);
    expect([world.body.x, world.body.y]).toEqual([514.2, 1000]);
  });

  it('that circles its point for ever is given up, and said so', () => {
    const orbit = { 'route.enabled': true, 'ramp.model': 'instant', 'route.arrival': 'radiusOnly', 'route.brake': false };
    // Points that lie between two ticks' places.
    for (const [speed, radius, x] of [
      [600, 1, 403],
      [2000, 5, 416],
    ] as const) {
      const world = drive(
        { ...orbit, 'pace.walkSpeed': speed, 'route.arriveRadius': radius },
        900,
        click(1, x, 300),
        openGround({ start: { x: 100, y: 300 } }),
      );
      expect(rowOf(world, ARRIVED)).toBe(-1);
      expect(rowOf(world, CIRCLED)).toBeGreaterThan(100);
      expect(world.body.routeActive).toBe(0);
    }
  });

  it('of a body that cannot move at all is given up', () => {
    const world = drive({ 'route.enabled': true, 'pace.walkSpeed': 0 }, 300, click(1, 400, 300), openGround({ start: { x: 100, y: 300 } }));
    expect(rowOf(world, STUCK)).toBeGreaterThan(0);
  });
});

describe('a gap that the body fits and its margin does not', () => {
  const wall = (...points: [number, number][]) => ({ points, closed: false, solid: true });
  /** A room closed but for a gap of this width. */
  const room = (gap: number, more: { points: [number, number][]; closed: boolean; solid: boolean }[] = []) =>
    openGround({
      size: { width: 600, height: 400 },
      start: { x: 60, y: 200 },
      walls: [wall([300, 0], [300, 200 - gap / 2]), wall([300, 200 + gap / 2], [300, 400]), ...more],
    });
  const go = (ground: Ground, more: Record<string, FileValue> = {}) =>
    drive({ 'route.enabled': true, 'bounds.policy': 'clamp', ...more }, 900, click(1, 500, 220), ground);

  it('is walked if there is no other path, and reported', () => {
    for (const gap of [24.2, 25, 27]) {
      const world = go(room(gap));
      expect([world.body.x, world.body.y]).toEqual([500, 220]);
      expect(rowOf(world, SQUEEZED)).toBe(2);
    }
    expect(rowOf(go(room(40)), SQUEEZED)).toBe(-1);
  });

  it('is not if there is another path, nor one too narrow for the body', () => {
    const open = room(25);
    const detour = { ...open, walls: [wall([300, 60], [300, 187.5]), wall([300, 212.5], [300, 400])] };
    expect(rowOf(go(detour), SQUEEZED)).toBe(-1);
    const world = go(room(23));
    expect(rowOf(world, NEAREST_TAKEN)).toBeGreaterThan(0);
    expect(world.body.x).toBeLessThan(300);
  });
});

describe('a path that begins within the margin of a wall', () => {
  it('never crosses one: thin walls on both sides', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const next = sequence(seed * 977);
      const gap = 24.05 + next() * 4;
      const [top, x] = [60 + next() * 200, 100 + next() * 200];
      const walls = [top, top + gap].map((y) => ({
        points: [
          [40, y],
          [400, y],
        ] as [number, number][],
        closed: false,
        solid: true,
      }));
      const ground = openGround({ size: { width: 600, height: 400 }, start: { x, y: top + gap / 2 }, walls });
      const world = drive({ 'route.enabled': true }, 1, [], ground);
      const path = world.navigator.plan(world.body.x, world.body.y, next() * 600, next() * 400);
      for (let i = 1; i < (path?.points.length ?? 0); i++) {
        const [[ax, ay], [bx, by]] = [path?.points[i - 1], path?.points[i]] as [[number, number], [number, number]];
        for (const y of [top, top + gap]) {
          if (ay < y === by < y) continue;
          const crossing = ax + ((bx - ax) * (y - ay)) / (by - ay);
          expect(crossing < 40 || crossing > 400, `seed ${seed}`).toBe(true);
        }
      }
    }
  });
});
