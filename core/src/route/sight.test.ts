import { describe, expect, it } from 'vitest';
import { wallLoops } from '../ground/loops.ts';
import { openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { Locator } from './locate.ts';
import { buildMesh } from './mesh.ts';
import { isSeen } from './rays.ts';
import { SideTable } from './sideTable.ts';
import { Sight } from './sight.ts';
import { LEFT, RIGHT, WallCorners } from './wallCorners.ts';

const SIZE = 160;
const CELL = 16;

/** Free places of a box 8 wide and high: each solid cell takes in 4 more on every side. */
function placesAmong(cells: string[]) {
  const ground = openGround({ size: { width: SIZE, height: SIZE }, cell: CELL, cells });
  const body = { shape: 'box', halfWidth: 4, halfHeight: 4 } as const;
  const mesh = buildMesh(wallLoops(ground), body, { left: 4, top: 4, right: SIZE - 4, bottom: SIZE - 4 });
  return { mesh, locator: new Locator(mesh), sides: new SideTable(mesh) };
}

const row = (solid: number[]) => Array.from({ length: 10 }, (_, x) => (solid.includes(x) ? '#' : '.')).join('');
const empty = row([]);
/** One block, grown from (60, 60) to (100, 100). */
const block = [empty, empty, empty, empty, row([4, 5]), row([4, 5]), empty, empty, empty, empty];

describe('what is seen', () => {
  const { mesh, locator, sides } = placesAmong(block);
  const seenFrom = (x: number, y: number) => {
    const sight = new Sight(sides);
    sight.around(x, y, locator.at(x, y), x, y);
    sight.lookOn(Infinity);
    return Array.from(sight.seen.subarray(0, sight.count), (corner) => `${mesh.x[corner]},${mesh.y[corner]}`).sort();
  };

  it('are the corners that nothing hides, those that the light grazes, too', () => {
    expect(seenFrom(20, 80)).toEqual(['60,100', '60,60']);
    expect(seenFrom(20, 21)).toEqual(['100,60', '60,100', '60,60']);
    // In line with the upper side: along it to its far end.
    expect(seenFrom(20, 60)).toEqual(['100,60', '60,100', '60,60']);
    expect(seenFrom(20, 61)).toEqual(['60,100', '60,60']);
  });

  it('extends only as far as paths of a length lead, and the rest is left for later', () => {
    const sight = new Sight(sides);
    sight.around(20, 50, locator.at(20, 50), 20, 54);
    expect(sight.lookOn(4.5)).toBe(true);
    expect(sight.count).toBe(2);
    expect(sight.lookOn(Infinity)).toBe(false);
    expect(sight.count).toBe(3);
  });

  it('from a corner is what lies between two directions', () => {
    const { firstSide } = new WallCorners(sides);
    const corner = Array.from(mesh.x.keys()).find((i) => mesh.x[i] === 60 && mesh.y[i] === 60) as number;
    const sight = new Sight(sides);
    const look = (rightX: number, rightY: number, leftX: number, leftY: number) => {
      sight.from(firstSide[corner] as number, rightX, rightY, leftX, leftY);
      return Array.from(sight.seen.subarray(0, sight.count), (i) => `${mesh.x[i]},${mesh.y[i]}`).sort();
    };
    expect(look(-1, 1, 0, -1)).toEqual([]);
    expect(look(-1, -1, 1, 0)).toEqual(['100,60']);
    expect(look(0, 1, -1, 0)).toEqual(['60,100']);
  });

  it('agrees between two points with walking the line step by step, on 40 grounds', () => {
    let hidden = 0;
    for (let seed = 1; seed <= 40; seed++) {
      const next = sequence(seed);
      const places = placesAmong(Array.from({ length: 10 }, () => row(Array.from({ length: 10 }, (_, x) => x).filter(() => next() < 0.2))));
      for (let pair = 0; pair < 40; pair++) {
        const [ax, ay, bx, by] = [next() * SIZE, next() * SIZE, next() * SIZE, next() * SIZE];
        const from = places.locator.at(ax, ay);
        if (from < 0 || places.locator.at(bx, by) < 0) continue;
        const free = (at: number) => places.locator.at(ax + (bx - ax) * at, ay + (by - ay) * at) >= 0;
        const clear = Array.from({ length: 2000 }, (_, k) => k / 2000).every(free);
        if (!clear) hidden++;
        const seen = isSeen(places.sides, ax, ay, from, bx, by);
        if (!clear) expect(seen, `ground ${seed}, ${ax},${ay} to ${bx},${by}`).toBe(false);
        // What the steps miss is a corner that is cut off by less than one of them.
        else expect(seen || Array.from({ length: 200_000 }, (_, k) => k / 200_000).some((at) => !free(at))).toBe(true);
      }
    }
    expect(hidden).toBeGreaterThan(200);
  });
});

describe('a corner of a wall', () => {
  it('holds paths that turn towards it, on its hand', () => {
    const { mesh, sides } = placesAmong(block);
    const walls = new WallCorners(sides);
    const corner = Array.from(mesh.x.keys()).find((i) => mesh.x[i] === 60 && mesh.y[i] === 60) as number;
    // The block lies towards +x and +y; a path up and to the right passes it on one hand, the path back on the other.
    expect(walls.handsAt(corner, 1, -1) | walls.handsAt(corner, -1, 1)).toBe(LEFT + RIGHT);
    expect(walls.handsAt(corner, 1, -1)).not.toBe(walls.handsAt(corner, -1, 1));
    // Straight at it or straight off no string is held; no more is one at a corner that is no bend.
    expect(walls.handsAt(corner, 1, 1)).toBe(0);
    expect(walls.handsAt(corner, -1, -1)).toBe(0);
    expect(Array.from(walls.firstSide).filter((side) => side !== -1)).toHaveLength(4);
  });
});
