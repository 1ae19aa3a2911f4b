import { describe, expect, it } from 'vitest';
import { openGround } from '../testing/drive.ts';
import {
  addWall,
  cellsAlong,
  cellsBetween,
  cellsLike,
  insertPoint,
  movePoint,
  moveWall,
  paintCells,
  removeWall,
  resizeGround,
  wallNear,
} from './edit.ts';

const ground = openGround({ size: { width: 128, height: 96 } });
const square: [number, number][] = [
  [10, 10],
  [50, 10],
  [50, 50],
  [10, 50],
];

describe('cells', () => {
  it('are painted one by one, in strokes and in rectangles, and end at the ground', () => {
    const stroke = paintCells(ground, cellsAlong([0, 0], [3, 2]), '#');
    expect(stroke.cells).toEqual(['#...', '.##.', '...#']);
    expect(paintCells(ground, cellsBetween([1, 1], [9, 9]), '#').cells).toEqual(['....', '.###', '.###']);
    expect(paintCells(stroke, cellsBetween([0, 0], [3, 2]), '.').cells).toEqual([]);
    expect(ground.cells).toEqual([]);
  });

  it('of one mark that hang together are filled', () => {
    const walled = paintCells(ground, cellsBetween([1, 0], [1, 2]), '#');
    expect(cellsLike(walled, [3, 2])).toHaveLength(6);
    expect(paintCells(walled, cellsLike(walled, [0, 0]), '#').cells).toEqual(['##..', '##..', '##..']);
    expect(cellsLike(walled, [9, 9])).toEqual([]);
  });
});

describe('walls', () => {
  const one = addWall(ground, { points: square, closed: true });
  it('are added, moved, bent and taken away', () => {
    expect(moveWall(one, 0, 5, -5).walls[0]?.points[0]).toEqual([15, 5]);
    expect(movePoint(one, 0, 2, 70, 60).walls[0]?.points[2]).toEqual([70, 60]);
    expect(insertPoint(one, 0, 1, 30, 0).walls[0]?.points).toHaveLength(5);
    expect(removeWall(one, 0).walls).toEqual([]);
    expect(one.walls[0]?.points).toEqual(square);
  });

  it('are found by their points, their sides, and their inside', () => {
    expect(wallNear(one, 12, 9, 6)).toEqual({ kind: 'point', wall: 0, point: 0 });
    expect(wallNear(one, 30, 12, 6)).toEqual({ kind: 'side', wall: 0, side: 0 });
    expect(wallNear(one, 11, 30, 6)).toEqual({ kind: 'side', wall: 0, side: 3 });
    expect(wallNear(one, 30, 30, 6)).toEqual({ kind: 'inside', wall: 0 });
    expect(wallNear(one, 90, 90, 6)).toBeNull();
  });
});

describe('size', () => {
  it('cuts cells off and brings places in', () => {
    const full = { ...paintCells(ground, cellsBetween([0, 0], [3, 2]), '#'), start: { x: 120, y: 90 }, goal: { x: 10, y: 90, radius: 5 } };
    const small = resizeGround(full, 64, 64, 32);
    expect(small).toMatchObject({ cells: ['##', '##'], start: { x: 64, y: 64 }, goal: { x: 10, y: 64 } });
    expect(resizeGround(ground, 200, 100, 10).cells).toEqual([]);
  });
});
