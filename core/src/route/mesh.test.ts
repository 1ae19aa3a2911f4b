import { describe, expect, it } from 'vitest';
import type { Ground } from '../ground/ground.ts';
import { wallLoops } from '../ground/loops.ts';
import { isSolidAt } from '../ground/outlines.ts';
import { openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { inflate } from './inflate.ts';
import { Locator } from './locate.ts';
import { buildMesh, type Mesh } from './mesh.ts';
import { planarGraph } from './planar.ts';

const SIZE = 300;
const area = { left: 0, top: 0, right: SIZE, bottom: SIZE };

/** Cells and free walls at random, overlapping as they may. */
function anyGround(seed: number): Ground {
  const next = sequence(seed * 97);
  const cells = Array.from({ length: 9 }, () => Array.from({ length: 9 }, () => (next() < 0.15 ? '#' : '.')).join(''));
  const walls = Array.from({ length: 5 }, () => {
    const [x, y, angle] = [next() * SIZE, next() * SIZE, next() * Math.PI];
    const [w, h] = [5 + next() * 40, 3 + next() * 20];
    const corner = (dx: number, dy: number): [number, number] => [
      x + dx * Math.cos(angle) - dy * Math.sin(angle),
      y + dx * Math.sin(angle) + dy * Math.cos(angle),
    ];
    return { points: [corner(-w, -h), corner(w, -h), corner(w, h), corner(-w, h)], closed: next() < 0.6, solid: true };
  });
  return openGround({ size: { width: SIZE, height: SIZE }, cells, walls });
}

/** Distance from a point to the nearest side of any loop. */
function distance(loops: readonly (readonly number[])[], x: number, y: number): number {
  let least = Infinity;
  for (const loop of loops)
    for (let i = 0; i < loop.length; i += 2) {
      const [ax, ay] = [loop[i], loop[i + 1]] as [number, number];
      const [bx, by] = [loop[(i + 2) % loop.length], loop[(i + 3) % loop.length]] as [number, number];
      const share = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1)));
      least = Math.min(least, Math.hypot(x - ax - (bx - ax) * share, y - ay - (by - ay) * share));
    }
  return least;
}

const ringOf = (mesh: Mesh, polygon: number) =>
  Array.from(
    mesh.corners.subarray(mesh.starts[polygon] as number, mesh.starts[polygon + 1] as number),
    (corner) => [mesh.x[corner] as number, mesh.y[corner] as number] as const,
  );

describe('a mesh', () => {
  it('holds just the places where the body is free, on 60 grounds of all kinds', () => {
    let inside = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const ground = anyGround(seed);
      const loops = wallLoops(ground);
      const radius = 4 + (seed % 9);
      const locator = new Locator(buildMesh(loops, { shape: 'circle', radius }, area));
      const next = sequence(seed);
      for (let i = 0; i < 200; i++) {
        const [x, y] = [next() * SIZE, next() * SIZE];
        const room = isSolidAt(ground, x, y) ? 0 : distance(loops, x, y);
        // Arcs are a hair larger than the circle that they stand for.
        if (Math.abs(room - radius) < radius * 0.007) continue;
        expect(locator.at(x, y) >= 0, `ground ${seed} at ${x}, ${y} with room ${room} for ${radius}`).toBe(room > radius);
        if (room > radius) inside++;
      }
    }
    expect(inside).toBeGreaterThan(1000);
  });

  it('is made of convex polygons that fit together: each side is its twin’s reverse', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const mesh = buildMesh(wallLoops(anyGround(seed)), { shape: 'circle', radius: 6 }, area);
      for (let polygon = 0; polygon + 1 < mesh.starts.length; polygon++) {
        const ring = ringOf(mesh, polygon);
        ring.forEach(([bx, by], i) => {
          const [ax, ay] = ring[(i + ring.length - 1) % ring.length] as readonly [number, number];
          const [cx, cy] = ring[(i + 1) % ring.length] as readonly [number, number];
          expect((bx - ax) * (cy - by) - (by - ay) * (cx - bx)).toBeGreaterThanOrEqual(-1e-6);
        });
        for (let side = mesh.starts[polygon] as number; side < (mesh.starts[polygon + 1] as number); side++) {
          const twin = mesh.twins[side] as number;
          if (twin === -1) continue;
          expect(mesh.twins[twin]).toBe(side);
          expect(mesh.regions[polygon]).toBe(mesh.regions[mesh.neighbours[side] as number]);
          expect(mesh.neighbours[twin]).toBe(polygon);
        }
      }
    }
  });

  it('bends only where a wall stands out: not at the border, not in a nook', () => {
    const nook = openGround({
      size: { width: SIZE, height: SIZE },
      walls: [
        {
          points: [
            [100, 100],
            [200, 100],
            [200, 200],
          ],
          closed: false,
        },
      ],
    });
    const mesh = buildMesh(wallLoops(nook), { shape: 'box', halfWidth: 10, halfHeight: 10 }, area);
    const bends = Array.from(mesh.x, (x, i) => `${x},${mesh.y[i]}`).filter((_, i) => mesh.bends[i]);
    // The inner corner at 190, 110 is a nook; the five others of the grown bent wall stand out.
    expect(bends.sort()).toEqual(['190,210', '210,210', '210,90', '90,110', '90,90'].sort());
  });
});

describe('grown loops', () => {
  it('of a square by a circle are as far from it as the radius everywhere, and by a box a larger square', () => {
    const square = [0, 0, 10, 0, 10, 10, 0, 10];
    const grown = inflate(square, { shape: 'circle', radius: 5 });
    for (let i = 0; i < grown.length; i += 2) {
      const away = distance([square], grown[i] as number, grown[i + 1] as number);
      expect(away).toBeGreaterThanOrEqual(5 - 1e-9);
      expect(away).toBeLessThan(5.03);
    }
    expect(inflate(square, { shape: 'box', halfWidth: 2, halfHeight: 3 })).toEqual([-2, -3, 12, -3, 12, 13, -2, 13]);
  });
});

describe('a planar graph', () => {
  it('has sides that meet at their ends only, and as much winding as its loops', () => {
    const next = sequence(5);
    for (let round = 0; round < 40; round++) {
      const loops = Array.from({ length: 6 }, () => Array.from({ length: 8 }, () => Math.round(next() * 60)));
      const { x, y, from, to } = planarGraph(loops, [0, 0, 60, 0, 60, 60, 0, 60]);
      const turn = (a: number, b: number, c: number) =>
        ((x[b] as number) - (x[a] as number)) * ((y[c] as number) - (y[a] as number)) -
        ((y[b] as number) - (y[a] as number)) * ((x[c] as number) - (x[a] as number));
      for (let i = 0; i < from.length; i++)
        for (let j = i + 1; j < from.length; j++) {
          const [a, b, c, d] = [from[i], to[i], from[j], to[j]] as [number, number, number, number];
          if (a === c || a === d || b === c || b === d) continue;
          expect(turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0).toBe(false);
        }
    }
  });
});
