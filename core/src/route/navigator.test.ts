import { describe, expect, it } from 'vitest';
import { type Ground, readGround } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { openGround, parametersWith } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';
import { Navigator, navigatorKey } from './navigator.ts';

const navigator = (values: Record<string, FileValue>, ground: Ground) =>
  new Navigator(parametersWith({ 'route.enabled': true, 'bounds.policy': 'none', ...values }), ground, new WallIndex(bucketWalls(ground)));
const maze = openGround({
  size: { width: 640, height: 384 },
  cells: [
    '....................',
    '.......#............',
    '.......#............',
    '.......#............',
    '.......#............',
    '....................',
  ],
});

describe('planners', () => {
  it('give the lengths that geometry says: straight < shortest < grid8 < grid4', () => {
    const length = (planner: string) => navigator({ 'route.planner': planner }, maze).plan(112, 112, 400, 112)?.length ?? 0;
    expect(length('straight')).toBe(288);
    const [shortest, grid8, grid4] = ['shortest', 'grid8', 'grid4'].map(length) as [number, number, number];
    expect(shortest).toBeGreaterThan(288);
    expect(grid8).toBeGreaterThan(shortest);
    expect(grid4).toBeGreaterThan(grid8);
  });

  it('over cells take the octile and the Manhattan distance on open ground', () => {
    const open = openGround({ size: { width: 640, height: 640 } });
    const length = (planner: string) => navigator({ 'route.planner': planner }, open).plan(16, 16, 16 + 32 * 10, 16 + 32 * 4)?.length;
    expect(length('grid4')).toBeCloseTo(32 * 14, 9);
    expect(length('grid8')).toBeCloseTo(32 * (6 + 4 * Math.SQRT2), 9);
    expect(length('shortest')).toBeCloseTo(32 * Math.sqrt(116), 9);
  });

  it('plan for a box by its own sides', () => {
    const gap = openGround({
      size: { width: 400, height: 400 },
      walls: [
        {
          points: [
            [200, 0],
            [200, 180],
          ],
        },
        {
          points: [
            [200, 215],
            [200, 400],
          ],
        },
      ],
    });
    const box = (height: number) =>
      navigator({ 'body.shape': 'box', 'body.width': 60, 'body.height': height }, gap).plan(100, 200, 300, 200);
    expect(box(30)?.reached).toBe(true);
    expect(box(36)?.reached).toBe(false);
    expect(box(30)?.length).toBeLessThan(200.2);
  });
});

describe('ends', () => {
  it('in a wall, too close to one, or shut in become the nearest place that is reached, or nothing', () => {
    const shut = openGround({
      size: { width: 400, height: 400 },
      walls: [
        {
          points: [
            [200, 100],
            [300, 100],
            [300, 200],
            [200, 200],
          ],
          closed: true,
        },
      ],
    });
    const inside = navigator({}, shut).plan(50, 150, 210, 150);
    expect(inside?.reached).toBe(false);
    expect(inside?.points.at(-1)?.[0]).toBeCloseTo(200 - 14.011, 2);
    expect(navigator({ 'route.unreachable': 'refuse' }, shut).plan(50, 150, 210, 150)).toBeNull();
    expect(navigator({}, shut).plan(50, 150, 195, 150)?.points.at(-1)?.[0]).toBeCloseTo(200 - 14.011, 2);
  });

  it('of a body that stands by a wall, within the margin, lead away from it', () => {
    const floor = openGround({
      size: { width: 400, height: 400 },
      walls: [
        {
          points: [
            [0, 300],
            [400, 300],
          ],
        },
      ],
    });
    const route = navigator({}, floor).plan(100, 300 - 12.01, 300, 300 - 12.01);
    expect(route?.points[0]).toEqual([100, 300 - 12.01]);
    expect(route?.length).toBeGreaterThan(200);
    expect(route?.length).toBeLessThan(206);
  });

  it('heed the origin of the body', () => {
    const off = navigator({ 'body.originX': 0, 'body.originY': 0 }, maze).plan(100, 100, 388, 100);
    expect(off?.points[0]).toEqual([100, 100]);
    expect(off?.points.at(-1)).toEqual([388, 100]);
  });
});

