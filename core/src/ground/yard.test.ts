import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readGround } from './ground.ts';
import { suitsSpeed, yardFor } from './yard.ts';

describe('a yard for a body', () => {
  it('is a good ground with its cells, a free start, and every open cell within reach of it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 128, noNaN: true }),
        fc.double({ min: 0.1, max: 200, noNaN: true }),
        (cell, tilesPerSecond) => {
          const yard = yardFor('Yard', 'px', cell, cell * tilesPerSecond);
          // Sides of the whole have to be 1 at least.
          fc.pre(Math.min(yard.size.width, yard.size.height) >= 1);
          expect(readGround(yard)).toEqual({ ok: true, value: yard });
          const [columns, rows] = [yard.cells[0]?.length ?? 0, yard.cells.length];
          expect([yard.size.width, yard.size.height]).toEqual([columns * cell, rows * cell]);
          // Flooded from the start, cell by cell.
          const reached = new Set<string>();
          const next = [[Math.floor(yard.start.x / cell), Math.floor(yard.start.y / cell)] as const];
          for (let at = next.pop(); at; at = next.pop()) {
            const [x, y] = at;
            if (yard.cells[y]?.[x] !== '.' || reached.has(`${x} ${y}`)) continue;
            reached.add(`${x} ${y}`);
            next.push([x + 1, y], [x - 1, y], [x, y + 1], [x, y - 1]);
          }
          expect(reached.size).toBe([...yard.cells.join('')].filter((mark) => mark === '.').length);
          expect(yard.cells.join('')).toContain('#');
        },
      ),
    );
  });

  it('takes some seconds to walk across, at the usual speeds', () => {
    for (const [cell, speed] of [
      [16, 51.2],
      [32, 140],
      [1, 4.25],
      [8, 30],
    ] as const)
      expect(suitsSpeed(yardFor('Yard', 'px', cell, speed), speed), `${speed}`).toBe(true);
    expect(suitsSpeed({ size: { width: 640, height: 384 } }, 3.2)).toBe(false);
    expect(suitsSpeed({ size: { width: 640, height: 384 } }, 4000)).toBe(false);
  });
});
