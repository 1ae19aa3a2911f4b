import { describe, expect, it } from 'vitest';
import type { Ground } from '../ground/ground.ts';
import { isInside } from '../ground/outlines.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { seeds } from '../testing/campaign.ts';
import { openGround, parametersWith } from '../testing/drive.ts';
import { deepest, type Segment, type Shape, sidesOf } from '../testing/overlaps.ts';
import { sequence } from '../testing/sequence.ts';
import { Navigator, type Route } from './navigator.ts';

type Point = [number, number];
const oneOf = <T>(next: () => number, ...values: T[]) => values[Math.floor(next() * values.length)] as T;
const SIZE = 480;

/** Cells and slanted walls, with what the test needs to know of them. */
function anyGround(next: () => number) {
  const cell = oneOf(next, 32, 48, 60);
  const count = SIZE / cell;
  const cells = Array.from({ length: count }, () => Array.from({ length: count }, () => (next() < 0.15 ? '#' : '.')).join(''));
  const walls = Array.from({ length: 4 }, () => {
    const [x, y, angle, length] = [next() * SIZE, next() * SIZE, next() * 7, 30 + next() * 150];
    const points: Point[] = [
      [x, y],
      [x + Math.cos(angle) * length, y + Math.sin(angle) * length],
    ];
    if (next() < 0.4) points.push([x - Math.sin(angle) * 60, y + Math.cos(angle) * 60]);
    return { points, closed: points.length > 2, solid: true };
  });
  const ground = openGround({ size: { width: SIZE, height: SIZE }, cell, cells, walls } as Partial<Ground>);
  const squares = cells.flatMap((row, r) =>
    [...row].flatMap((mark, c): Point[][] => (mark === '#' ? [squareAt(c * cell, r * cell, cell)] : [])),
  );
  const segments: Segment[] = [
    ...walls.flatMap(({ points, closed }) => sidesOf(points, closed)),
    ...squares.flatMap((points) => sidesOf(points, true)),
  ];
  const solids = [...walls.filter(({ closed }) => closed).map(({ points }) => points), ...squares];
  return { ground, segments, isSolid: (x: number, y: number) => solids.some((points) => isInside(points, x, y)) };
}

const squareAt = (x: number, y: number, side: number): Point[] => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];

/** The deepest overlap of the body with a wall on the straight legs of a route, sampled every half pixel. */
function deepestOn(route: Route, shape: Shape, segments: Segment[]): number {
  let most = -Infinity;
  for (let i = 1; i < route.points.length; i++) {
    const [[ax, ay], [bx, by]] = [route.points[i - 1] as Point, route.points[i] as Point];
    const steps = Math.ceil(Math.hypot(bx - ax, by - ay) * 2) + 1;
    for (let k = 0; k <= steps; k++)
      most = Math.max(most, deepest(shape, ax + ((bx - ax) * k) / steps, ay + ((by - ay) * k) / steps, segments));
  }
  return most;
}

describe('paths over cells', () => {
  it('have legs that the body can go, end where `shortest` ends, and begin where the body is', () => {
    let [planned, bent] = [0, 0];
    for (const seed of seeds(60, 1500)) {
      const next = sequence(seed * 9_973);
      const { ground, segments, isSolid } = anyGround(next);
      const circle = next() < 0.5;
      const [width, height] = [8 + next() * 22, 8 + next() * 22];
      const shape: Shape = { circle, halfWidth: width / 2, halfHeight: (circle ? width : height) / 2 };
      const values = {
        'route.enabled': true,
        'route.margin': oneOf(next, 0, 2, 5),
        'bounds.policy': oneOf(next, 'clamp', 'none'),
        'body.shape': circle ? 'circle' : 'box',
        'body.radius': width / 2,
        'body.width': width,
        'body.height': height,
      };
      const [x, y, toX, toY] = [next() * SIZE, next() * SIZE, next() * SIZE, next() * SIZE];
      const inFrame = Math.min(x, y, SIZE - x, SIZE - y) > 16;
      if (!inFrame || isSolid(x, y) || deepest(shape, x, y, segments) > -0.02) continue;
      const index = new WallIndex(bucketWalls(ground));
      const by = (planner: string) =>
        new Navigator(parametersWith({ ...values, 'route.planner': planner }), ground, index).plan(x, y, toX, toY);
      const shortest = by('shortest');
      for (const planner of ['grid4', 'grid8']) {
        const route = by(planner);
        const label = `seed ${seed}, ${planner}: ${JSON.stringify(route)} ${JSON.stringify(shortest)} ${JSON.stringify(values)}`;
        expect(route === null, label).toBe(shortest === null);
        if (!route || !shortest) continue;
        planned++;
        if (route.points.length > 2) bent++;
        expect(route.points[0], label).toEqual([x, y]);
        expect(route.reached, label).toBe(shortest.reached);
        const [end, wanted] = [route.points.at(-1) as Point, shortest.points.at(-1) as Point];
        expect(Math.hypot(end[0] - wanted[0], end[1] - wanted[1]), label).toBeLessThan(1e-9);
        expect(deepestOn(route, shape, segments), label).toBeLessThan(1e-6);
        expect(route.length, label).toBeGreaterThan(shortest.length - 1e-6);
      }
    }
    expect(planned).toBeGreaterThan(50);
    expect(bent).toBeGreaterThan(25);
  });

  it('never grow when they are planned again from a place on them', () => {
    for (const seed of seeds(40, 600)) {
      const next = sequence(seed * 7_577);
      const { ground, segments, isSolid } = anyGround(next);
      const shape: Shape = { circle: true, halfWidth: 8, halfHeight: 8 };
      const [x, y, toX, toY] = [next() * SIZE, next() * SIZE, next() * SIZE, next() * SIZE];
      if (isSolid(x, y) || deepest(shape, x, y, segments) > -0.02) continue;
      const values = { 'route.enabled': true, 'body.radius': 8, 'bounds.policy': 'none', 'route.planner': oneOf(next, 'grid4', 'grid8') };
      const navigator = new Navigator(parametersWith(values), ground, new WallIndex(bucketWalls(ground)));
      let route = navigator.plan(x, y, toX, toY);
      let steps = 0;
      // A body that goes three pixels along each plan before the next one arrives.
      for (; route && route.length > 3 && steps < 2000; steps++) {
        const [[ax, ay], [bx, by]] = [route.points[0] as Point, route.points[1] as Point];
        const leg = Math.hypot(bx - ax, by - ay);
        const share = leg > 3 ? 3 / leg : 1;
        route = navigator.plan(ax + (bx - ax) * share, ay + (by - ay) * share, toX, toY);
      }
      expect(steps, `seed ${seed}`).toBeLessThan(2000);
    }
  });
});
