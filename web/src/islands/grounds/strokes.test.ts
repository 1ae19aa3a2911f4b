import type { Ground } from '@zygopod/core';
import { groundWith } from '@zygopod/core';
import { beforeEach, describe, expect, it } from 'vitest';
import { Steps } from '../work/steps.ts';
import { beginStroke, finishPath } from './strokes.ts';
import { type Drawing, newDrawing, snapped, type Tool } from './tools.ts';

let steps: Steps<Ground>;
let drawing: Drawing;
const ground = () => steps.$now.get();

beforeEach(() => {
  steps = new Steps<Ground>(groundWith({ name: 'Test', size: { width: 320, height: 320 }, start: { x: 16, y: 16 } }));
  drawing = newDrawing(steps);
});

/** A press, a drag over some places, and the release at the last of them; a unit is a screen pixel. */
function stroke(tool: Tool, ...places: [number, number][]): void {
  const [first, ...rest] = places.map(([x, y]) => ({ x, y }));
  if (!first) return;
  const under = beginStroke(tool, drawing, first, 1);
  for (const place of rest) under?.move(place);
  under?.end(rest.at(-1) ?? first);
}

describe('snapping', () => {
  it('goes to cells, halves, whole units, or nowhere', () => {
    expect(snapped(41, 23, 32, 'cell')).toEqual({ x: 32, y: 32 });
    expect(snapped(41, 23, 32, 'half')).toEqual({ x: 48, y: 16 });
    expect(snapped(41.4, 23.6, 32, 'one')).toEqual({ x: 41, y: 24 });
    expect(snapped(41.456, 23.5, 32, 'off')).toEqual({ x: 41.46, y: 23.5 });
  });
});

describe('walls', () => {
  it('a drag with the line is a line; clicks make corners, and Enter ends them', () => {
    stroke('line', [10, 10], [60, 40], [100, 50]);
    expect(ground().walls).toEqual([
      {
        points: [
          [16, 16],
          [96, 48],
        ],
        closed: false,
        solid: true,
      },
    ]);
    for (const place of [
      [200, 200],
      [240, 200],
      [240, 260],
    ] as [number, number][])
      stroke('line', place);
    expect(drawing.$pending.get()).toHaveLength(3);
    finishPath(drawing, false);
    expect(ground().walls[1]?.points).toHaveLength(3);
    expect(drawing.$selected.get()).toBe(1);
  });

  it('a shape is closed by a click on its first corner, and is none with two corners', () => {
    for (const place of [
      [32, 32],
      [96, 32],
      [96, 96],
    ] as [number, number][])
      stroke('shape', place);
    stroke('shape', [34, 33]);
    expect(ground().walls[0]).toMatchObject({
      closed: true,
      points: [
        [32, 32],
        [96, 32],
        [96, 96],
      ],
    });
    stroke('shape', [200, 200]);
    stroke('shape', [232, 200]);
    finishPath(drawing, true);
    expect(ground().walls).toHaveLength(1);
  });

  it('a block without an area is none', () => {
    stroke('block', [32, 32], [33, 120]);
    expect(ground().walls).toEqual([]);
    stroke('block', [32, 32], [97, 120]);
    expect(ground().walls[0]?.points).toEqual([
      [32, 32],
      [96, 32],
      [96, 128],
      [32, 128],
    ]);
  });
});

describe('selecting', () => {
  beforeEach(() => stroke('block', [96, 96], [192, 160]));

  it('moves a point, a wall by its side or its inside, and bends a side by its middle; each is one step', () => {
    stroke('select', [97, 97], [80, 80], [64, 64]);
    expect(ground().walls[0]?.points[0]).toEqual([64, 64]);
    steps.undo();
    expect(ground().walls[0]?.points[0]).toEqual([96, 96]);
    stroke('select', [150, 130], [182, 162]);
    expect(ground().walls[0]?.points[0]).toEqual([128, 128]);
    steps.undo();
    stroke('select', [144, 96], [144, 48]);
    expect(ground().walls[0]?.points).toHaveLength(5);
    expect(ground().walls[0]?.points[1]).toEqual([144, 48]);
  });

  it('takes hold of start, goal, its ring and the frame', () => {
    stroke('goal', [256, 256]);
    stroke('frame', [16, 16], [304, 304]);
    stroke('select', [256, 256], [240, 272]);
    expect(ground().goal).toMatchObject({ x: 240, y: 272, radius: 16 });
    stroke('select', [256, 272], [280, 272]);
    expect(ground().goal?.radius).toBe(40);
    stroke('select', [304, 304], [272, 288]);
    expect(ground().frame).toEqual({ x: 16, y: 16, width: 256, height: 272 });
    stroke('select', [16, 16], [48, 48]);
    expect(ground().start).toMatchObject({ x: 48, y: 48 });
  });

  it('of nothing lets go of what was selected', () => {
    expect(drawing.$selected.get()).toBe(0);
    stroke('select', [300, 30]);
    expect(drawing.$selected.get()).toBeNull();
  });
});

describe('cells', () => {
  it('a brush leaves no gap however fast it goes, and is one step', () => {
    stroke('cells', [16, 48], [300, 48]);
    expect(ground().cells[1]).toBe('##########');
    steps.undo();
    expect(ground().cells).toEqual([]);
  });

  it('a block of cells ends at the ground, however far it is dragged', () => {
    stroke('cellBlock', [250, 250], [1e7, 1e7]);
    expect(ground().cells[9]).toBe('.......###');
    expect(ground().cells).toHaveLength(10);
  });

  it('filling takes what hangs together, erasing opens cells and takes walls', () => {
    stroke('fill', [100, 100]);
    expect(ground().cells.join('')).toBe('#'.repeat(100));
    stroke('erase', [16, 16], [48, 16]);
    expect(ground().cells[0]).toBe('..########');
    stroke('line', [200, 200], [260, 200]);
    stroke('erase', [230, 201]);
    expect(ground().walls).toEqual([]);
  });
});
