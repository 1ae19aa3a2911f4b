import { describe, expect, it } from 'vitest';
import { wallLoops } from '../ground/loops.ts';
import { openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { Grown } from './inflate.ts';
import { Locator } from './locate.ts';
import { buildMesh, type Mesh } from './mesh.ts';
import { PathGraph } from './pathGraph.ts';

type Point = [number, number];

const CELL = 16;
const COUNT = 9;

/** A ground of cells and, now and then, a wall on their lines or across: much lies in a row, and gaps fit as exactly as can be. */
function randomMesh(next: () => number): Mesh | null {
  const size = COUNT * CELL;
  const share = 0.1 + next() * 0.3;
  const cells = Array.from({ length: COUNT }, () => Array.from({ length: COUNT }, () => (next() < share ? '#' : '.')).join(''));
  const onLine = next() < 0.5;
  const at = () => (onLine ? Math.floor(next() * (COUNT + 1)) * CELL : next() * size);
  const walls = next() < 0.5 ? [{ points: [[at(), at()] as Point, [at(), at()] as Point], closed: false, solid: true }] : [];
  const half = CELL * [0.15, 0.3, 0.45, 0.5][Math.floor(next() * 4)]!;
  const body: Grown =
    next() < 0.85 ? { shape: 'box', halfWidth: half, halfHeight: half / (1 + next()) } : { shape: 'circle', radius: half };
  const mesh = buildMesh(wallLoops(openGround({ size: { width: size, height: size }, cell: CELL, cells, walls })), body, {
    left: half,
    top: half,
    right: size - half,
    bottom: size - half,
  });
  return mesh.starts.length > 1 ? mesh : null;
}

const endOf = ({ starts, corners }: Mesh, polygon: number, side: number) =>
  corners[side + 1 === starts[polygon + 1] ? (starts[polygon] as number) : side + 1] as number;

/** The sides of the mesh beyond which there is nothing. */
function wallSides(mesh: Mesh): [Point, Point][] {
  const sides: [Point, Point][] = [];
  for (let polygon = 0; polygon + 1 < mesh.starts.length; polygon++)
    for (let side = mesh.starts[polygon] as number; side < (mesh.starts[polygon + 1] as number); side++)
      if (mesh.neighbours[side] === -1)
        sides.push([placeOf(mesh, mesh.corners[side] as number), placeOf(mesh, endOf(mesh, polygon, side))]);
  return sides;
}

const placeOf = ({ x, y }: Mesh, corner: number): Point => [x[corner] as number, y[corner] as number];
const turn = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** True if a leg is free: it crosses no wall's side, and lies in the mesh all along. */
function isFree(a: Point, b: Point, walls: readonly [Point, Point][], locator: Locator): boolean {
  for (const [c, d] of walls) if (turn(a, b, c) * turn(a, b, d) < -1e-6 && turn(c, d, a) * turn(c, d, b) < -1e-6) return false;
  const parts = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / (CELL / 11)) + 1;
  for (let k = 1; k < parts; k++) if (locator.at(a[0] + ((b[0] - a[0]) * k) / parts, a[1] + ((b[1] - a[1]) * k) / parts) < 0) return false;
  return true;
}

/** The oracle: each pair of corners tested against every wall, and Floyd's shortest paths between all of them. */
class AllPairs {
  readonly #points: Point[];
  readonly #free: (a: Point, b: Point) => boolean;
  readonly #ways: number[][];

