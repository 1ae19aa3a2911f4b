import { describe, expect, it } from 'vitest';
import type { Ground } from '../ground/ground.ts';
import type { TapeEvent } from '../tape/tape.ts';
import { seeds } from '../testing/campaign.ts';
import { drive, openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';
import { ARRIVED, CIRCLED, NEAREST_TAKEN, STUCK, UNREACHABLE } from './events.ts';
import type { World } from './world.ts';

const oneOf = <T>(next: () => number, ...values: T[]) => values[Math.floor(next() * values.length)] as T;
const between = (next: () => number, low: number, high: number) => low * (high / low) ** next();
const happened = ({ trace }: World, bit: number) => trace.values('events').some((events) => (events & bit) !== 0);
const click = (at: number, x: number, y: number): TapeEvent[] => [
  { at, point: [x, y] },
  { at, press: 'pointer' },
  { at: at + 1, release: 'pointer' },
];

const anyTuning = (next: () => number): Record<string, FileValue> => ({
  'route.enabled': true,
  'route.planner': oneOf(next, 'straight', 'grid4', 'grid8', 'grid4', 'grid8', 'shortest'),
  'route.replanEvery': between(next, 0.02, 1),
  'bounds.policy': oneOf(next, 'clamp', 'none'),
  'body.shape': oneOf(next, 'circle', 'box'),
  'ramp.model': oneOf(next, 'instant', 'linear', 'smooth', 'curve'),
  'ramp.turning': oneOf(next, 'vector', 'heading'),
  'clock.integration': oneOf(next, 'semiImplicit', 'trapezoid', 'exact'),
  'clock.hz': oneOf(next, 20, 30, 60, 144, 240),
  'pace.walkSpeed': between(next, 60, 500),
});

/** The longest a walk may take (s): at its speed, with a second for each bend and for setting out. */
const SECONDS = 40;
/** A body that walks straight at its point slides along walls: it gets 5,000 px at its walking speed if that takes longer. */
const isUnplanned = (values: Record<string, FileValue>) => values['route.planner'] === 'straight';
const secondsFor = (values: Record<string, FileValue>) =>
  Math.max(SECONDS, isUnplanned(values) ? 5000 / (values['pace.walkSpeed'] as number) : 0);

describe('plans that are made again and again', () => {
  it('lead to the point on open ground', () => {
    const runs = seeds(50, 1500);
    for (const seed of runs) {
      const next = sequence(seed * 1_299_709);
      const values = anyTuning(next);
      const ground = openGround({ size: { width: 640, height: 480 }, start: { x: 40 + next() * 560, y: 40 + next() * 400 } });
      const [x, y] = [20 + next() * 600, 20 + next() * 440];
      const hz = values['clock.hz'] as number;
      const world = drive(values, SECONDS * hz, click(1, x, y), ground);
      const label = `seed ${seed}: ${JSON.stringify({ values, start: ground.start, x, y })}`;
      expect(happened(world, ARRIVED), label).toBe(true);
      expect([world.body.x, world.body.y], label).toEqual([x, y]);
    }
  });

  it('lead among walls to the point or the nearest place, or end with a reason', () => {
    const runs = seeds(40, 1000, [664, 5824]);
    const planned = { arrived: 0, all: 0 };
    for (const seed of runs) {
      const next = sequence(seed * 15_487_469);
      const values = anyTuning(next);
      const cells = Array.from({ length: 12 }, () => Array.from({ length: 16 }, () => (next() < 0.18 ? '#' : '.')).join(''));
      const ground = openGround({
        size: { width: 640, height: 480 },
        cell: 40,
        cells,
        start: { x: next() * 640, y: next() * 480 },
      } as Partial<Ground>);
      const [x, y] = [next() * 640, next() * 480];
      const hz = values['clock.hz'] as number;
      const world = drive(values, Math.ceil(secondsFor(values) * hz), click(1, x, y), ground);
      const label = `seed ${seed}: ${JSON.stringify({ values, start: ground.start, x, y })}`;
      const ended = [ARRIVED, CIRCLED, STUCK, UNREACHABLE].filter((bit) => happened(world, bit));
      expect(ended.length, label).toBeGreaterThan(0);
      const [arrived, isNearest] = [happened(world, ARRIVED), happened(world, NEAREST_TAKEN)];
      // Without the nearest place being taken, it is the point itself; a planned path there always arrives.
      if (arrived && !isNearest) expect([world.body.x, world.body.y], label).toEqual([x, y]);
      if (isUnplanned(values)) continue;
      if (!isNearest) expect(arrived, label).toBe(true);
      planned.all++;
      if (arrived) planned.arrived++;
    }
    expect(planned.arrived).toBeGreaterThan(0.85 * planned.all);
  });
});

describe('a pointer that is held still', () => {
  it('is reached, and the body rests on it: every ramp, turning, integration and rate', () => {
    const runs = seeds(80, 3000);
    for (const seed of runs) {
      const next = sequence(seed * 32_416_187);
      const hz = oneOf(next, 20, 30, 60, 144, 240);
      const values: Record<string, FileValue> = {
        ...anyTuning(next),
        'bounds.policy': 'none',
        'clock.hz': hz,
        'route.brake': next() < 0.7,
        'ramp.accelerate': between(next, 200, 1e4),
        'ramp.decelerate': between(next, 200, 1e4),
        'ramp.brake': between(next, 200, 1e4),
        'ramp.halfLife': between(next, 0.01, 0.3),
        'ramp.turnRate': between(next, 60, 3000),
      };
      const ground = openGround({ size: { width: 2000, height: 2000 }, start: { x: 1000, y: 1000 } });
      const [angle, distance, run] = [next() * 7, between(next, 5, 500), next() * 7];
      const [x, y] = [1000 + Math.cos(angle) * distance, 1000 + Math.sin(angle) * distance];
      const held: TapeEvent[] = [
        { at: 0, stick: [Math.cos(run), Math.sin(run)] },
        { at: Math.ceil(hz * 0.4), stick: [0, 0] },
        { at: Math.ceil(hz * 0.4), point: [x, y] },
        { at: Math.ceil(hz * 0.4), press: 'pointer' },
      ];
      const world = drive(values, 30 * hz, held, ground);
      const label = `seed ${seed}: ${JSON.stringify({ values, x, y })}`;
      const places = Array.from({ length: hz }, (_, i) => world.trace.end - 1 - i);
      for (const row of places) {
        const off = Math.hypot(world.trace.at('x', row) - x, world.trace.at('y', row) - y);
        expect(off, label).toBeLessThanOrEqual(world.parameters.route.arriveRadius);
        expect(world.trace.at('speed', row), label).toBeLessThan(1e-6);
      }
    }
  });
});