describe('awkward grounds', () => {
  const plan = (over: object, values: Record<string, FileValue> = {}) => {
    const read = readGround({
      format: 'zygopod/ground',
      version: 1,
      name: 'Awkward',
      size: { width: 400, height: 400 },
      start: { x: 20, y: 20 },
      ...over,
    });
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    return navigator(values, read.value).plan(20, 20, 380, 380);
  };
  it('with walls that overlap, touch, cross themselves or lie outside are planned on', () => {
    expect(
      plan({
        walls: [
          {
            points: [
              [100, 100],
              [200, 200],
              [200, 100],
              [100, 200],
            ],
            closed: true,
          },
        ],
      })?.reached,
    ).toBe(true);
    expect(
      plan({
        walls: [
          {
            points: [
              [100, 100],
              [200, 100],
              [200, 200],
              [100, 200],
            ],
            closed: true,
          },
          {
            points: [
              [150, 150],
              [250, 150],
              [250, 250],
              [150, 250],
            ],
            closed: true,
          },
          {
            points: [
              [200, 100],
              [300, 100],
            ],
            closed: false,
          },
        ],
      })?.reached,
    ).toBe(true);
    expect(
      plan({
        walls: [
          {
            points: [
              [-1e6, 200],
              [300, 200],
            ],
            closed: false,
          },
        ],
      })?.reached,
    ).toBe(true);
    expect(
      plan({
        walls: [
          {
            points: [
              [0, 200],
              [400, 200],
            ],
            closed: false,
          },
        ],
      })?.reached,
    ).toBe(false);
  });

  it('without a free place give no path', () => {
    expect(plan({ cells: Array.from({ length: 13 }, () => '#'.repeat(13)) })).toBeNull();
    expect(plan({}, { 'body.radius': 5000 })).not.toBeUndefined();
  });

  it('and a body far too large for them give no path, and no error', () => {
    for (const radius of [300, 5000, 1e5])
      for (const planner of ['shortest', 'grid8', 'straight'])
        expect(() =>
          plan(
            {
              walls: [
                {
                  points: [
                    [100, 100],
                    [300, 130],
                    [220, 250],
                  ],
                  closed: true,
                },
              ],
            },
            { 'body.radius': radius, 'route.planner': planner, 'route.margin': 1e6 },
          ),
        ).not.toThrow();
  });

  it('made at random never fail to be laid out', () => {
    let state = 7;
    const next = () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return state / 2 ** 32;
    };
    for (let i = 0; i < 150; i++) {
      const walls = Array.from({ length: 12 }, () => ({
        points: Array.from({ length: 2 + Math.floor(next() * 4) }, () => [next() * 400, next() * 400]),
        closed: next() < 0.5,
      }));
      const cells = Array.from({ length: 12 }, () => Array.from({ length: 12 }, () => (next() < 0.2 ? '#' : '.')).join(''));
      expect(() => plan({ walls, cells }, { 'body.radius': 2 + next() * 12 })).not.toThrow();
    }
  });
});

describe('what a navigator is made for', () => {
  it('is identified by its key: every parameter that changes a path changes the key', () => {
    const base = { 'route.enabled': true };
    const key = (values: Record<string, FileValue>) => navigatorKey(parametersWith({ ...base, ...values }));
    for (const [path, value] of [
      ['body.originX', 0.9],
      ['body.originY', 0.1],
      ['body.radius', 20],
      ['body.shape', 'box'],
      ['contact.skin', 1],
      ['contact.response', 'none'],
      ['contact.seams', true],
      ['route.margin', 9],
      ['route.planner', 'grid8'],
      ['route.unreachable', 'refuse'],
      ['bounds.policy', 'none'],
      ['bounds.measure', 'centre'],
      ['bounds.inset.left', 40],
    ] as const)
      expect(key({ [path]: value }), path).not.toBe(key({}));
    expect(key({ 'pace.walkSpeed': 99 })).toBe(key({}));
  });

  it('after a change of origin, the centre keeps its path', () => {
    const ground = openGround({ size: { width: 800, height: 400 }, start: { x: 100, y: 200 } });
    const ends = [0, 0.5, 1].map((originX) => {
      const plan = navigator({ 'body.originX': originX }, ground).plan(100, 200, 301.8, 200);
      return plan?.points.at(-1)?.[0];
    });
    expect(ends).toEqual([301.8, 301.8, 301.8]);
  });
});
