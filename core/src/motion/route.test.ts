import { describe, expect, it } from 'vitest';
import type { Ground } from '../ground/ground.ts';
import type { TapeEvent } from '../tape/tape.ts';
import { drive, openGround } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';
import { ARRIVED, NEAREST_TAKEN, PLANTED, REPLANNED, ROUTE_CANCELLED, ROUTE_SET, STUCK, UNREACHABLE } from './events.ts';
import type { World } from './world.ts';

const on = { 'route.enabled': true };
const ground = (over: Partial<Ground> = {}) => openGround({ size: { width: 1000, height: 600 }, start: { x: 100, y: 300 }, ...over });
/** A tap at a place. */
const tap = (at: number, x: number, y: number): TapeEvent[] => [
  { at, point: [x, y] },
  { at, press: 'pointer' },
  { at: at + 5, release: 'pointer' },
];
const run = (values: Record<string, FileValue>, events: TapeEvent[], ticks = 600, place = ground()) =>
  drive({ ...on, ...values }, ticks, events, place);
/** Rows in which an event happened. */
const rowsOf = ({ trace }: World, bit: number) =>
  Array.from({ length: trace.end }, (_, row) => row).filter((row) => trace.at('events', row) & bit);
const wall = (x0: number, y0: number, x1: number, y1: number): Ground['walls'][number] => ({
  points: [
    [x0, y0],
    [x1, y1],
  ],
  closed: false,
  solid: true,
});

describe('a tap', () => {
  it('moves the body at the next tick, and ends exactly on the point, at rest', () => {
    const world = run({}, tap(10, 500, 200));
    expect(world.trace.at('speed', 10)).toBe(0);
    expect(world.trace.at('speed', 11)).toBeGreaterThan(0);
    expect(rowsOf(world, ROUTE_SET)).toEqual([11]);
    expect(rowsOf(world, ARRIVED)).toHaveLength(1);
    expect(world.body).toMatchObject({ x: 500, y: 200, vx: 0, vy: 0 });
  });

  it.each([30, 60, 144])('arrives exactly, however fast, with and without braking (%d Hz)', (hz) => {
    for (const brake of [true, false])
      for (const walk of [5, 140, 5000]) {
        const world = run(
          { 'clock.hz': hz, 'route.brake': brake, 'pace.walkSpeed': walk, 'ramp.model': 'instant' },
          tap(2, 137.5, 301.25),
          hz * 12,
        );
        expect([world.body.x, world.body.y]).toEqual([137.5, 301.25]);
      }
  });

  it('with a brake is never faster than still stops on the point', () => {
    const { trace, parameters } = run({ 'pace.walkSpeed': 400 }, tap(0, 600, 300));
    for (let row = 2; row < trace.end; row++)
      if (trace.at('toGo', row) > 0)
        expect(trace.at('speed', row)).toBeLessThanOrEqual(Math.sqrt(2 * parameters.ramp.decelerate * trace.at('toGo', row)) + 1e-9);
  });

  it('with radius-only arrival circles a point for ever when the radius is below half a tick’s travel, and not when it is above', () => {
    const orbit = {
      'ramp.model': 'instant',
      'route.arrival': 'radiusOnly',
      'route.brake': false,
      'pace.walkSpeed': 600,
      'route.arriveRadius': 1,
    };
    expect(rowsOf(run(orbit, tap(0, 403, 300)), ARRIVED)).toEqual([]);
    expect(rowsOf(run({ ...orbit, 'route.arriveRadius': 12 }, tap(0, 403, 300)), ARRIVED)).toHaveLength(1);
  });

  it('before any pointer was seen goes nowhere', () => {
    const world = run({}, [
      { at: 0, press: 'pointer' },
      { at: 60, release: 'pointer' },
    ]);
    expect(rowsOf(world, ROUTE_SET)).toEqual([]);
    expect([world.body.x, world.body.y]).toEqual([100, 300]);
  });

  it('keeps the speed of a new click, or drops it', () => {
    const events = [...tap(0, 800, 300), ...tap(60, 900, 300)];
    expect(run({}, events).trace.at('speed', 61)).toBe(140);
    expect(run({ 'route.reclick': 'restart' }, events).trace.at('speed', 61)).toBeLessThan(20);
  });

  it('ends by hands that steer', () => {
    const world = run({}, [...tap(0, 800, 300), { at: 30, press: 'up' }, { at: 60, release: 'up' }]);
    expect(rowsOf(world, ROUTE_CANCELLED)).toEqual([31]);
    expect(world.body.x).toBeLessThan(200);
    expect(world.trace.at('speed', 600)).toBe(0);
  });

  it('on the body itself arrives at once, and twenty a second do no harm', () => {
    expect(rowsOf(run({}, tap(0, 100, 300), 30), ARRIVED)).toHaveLength(1);
    const many = Array.from({ length: 60 }, (_, i): TapeEvent[] => [
      { at: i * 3, point: [300 + (i % 7) * 60, 100 + (i % 5) * 80] },
      { at: i * 3, press: 'pointer' },
      { at: i * 3 + 1, release: 'pointer' },
    ]).flat();
    expect(rowsOf(run({}, many, 900), ARRIVED)).toHaveLength(1);
  });

  it('does nothing while click-to-go is off', () => {
    expect(drive({}, 60, tap(0, 500, 300), ground()).body.x).toBe(100);
  });
});

