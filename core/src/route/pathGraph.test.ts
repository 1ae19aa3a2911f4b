import { describe, expect, it } from 'vitest';
import { wallLoops } from '../ground/loops.ts';
import { seeds } from '../testing/campaign.ts';
import { openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { Locator } from './locate.ts';
import { buildMesh } from './mesh.ts';
import { PathGraph } from './pathGraph.ts';

type Point = [number, number];
const SIZE = 300;
const RADIUS = 9;

/** A square turned by an angle, or a thin line, somewhere in the middle of the ground. */
function obstacle(next: () => number): { points: Point[]; closed: boolean } {
  const [x, y, angle] = [40 + next() * (SIZE - 80), 40 + next() * (SIZE - 80), next() * Math.PI];
  const [w, h] = [10 + next() * 45, 5 + next() * 30];
  const turned = (px: number, py: number): Point => [
    x + px * Math.cos(angle) - py * Math.sin(angle),
    y + px * Math.sin(angle) + py * Math.cos(angle),
  ];
  if (next() < 0.3) return { points: [turned(-w, 0), turned(w, 0)], closed: false };
  return { points: [turned(-w, -h), turned(w, -h), turned(w, h), turned(-w, h)], closed: true };
}

const segmentsOf = (walls: { points: Point[]; closed: boolean }[]) =>
  walls.flatMap(({ points, closed }) =>
    points.slice(0, closed ? undefined : -1).map((a, i) => [a, points[(i + 1) % points.length] as Point] as const),
  );

function pointToSegment([px, py]: Point, [[ax, ay], [bx, by]]: readonly [Point, Point]): number {
  const t = Math.min(1, Math.max(0, ((px - ax) * (bx - ax) + (py - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1)));
  return Math.hypot(px - ax - (bx - ax) * t, py - ay - (by - ay) * t);
}

const turn = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

function distance(p: readonly [Point, Point], q: readonly [Point, Point]): number {
  if (turn(...p, q[0]) * turn(...p, q[1]) < 0 && turn(...q, p[0]) * turn(...q, p[1]) < 0) return 0;
  return Math.min(pointToSegment(p[0], q), pointToSegment(p[1], q), pointToSegment(q[0], p), pointToSegment(q[1], p));
}

const isInside = ([x, y]: Point, { points, closed }: { points: Point[]; closed: boolean }) =>
  closed &&
  points.every(
    (a, i) => turn(a, points[(i + 1) % points.length] as Point, [x, y]) > 0 === turn(points[0] as Point, points[1] as Point, [x, y]) > 0,
  );

/** Directions on a whole circle round a corner: chords that go round it are longer than the arc by 0.33 % at most. */
const SPOKES = 32;

/**
 * The yardstick: a full visibility graph over points around all corners, each pair tried against every wall by its distance,
 * and Dijkstra's search over it. Independent of outlines, meshes and lines of sight.
 */
function bruteForce(walls: { points: Point[]; closed: boolean }[], start: Point, target: Point): number {
  const segments = segmentsOf(walls);
  const isFree = (p: Point) =>
    p[0] >= RADIUS && p[1] >= RADIUS && p[0] <= SIZE - RADIUS && p[1] <= SIZE - RADIUS && !walls.some((wall) => isInside(p, wall));
  const reach = RADIUS / Math.cos(Math.PI / SPOKES) + 1e-9;
  const nodes: Point[] = [start, target];
  for (const { points } of walls)
    for (const [x, y] of points)
      for (let k = 0; k < SPOKES; k++) {
        const at: Point = [x + Math.cos((2 * Math.PI * k) / SPOKES) * reach, y + Math.sin((2 * Math.PI * k) / SPOKES) * reach];
        if (isFree(at) && segments.every((segment) => pointToSegment(at, segment) >= RADIUS)) nodes.push(at);
      }
  const best = nodes.map((_, i) => (i === 0 ? 0 : Infinity));
  const done = new Set<number>();
  for (;;) {
    let at = -1;
    for (let i = 0; i < nodes.length; i++) if (!done.has(i) && (best[i] as number) < (at < 0 ? Infinity : (best[at] as number))) at = i;
    if (at < 0) return Infinity;
    if (at === 1) return best[1] as number;
    done.add(at);
    for (let i = 1; i < nodes.length; i++) {
      const [a, b] = [nodes[at] as Point, nodes[i] as Point];
      const length = (best[at] as number) + Math.hypot(a[0] - b[0], a[1] - b[1]);
      if (length < (best[i] as number) && segments.every((segment) => distance([a, b], segment) >= RADIUS - 1e-9)) best[i] = length;
    }
  }
}

function find(walls: { points: Point[]; closed: boolean }[], start: Point, target: Point, radius = RADIUS) {
  const ground = openGround({ size: { width: SIZE, height: SIZE }, walls: walls.map((wall) => ({ ...wall, solid: true })) });
  const area = { left: radius, top: radius, right: SIZE - radius, bottom: SIZE - radius };
  const mesh = buildMesh(wallLoops(ground), { shape: 'circle', radius }, area);
  const locator = new Locator(mesh);
  const [from, to] = [locator.at(...start), locator.at(...target)];
  return from < 0 || to < 0 ? null : new PathGraph(mesh).find(...start, from, ...target, to);
}

describe('shortest paths', () => {
  it('agree with brute force on small grounds to within half a per cent, and keep clear of every wall', () => {
    let compared = 0;
    let detours = 0;
    const grounds = seeds(150, 1000);
    for (const seed of grounds) {
      const next = sequence(seed);
      const walls = Array.from({ length: 2 + Math.floor(next() * 3) }, () => obstacle(next));
      const start: Point = [RADIUS + 1 + next() * 30, RADIUS + 1 + next() * (SIZE - 20 - 2 * RADIUS)];
      const target: Point = [SIZE - RADIUS - 1 - next() * 30, RADIUS + 1 + next() * (SIZE - 20 - 2 * RADIUS)];
      const found = find(walls, start, target);
      const least = bruteForce(walls, start, target);
      if (!found) {
        // Only a place that the brute force finds blocked or as good as blocked may be out of reach.
        const segments = segmentsOf(walls);
        const tight = segments.some((s) => pointToSegment(start, s) < RADIUS * 1.01 || pointToSegment(target, s) < RADIUS * 1.01);
        expect(tight || least === Infinity || find(walls, start, target, RADIUS * 0.99) !== null, `ground ${seed}`).toBe(true);
        continue;
      }
      if (least === Infinity) continue;
      compared++;
      if (found.points.length > 2) detours++;
      expect(found.length / least, `ground ${seed}`).toBeGreaterThan(0.995);
      expect(found.length / least, `ground ${seed}`).toBeLessThan(1.005);
      for (let i = 1; i < found.points.length; i++)
        for (const segment of segmentsOf(walls))
          expect(distance([found.points[i - 1] as Point, found.points[i] as Point], segment), `ground ${seed}`).toBeGreaterThan(
            RADIUS - 0.01,
          );
    }
    expect(compared).toBeGreaterThan(0.8 * grounds.length);
    expect(detours).toBeGreaterThan(0.4 * grounds.length);
  });

  it('round one corner are what geometry says', () => {
    // Tangent, arc, tangent about the end of a thin wall.
    const wall: Point[] = [
      [150, 0],
      [150, 150],
    ];
    const found = find([{ points: wall, closed: false }], [50, 150], [250, 150]);
    const tangent = Math.sqrt(100 ** 2 - RADIUS ** 2);
    const arc = RADIUS * 2 * Math.asin(RADIUS / 100);
    expect(found?.length).toBeGreaterThan(2 * tangent + arc - 0.01);
    expect(found?.length).toBeLessThan((2 * tangent + arc) * 1.001);
  });
});
