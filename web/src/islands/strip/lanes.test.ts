import { type Column, type HandsEvent, newGround, newTuning, Recorder, readTuning, World, withValue } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { drawCurve, eachColumn, eachRun, type LaneView, rowsOnPixel, sprintLane } from './lanes.ts';

/** A world that was driven to and fro, with sprints that run out. */
function driven(seed: number, ticks: number): World {
  const next = sequence(seed);
  const file = [
    ['stamina.enabled', true],
    ['stamina.drain', 80],
    ['ramp.model', 'linear'],
  ].reduce((one, [path, value]) => withValue(one, path as string, value as string), newTuning('Lanes'));
  const read = readTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  const world = new World(read.value.parameters, { ...newGround('Lanes'), size: { width: 4000, height: 400 } }, ticks);
  const recorder = new Recorder();
  for (let tick = 0; tick < ticks; tick++) {
    if (next() < 0.04) {
      const control = (['right', 'left', 'sprint', 'up'] as const)[Math.floor(next() * 4)] as 'right';
      recorder.push((next() < 0.6 ? { press: control } : { release: control }) as HandsEvent);
    }
    world.tick(recorder.next());
  }
  return world;
}

/** Rows of a trace as a strip of some width shows them. */
function sight(world: World, from: number, to: number, width: number) {
  const { trace } = world;
  const [begin, end] = [trace.at('time', from), trace.at('time', to)];
  return { trace, from, to, x: (time: number) => ((time - begin) / (end - begin || 1)) * width };
}

describe('the rows in sight', () => {
  it.each(['speed', 'stamina', 'amount'] as Column[])('of %s are drawn by the pixel: its last, lowest and highest value', (column) => {
    for (let seed = 1; seed <= 12; seed++) {
      const world = driven(seed * 37, 900);
      const next = sequence(seed);
      const from = Math.floor(next() * 300);
      const to = from + 1 + Math.floor(next() * 590);
      const view = sight(world, from, to, 20 + Math.floor(next() * 700));
      // By every row, one after the other.
      const wanted = new Map<number, { last: number; low: number; high: number }>();
      for (let row = from; row <= to; row++) {
        const value = world.trace.at(column, row);
        const pixel = Math.round(view.x(world.trace.at('time', row)));
        const known = wanted.get(pixel) ?? { last: value, low: value, high: value };
        wanted.set(pixel, { last: value, low: Math.min(known.low, value), high: Math.max(known.high, value) });
      }
      const drawn: { x: number; value: number; low: number; high: number }[] = [];
      eachColumn(view, column, (x, value, low, high) => drawn.push({ x, value, low, high }));
      // Rows are drawn in pieces; together they hold every row, and nothing else.
      expect(Math.min(...drawn.map(({ low }) => low))).toBe(Math.min(...[...wanted.values()].map(({ low }) => low)));
      expect(Math.max(...drawn.map(({ high }) => high))).toBe(Math.max(...[...wanted.values()].map(({ high }) => high)));
      expect(drawn.at(-1)?.value).toBe(world.trace.at(column, to));
      expect(drawn.map(({ x }) => x)).toEqual(drawn.map(({ x }) => x).sort((a, b) => a - b));
      // If a row has a pixel to itself, each pixel is drawn exactly.
      if (rowsOnPixel(view) < 1) expect(drawn.map(({ value, low, high }) => ({ last: value, low, high }))).toEqual([...wanted.values()]);
    }
  });

  it.each(['gait', 'sprintGiven', 'sprintWanted'] as Column[])('of %s are runs of the same, without a gap between them', (column) => {
    for (let seed = 1; seed <= 12; seed++) {
      const world = driven(seed * 41, 900);
      const view = sight(world, 100, 100 + seed * 60, 300);
      const drawn: { x0: number; x1: number; value: number }[] = [];
      eachRun(view, column, (x0, x1, value) => drawn.push({ x0, x1, value }));
      const wanted: number[] = [];
      for (let row = view.from; row <= view.to; row++) {
        const value = world.trace.at(column, row);
        if (wanted.at(-1) !== value || wanted.length === 0) wanted.push(value);
      }
      expect(drawn.map(({ value }) => value)).toEqual(wanted);
      for (const [i, one] of drawn.entries()) if (i > 0) expect(one.x0).toBeCloseTo(drawn[i - 1]?.x1 as number, 9);
      expect(drawn.at(-1)?.x1).toBeCloseTo(300, 9);
    }
  });

  it('of nothing are nothing', () => {
    const world = driven(1, 10);
    const view = sight(world, 5, 4, 100);
    const refuse = () => {
      throw new Error('there is nothing');
    };
    eachColumn(view, 'speed', refuse);
    eachRun(view, 'gait', refuse);
  });
});

/** A canvas that keeps where its path went and what was filled. */
function paper() {
  const path: [number, number][] = [];
  const filled: { at: number[]; ink: string }[] = [];
  const outlined: number[][] = [];
  const ctx = {
    fillStyle: '',
    strokeStyle: '',
    lineWidth: 1,
    lineJoin: '',
    globalAlpha: 1,
    beginPath: () => undefined,
    closePath: () => undefined,
    stroke: () => undefined,
    fill: () => undefined,
    setLineDash: () => undefined,
    moveTo: (x: number, y: number) => path.push([x, y]),
    lineTo: (x: number, y: number) => path.push([x, y]),
    fillRect: (...at: number[]) => filled.push({ at, ink: ctx.fillStyle }),
    strokeRect: (...at: number[]) => outlined.push(at),
  };
  return { ctx: ctx as unknown as CanvasRenderingContext2D, path, filled, outlined };
}

const inks = new Proxy({}, { get: (_, name) => String(name) }) as LaneView['inks'];
const laneView = (world: World, ctx: CanvasRenderingContext2D): LaneView => ({
  ...sight(world, 0, world.trace.end - 1, 200),
  ctx,
  inks,
  ghost: null,
  parameters: world.parameters,
  top: 10,
  height: 80,
  left: 0,
  width: 200,
});

describe('a lane', () => {
  it('draws a curve that stays on it, and reaches the highest that was there', () => {
    const world = driven(5, 900);
    const { ctx, path } = paper();
    const highest = Math.max(...Array.from({ length: world.trace.end }, (_, row) => world.trace.at('speed', row)));
    drawCurve(laneView(world, ctx), 'speed', highest, 'ink', 'ink', 0.1);
    for (const [x, y] of path) {
      expect(x).toBeGreaterThanOrEqual(-1);
      expect(x).toBeLessThanOrEqual(201);
      expect(y).toBeGreaterThanOrEqual(12 - 1e-9);
      expect(y).toBeLessThanOrEqual(90 + 1e-9);
    }
    expect(Math.min(...path.map(([, y]) => y))).toBeCloseTo(12, 6);
  });

  it('outlines a requested sprint, and fills the given part of it', () => {
    const world = driven(9, 1800);
    const { ctx, filled, outlined } = paper();
    sprintLane.draw(laneView(world, ctx));
    const rows = Array.from({ length: world.trace.end }, (_, row) => row);
    const share = (column: Column) => rows.filter((row) => world.trace.at(column, row) !== 0).length / rows.length;
    expect(share('sprintWanted')).toBeGreaterThan(share('sprintGiven'));
    const wide = (all: number[][]) => all.reduce((sum, [, , width = 0]) => sum + width, 0) / 200;
    expect(wide(filled.map(({ at }) => at))).toBeCloseTo(share('sprintGiven'), 1);
    expect(wide(outlined)).toBeCloseTo(share('sprintWanted'), 1);
  });
});
