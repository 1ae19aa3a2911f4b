import { describe, expect, it } from 'vitest';
import type { Ground } from '../ground/ground.ts';
import { isInside } from '../ground/outlines.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { seeds } from '../testing/campaign.ts';
import { openGround, parametersWith } from '../testing/drive.ts';
import { deepest, type Segment, type Shape, sidesOf } from '../testing/overlaps.ts';
import { sequence } from '../testing/sequence.ts';
import { freePlace } from './freePlace.ts';
import { isFree, placedBody } from './placedBody.ts';

type Polygon = [number, number][];

/** A ground of closed polygons and lines, and what a test needs to know of it. */
function anyGround(next: () => number) {
  const walls: { points: Polygon; closed: boolean; solid: boolean }[] = Array.from({ length: 1 + Math.floor(next() * 6) }, () => {
    const [x, y, size, turned] = [next() * 400, next() * 400, 15 + next() * 120, next() * 6];
    const count = 2 + Math.floor(next() * 4);
    const points = Array.from({ length: count }, (_, i): [number, number] => {
      const angle = turned + (i * 2 * Math.PI) / count;
      return [x + Math.cos(angle) * size, y + Math.sin(angle) * size];
    });
    return { points, closed: count > 2, solid: true };
  });
  const ground = openGround({ size: { width: 400, height: 400 }, walls } as Partial<Ground>);
  const segments: Segment[] = walls.flatMap(({ points, closed }) => sidesOf(points, closed));
  const isSolid = (x: number, y: number) => walls.some(({ points, closed }) => closed && isInside(points, x, y));
  return { ground, segments, isSolid };
}