describe('walls before the goal', () => {
  const walled = ground({ walls: [wall(300, 100, 300, 500)] });
  it('are passed by the shortest path, without touching', () => {
    const world = run({}, tap(0, 500, 300), 900, walled);
    expect([world.body.x, world.body.y]).toEqual([500, 300]);
    expect(Math.max(...Array.from({ length: world.trace.end }, (_, row) => world.trace.at('contacts', row)))).toBe(0);
  });

  it('are run into by the straight planner, which plans once more and gives up', () => {
    const world = run({ 'route.planner': 'straight' }, tap(0, 500, 300), 400, walled);
    expect(rowsOf(world, REPLANNED)).toHaveLength(1);
    expect(rowsOf(world, STUCK)).toHaveLength(1);
    expect(world.trace.at('speed', 400)).toBe(0);
  });

  it.each(['grid4', 'grid8'] as const)('are gone round over cells (%s)', (planner) => {
    const world = run({ 'route.planner': planner }, tap(0, 500, 300), 1200, walled);
    expect([world.body.x, world.body.y]).toEqual([500, 300]);
  });

  it('hold up a body on a straight line for the set patience, again and again', () => {
    for (const after of [0.5, 1, 3]) {
      const world = run({ 'route.planner': 'straight', 'route.stuckAfter': after }, tap(2, 500, 300), 900, walled);
      const met = Array.from({ length: world.trace.end }, (_, row) => row).find((row) => world.trace.at('contacts', row) > 0) as number;
      const waited = ((rowsOf(world, REPLANNED | STUCK)[0] as number) - met) / 60;
      // It is watched window by window: one that began before the wall was met ends the wait sooner, by less than itself.
      expect(waited).toBeGreaterThan(after * 0.99);
      expect(waited).toBeLessThan(after * 2.01);
    }
  });

  it('are searched again at the set interval', () => {
    const count = (every: number) => rowsOf(run({ 'route.replanEvery': every }, tap(2, 900, 300), 240), REPLANNED).length;
    expect(count(0)).toBe(0);
    // Four seconds, less the part in which nothing is planned.
    expect(count(0.5)).toBeGreaterThanOrEqual(6);
    expect(count(0.5)).toBeLessThanOrEqual(8);
    expect(count(1)).toBeLessThan(count(0.5));
  });

  it('around the goal mean the nearest place, or refusal', () => {
    const shut = ground({
      walls: [
        {
          points: [
            [400, 200],
            [600, 200],
            [600, 400],
            [400, 400],
          ],
          closed: true,
          solid: true,
        },
      ],
    });
    const nearest = run({}, tap(0, 450, 300), 600, shut);
    expect(rowsOf(nearest, NEAREST_TAKEN)).toEqual([1]);
    expect(nearest.body.x).toBeCloseTo(400 - 12 - 0.01 - 2 - 0.001, 2);
    const refused = run({ 'route.unreachable': 'refuse' }, tap(0, 450, 300), 60, shut);
    expect(rowsOf(refused, UNREACHABLE)).toEqual([1]);
    expect(refused.body.x).toBe(100);
  });

  it('leave a body that is too large for any gap where it is, and say so', () => {
    const gap = ground({ walls: [wall(300, -500, 300, 287), wall(300, 313, 300, 1100)] });
    expect(rowsOf(run({ 'body.radius': 10, 'route.unreachable': 'refuse' }, tap(0, 900, 300), 60, gap), UNREACHABLE)).toEqual([]);
    const big = run({ 'body.radius': 14, 'route.unreachable': 'refuse' }, tap(0, 900, 300), 60, gap);
    expect(rowsOf(big, UNREACHABLE)).toEqual([1]);
  });
});

