import { describe, expect, it } from 'vitest';
import { openGround } from '../testing/drive.ts';
import { doubleArea, selfCrossing, wallLoops } from './loops.ts';

const cells = (...rows: string[]) => wallLoops(openGround({ cells: rows, cell: 10 }));
const areas = (loops: readonly (readonly number[])[]) => loops.map((loop) => doubleArea(loop) / 200).sort((a, b) => a - b);

describe('loops of cells', () => {
  it('enclose regions with a positive area, holes with a negative one, in corners only', () => {
    expect(areas(cells('##', '##'))).toEqual([4]);
    expect(cells('##', '##')[0]).toHaveLength(8);
    expect(areas(cells('###', '#.#', '###'))).toEqual([-1, 9]);
    expect(areas(cells('.#.', '###', '.#.'))).toEqual([5]);
  });

  it('keep cells apart that touch at a corner', () => {
    expect(areas(cells('#.', '.#'))).toEqual([1, 1]);
    expect(areas(cells('.#', '#.'))).toEqual([1, 1]);
    // Two holes that touch at a corner belong to one loop or to two; their area is the same.
    expect(areas(cells('####', '#.##', '##.#', '####')).reduce((a, b) => a + b)).toBe(14);
  });
});

describe('loops of walls', () => {
  const wall = (points: [number, number][], closed: boolean) => wallLoops(openGround({ walls: [{ points, closed }] }));
  it('turn closed ones in the right direction and open ones there and back', () => {
    const square: [number, number][] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ];
    expect(doubleArea(wall(square, true)[0] ?? [])).toBe(200);
    expect(doubleArea(wall([...square].reverse(), true)[0] ?? [])).toBe(200);
    expect(wall(square.slice(0, 3), false)).toEqual([[0, 0, 10, 0, 10, 10, 10, 0]]);
  });

  it('drop points that repeat, and walls without length', () => {
    expect(
      wall(
        [
          [1, 1],
          [1, 1],
        ],
        false,
      ),
    ).toEqual([]);
  });

  it('give a closed wall that crosses itself side by side', () => {
    const bow: [number, number][] = [
      [0, 0],
      [10, 10],
      [10, 0],
      [0, 10],
    ];
    expect(selfCrossing(bow)).toEqual([5, 5]);
    expect(wall(bow, true)).toHaveLength(4);
  });
});