describe('a free place', () => {
  it('is free, and no place of a fine raster is nearer: circles and boxes, in and out of solids', () => {
    let moved = 0;
    for (const seed of seeds(120, 400)) {
      const next = sequence(seed * 6007);
      const { ground, segments, isSolid } = anyGround(next);
      const circle = next() < 0.5;
      const [width, height] = [6 + next() * 40, 6 + next() * 40];
      const parameters = parametersWith({
        'body.shape': circle ? 'circle' : 'box',
        'body.radius': width / 2,
        'body.width': width,
        'body.height': height,
        'bounds.policy': next() < 0.5 ? 'clamp' : 'none',
      });
      const shape: Shape = { circle, halfWidth: width / 2 + 0.01, halfHeight: (circle ? width : height) / 2 + 0.01 };
      const body = placedBody(parameters, ground, new WallIndex(bucketWalls(ground)));
      const inFrame = (x: number, y: number, slack: number) => {
        const [left, top] = parameters.bounds.policy === 'clamp' ? [shape.halfWidth - 0.01, shape.halfHeight - 0.01] : [0, 0];
        return x >= left - slack && y >= top - slack && x <= 400 - left + slack && y <= 400 - top + slack;
      };
      const fits = (x: number, y: number, slack: number) =>
        inFrame(x, y, slack) && deepest(shape, x, y, segments) <= slack && !isSolid(x, y);
      const [x, y] = [next() * 400, next() * 400];
      const place = freePlace(body, x, y);
      if (!place) {
        for (let i = 0; i < 500; i++) expect(fits(next() * 400, next() * 400, -1)).toBe(false);
        continue;
      }
      expect(fits(place.x, place.y, 1e-5), `seed ${seed} is free`).toBe(true);
      const away = Math.hypot(place.x - x, place.y - y);
      if (away > 0) moved++;
      // Whatever is nearer by more than rounding is not free: rings of places about the start.
      for (let ring = 0; ring < 40; ring++)
        for (let spoke = 0; spoke < 90; spoke++) {
          const [radius, angle] = [(away - 1e-3) * ((ring + 1) / 40), (spoke * Math.PI) / 45];
          if (radius <= 0) continue;
          expect(fits(x + Math.cos(angle) * radius, y + Math.sin(angle) * radius, -1e-4), `seed ${seed}: nearer than ${away}`).toBe(false);
        }
    }
    expect(moved).toBeGreaterThan(25);
  });

  it('is as near at each side of the ground: walls across an edge, and starts outside of it, in four mirror images', () => {
    let moved = 0;
    for (const seed of seeds(100, 300)) {
      const next = sequence(seed * 4001);
      const walls = Array.from({ length: 1 + Math.floor(next() * 4) }, (): Polygon => {
        const [x, y, turned, length] = [next() * 90 - 30, next() * 300, next() * 6, 30 + next() * 150];
        const corners = [0, 1, 2].map((i): [number, number] => [
          x + Math.cos(turned + 2.1 * i) * length * 0.6,
          y + Math.sin(turned + 2.1 * i) * length * 0.6,
        ]);
        return next() < 0.5 ? corners.slice(0, 2) : corners;
      });
      const [x, y] = [next() * 60 - 30, next() * 300];
      const policy = next() < 0.5 ? 'clamp' : 'none';
      const values = { 'body.shape': next() < 0.5 ? 'circle' : 'box', 'body.radius': 5 + next() * 20, 'bounds.policy': policy };
      const parameters = parametersWith(values);
      const away = ([1, 2, 3, 4] as const).map((side) => {
        const turned = ([px, py]: [number, number]): [number, number] =>
          side === 1 ? [px, py] : side === 2 ? [300 - px, py] : side === 3 ? [py, px] : [py, 300 - px];
        const ground = openGround({
          size: { width: 300, height: 300 },
          walls: walls.map((points) => ({ points: points.map(turned), closed: points.length > 2, solid: true })),
        });
        const body = placedBody(parameters, ground, new WallIndex(bucketWalls(ground)));
        const at = turned([x, y]);
        const place = freePlace(body, ...at);
        if (!place) return -1;
        expect(isFree(body, place.x, place.y)).toBe(true);
        return Math.hypot(place.x - at[0], place.y - at[1]);
      });
      const [first = 0] = away;
      if (first > 0) moved++;
      for (const one of away) expect(one, `seed ${seed}: ${away}`).toBeCloseTo(first, 4);
    }
    expect(moved).toBeGreaterThan(33);
  });

  it('on a ground that is left is on its border, where no wall is', () => {
    const ground = openGround({
      size: { width: 300, height: 300 },
      walls: [
        {
          points: [
            [-60, 100],
            [20, 100],
            [20, 140],
            [-60, 140],
          ],
          closed: true,
          solid: true,
        },
      ],
    });
    const body = placedBody(parametersWith({ 'bounds.policy': 'none' }), ground, new WallIndex(bucketWalls(ground)));
    // Inside of the wall and outside of the ground: the nearest place is where the border leaves the grown wall.
    const place = freePlace(body, -10, 115);
    expect(place?.x).toBeCloseTo(0, 6);
    expect(place?.y).toBeCloseTo(100 - 12.01, 4);
  });

  it('out of a solid of any size is straight over its nearest side', () => {
    for (const [side, x, y, expected] of [
      [200, 300, 290, 90 + 12.01],
      [4000, 2200, 2100, 1900 + 12.01],
      [40, 221, 220, 19 + 12.01],
    ] as const) {
      const corners: Polygon = [
        [200, 200],
        [200 + side, 200],
        [200 + side, 200 + side],
        [200, 200 + side],
      ];
      const ground = openGround({
        size: { width: 6000, height: 6000 },
        walls: [{ points: corners, closed: true, solid: true }],
      });
      const body = placedBody(parametersWith({ 'bounds.policy': 'none' }), ground, new WallIndex(bucketWalls(ground)));
      const place = freePlace(body, x, y);
      expect(Math.hypot((place?.x ?? 0) - x, (place?.y ?? 0) - y)).toBeCloseTo(expected, 4);
    }
  });

  it('is none where the whole ground is solid', () => {
    const ground = openGround({ size: { width: 320, height: 320 }, cells: Array.from({ length: 10 }, () => '#'.repeat(10)) });
    expect(freePlace(placedBody(parametersWith(), ground, new WallIndex(bucketWalls(ground))), 100, 100)).toBe(null);
  });
});

describe('a box by a slanted wall', () => {
  it('is free just where separating axes part the two', () => {
    for (let seed = 1; seed <= 2000; seed++) {
      const next = sequence(seed * 7919);
      const segment: Segment = [next() * 200, next() * 200, next() * 200, next() * 200];
      const [width, height, x, y] = [5 + next() * 80, 5 + next() * 80, next() * 200, next() * 200];
      const ground = openGround({
        walls: [
          {
            points: [
              [segment[0], segment[1]],
              [segment[2], segment[3]],
            ],
            closed: false,
            solid: true,
          },
        ],
      });
      const parameters = parametersWith({ 'body.shape': 'box', 'body.width': width, 'body.height': height, 'bounds.policy': 'none' });
      const depth = deepest({ circle: false, halfWidth: width / 2 + 0.01, halfHeight: height / 2 + 0.01 }, x, y, [segment]);
      if (Math.abs(depth) < 1e-4) continue;
      expect(isFree(placedBody(parameters, ground, new WallIndex(bucketWalls(ground))), x, y), `seed ${seed}`).toBe(depth < 0);
    }
  });
});