describe('holding', () => {
  it('follows the pointer once it is longer than a tap, and stops where it is let go', () => {
    const events: TapeEvent[] = [
      { at: 0, point: [400, 300] },
      { at: 0, press: 'pointer' },
      { at: 40, point: [100, 500] },
      { at: 90, release: 'pointer' },
    ];
    const world = run({}, events, 200);
    const { trace } = world;
    expect(trace.at('vy', 30)).toBeCloseTo(0, 9);
    expect(trace.at('vy', 70)).toBeGreaterThan(100);
    expect(trace.at('speed', 150)).toBe(0);
    expect(trace.at('y', 200)).toBeLessThan(450);
  });
});

describe('planting', () => {
  const events = [
    ...tap(0, 800, 300),
    { at: 40, press: 'plant' } as TapeEvent,
    { at: 41, point: [300, 0] } as TapeEvent,
    { at: 100, release: 'plant' } as TapeEvent,
  ];
  it('holds the feet and turns to the pointer, then forgets the destination', () => {
    const world = run({ 'facing.directions': 'free' }, events);
    const { trace } = world;
    expect(rowsOf(world, PLANTED)).toEqual([41]);
    expect(trace.at('speed', 80)).toBe(0);
    const angle = (Math.atan2(0 - trace.at('y', 80), 300 - trace.at('x', 80)) * 180) / Math.PI;
    expect(trace.at('facing', 80)).toBeCloseTo(angle, 9);
    expect(trace.at('speed', 300)).toBe(0);
    expect(rowsOf(world, ROUTE_CANCELLED)).toEqual([101]);
  });
  it('or goes on to it if so set', () => {
    expect(run({ 'route.afterPlant': 'resume' }, events).body.x).toBe(800);
  });
  it('takes a click in the very tick in which the feet are planted, and in the one in which they are let go', () => {
    const plant: TapeEvent[] = [
      { at: 40, press: 'plant' },
      { at: 100, release: 'plant' },
    ];
    const clicked = (at: number): TapeEvent[] => [
      { at, point: [500, 400] },
      { at, press: 'pointer' },
      { at, release: 'pointer' },
    ];
    const inOrder = (...events: TapeEvent[]) => events.sort((a, b) => a.at - b.at);
    const planted = run({ 'route.afterPlant': 'resume' }, inOrder(...tap(0, 800, 300), ...clicked(40), ...plant));
    expect(planted.body).toMatchObject({ x: 500, y: 400 });
    expect(planted.trace.at('speed', 80)).toBe(0);
    const freed = run({ 'route.afterPlant': 'forget' }, inOrder(...tap(0, 800, 300), ...clicked(100), ...plant));
    expect(freed.body).toMatchObject({ x: 500, y: 400 });
    // Between them it aims, and the feet go nowhere.
    const aimed = run({ 'route.afterPlant': 'resume' }, inOrder(...tap(0, 800, 300), ...clicked(70), ...plant));
    expect(aimed.body).toMatchObject({ x: 800, y: 300 });
  });
  it('holds the feet of hands that steer, too', () => {
    const steered = drive(
      {},
      60,
      [
        { at: 0, press: 'right' },
        { at: 0, press: 'plant' },
      ],
      ground(),
    );
    expect(steered.body.x).toBe(100);
  });
});

describe('a world on a path', () => {
  it('follows the same path after it was saved and restored', () => {
    const walled = ground({ walls: [wall(300, 100, 300, 500)] });
    const first = run({}, tap(0, 500, 300), 60, walled);
    const kept = first.save();
    const hands = {
      held: new Float64Array(11),
      order: new Float64Array(11),
      pressed: 0,
      stickX: 0,
      stickY: 0,
      pointX: 500,
      pointY: 300,
      pointed: true,
      swipe: 0,
      presses: 1,
      spoke: 0,
      changed: false,
    };
    const ends: string[] = [];
    for (let again = 0; again < 2; again++) {
      first.restore(kept);
      for (let i = 0; i < 200; i++) first.tick(hands);
      ends.push(first.hash());
    }
    expect(ends[0]).toBe(ends[1]);
  });
});