  constructor(mesh: Mesh, locator: Locator) {
    const walls = wallSides(mesh);
    this.#points = Array.from(mesh.x.keys())
      .filter((corner) => mesh.bends[corner])
      .map((corner) => placeOf(mesh, corner));
    this.#free = (a, b) => isFree(a, b, walls, locator);
    const distances = this.#points.map((a) =>
      this.#points.map((b) => (this.#free(a, b) ? Math.hypot(b[0] - a[0], b[1] - a[1]) : Infinity)),
    );
    for (const via of distances.keys())
      for (const row of distances)
        for (const to of distances.keys())
          if ((row[via] as number) + (distances[via]?.[to] as number) < (row[to] as number))
            row[to] = (row[via] as number) + (distances[via]?.[to] as number);
    this.#ways = distances;
  }

  /** Length of the shortest path between two points; infinite if there is none. */
  between(start: Point, goal: Point): number {
    if (this.#free(start, goal)) return Math.hypot(goal[0] - start[0], goal[1] - start[1]);
    const from = this.#points.map((p) => (this.#free(start, p) ? Math.hypot(p[0] - start[0], p[1] - start[1]) : Infinity));
    const to = this.#points.map((p) => (this.#free(p, goal) ? Math.hypot(goal[0] - p[0], goal[1] - p[1]) : Infinity));
    let least = Infinity;
    this.#ways.forEach((row, a) => {
      row.forEach((distance, b) => {
        least = Math.min(least, (from[a] as number) + distance + (to[b] as number));
      });
    });
    return least;
  }
}

/** A place in the mesh: anywhere, on a corner, or on a side. */
function randomPlace(mesh: Mesh, locator: Locator, next: () => number): { at: Point; polygon: number } | null {
  const kind = next();
  if (kind < 0.5) {
    const [x, y] = [next() * COUNT * CELL, next() * COUNT * CELL];
    const polygon = locator.at(x, y);
    const near = polygon < 0 ? locator.nearest(x, y, () => true) : { x, y, polygon };
    return near && { at: [near.x, near.y], polygon: near.polygon };
  }
  const polygon = Math.floor(next() * (mesh.starts.length - 1));
  const [first, end] = [mesh.starts[polygon] as number, mesh.starts[polygon + 1] as number];
  const side = first + Math.floor(next() * (end - first));
  const [a, b] = [placeOf(mesh, mesh.corners[side] as number), placeOf(mesh, endOf(mesh, polygon, side))];
  const share = kind < 0.75 ? 0 : next();
  return { at: [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share], polygon };
}

/** Grounds on which a side seen from a corner begins or ends just opposite to where the look ends: one in a thousand has one. */
const RARE = [227, 494, 2621, 2978];

describe('shortest paths among cells', () => {
  it('are as short as any over the corners of the mesh, from corners and walls, too; repeated they are the same', () => {
    let bent = 0;
    for (const seed of [...RARE, ...Array.from({ length: 90 }, (_, i) => i + 1)]) {
      const next = sequence(seed);
      const mesh = randomMesh(next);
      if (!mesh) continue;
      const locator = new Locator(mesh);
      const graph = new PathGraph(mesh);
      const yardstick = new AllPairs(mesh, locator);
      for (let query = 0; query < 12; query++) {
        const [start, goal] = [randomPlace(mesh, locator, next), randomPlace(mesh, locator, next)];
        if (!start || !goal) continue;
        const find = (g: PathGraph) => g.find(...start.at, start.polygon, ...goal.at, goal.polygon);
        const found = find(graph);
        const least = yardstick.between(start.at, goal.at);
        const label = `ground ${seed}, way ${query}: ${start.at} to ${goal.at}`;
        // The mesh has no path through a point that two walls leave between them.
        if (!found) expect(mesh.regions[start.polygon], label).not.toBe(mesh.regions[goal.polygon]);
        else {
          expect(found.length, label).toBeLessThan(least + 1e-4);
          if (found.points.length > 2) bent++;
          const walls = wallSides(mesh);
          for (let i = 1; i < found.points.length; i++)
            expect(isFree(found.points[i - 1] as Point, found.points[i] as Point, walls, locator), label).toBe(true);
        }
        expect(find(graph), label).toEqual(found);
        // What a search has kept changes no later one.
        expect(find(new PathGraph(mesh))?.length ?? -1, label).toBeCloseTo(found?.length ?? -1, 9);
      }
    }
    expect(bent).toBeGreaterThan(200);
  });
});
