import { firstTuning, readAxis, resolveTuning, type SweepAxis, type Tuning } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { seeds } from '../../../../core/src/testing/campaign.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { ticksOf } from './axisTicks.ts';
import { axisPaths, axisThrough, readChoice, withChoice } from './choice.ts';
import { bandRings, contourLines, thinned } from './contourLines.ts';
import { levelsOf, shareOf } from './levels.ts';
import { zoomInto } from './zoom.ts';

const read = resolveTuning(firstTuning('Boots', 'px'));
if (!read.ok) throw new Error('the first tuning');
const tuning: Tuning = read.value;
const axis = (text: string): SweepAxis => {
  const found = readAxis(text, tuning.file);
  if (typeof found === 'string') throw new Error(found);
  return found;
};

describe('a choice', () => {
  it('comes back from its address, and leaves the rest of that alone', () => {
    const choice = {
      over: ['pace.walkSpeed=60:320:9', 'ramp.model=linear,smooth'],
      metrics: ['stopDistance', 'slideKept(45)'] as const,
      shown: 'met' as const,
      tape: null,
    };
    const query = withChoice('?ground=7&over=old&shown=old&tape=old', choice);
    expect(readChoice(query)).toEqual(choice);
    expect(new URLSearchParams(query).get('ground')).toBe('7');
  });

  it('has no metric that there isn’t, and shows one that it has', () => {
    expect(readChoice('?metric=nonsense&metric=stopTime&shown=riseTime')).toEqual({
      over: [],
      metrics: ['stopTime'],
      shown: 'stopTime',
      tape: null,
    });
  });

  it('can be an axis through each parameter that is offered, as it is read', () => {
    for (const path of axisPaths(tuning)) expect(axis(axisThrough(path, tuning, 12)).values.length, path).toBeGreaterThan(1);
  });
});

describe('ticks', () => {
  it('are few, in order, and at the places of their values', () => {
    for (const seed of seeds(20, 400)) {
      const next = sequence(seed);
      const [low, high] = [1 + next() * 200, 250 + next() * 2000];
      const own = axis(`pace.walkSpeed=${low}:${high}:${2 + Math.floor(next() * 80)}${next() < 0.5 ? ':log' : ''}`);
      const ticks = ticksOf(own, 6);
      expect(ticks.length).toBeLessThanOrEqual(6);
      for (const { at, text } of ticks) {
        const share = own.values.length === 1 ? 0 : (at - 0.5) / (own.values.length - 1);
        const value = own.isLog ? low * (high / low) ** share : low + (high - low) * share;
        // Texts of an axis's own values are rounded.
        expect(Math.abs(Number(text) - value) / value).toBeLessThan(2e-3);
      }
      expect(ticks.map(({ at }) => at)).toEqual(ticks.map(({ at }) => at).toSorted((a, b) => a - b));
    }
  });
});

describe('the texts of ticks', () => {
  it('have as many digits as it takes to tell an axis’s own values apart, and round numbers all of theirs', () => {
    const texts = (text: string) => ticksOf(axis(text), 12).map((tick) => tick.text);
    expect(texts('ramp.decelerate=300:4800:4:log')).toEqual(['300', '756', '1905', '4800']);
    expect(texts('pace.walkSpeed=100000,100020,100040')).toEqual(['100000', '100020', '100040']);
    expect(texts('pace.walkSpeed=100000:100200:50').at(-1)).toBe('100200');
  });
});

describe('levels and lines', () => {
  it('are round numbers within the values, and lines lie between cells below and above', () => {
    for (const seed of seeds(10, 100)) {
      const next = sequence(seed);
      const [width, height] = [4 + Math.floor(next() * 20), 4 + Math.floor(next() * 20)];
      const [a, b] = [1 + next() * 9, next() * 9];
      const at = (x: number, y: number) => 5 + a * x + b * y;
      const grid = Float64Array.from({ length: width * height }, (_, cell) => at(cell % width, Math.floor(cell / width)));
      const { values, low, high, isLog } = levelsOf(grid);
      expect(values.every((value) => value > low && value < high)).toBe(true);
      expect(values.map((value) => shareOf(value, { values, low, high, isLog }))).toEqual(
        values.map((value) => shareOf(value, { values, low, high, isLog })).toSorted((p, q) => p - q),
      );
      // On a plane the lines are exact: cell (x, y) has its value in its middle.
      for (const [i, lines] of contourLines(grid, width, height, values).entries())
        for (const [x, y] of lines.flat())
          if (x > 0.5 && y > 0.5 && x < width - 0.5 && y < height - 0.5) expect(at(x - 0.5, y - 0.5)).toBeCloseTo(values[i] as number, 6);
    }
  });

  it('fill a band that is open below from the corner on', () => {
    expect(bandRings([1, 2, 3, 4], 2, 2, Number.NEGATIVE_INFINITY, 2.5)[0]?.[0]).toEqual([-1, -1]);
    expect(levelsOf([Number.NaN, 3, 3]).values).toEqual([]);
  });

  it('come from some cells of a large grid, each of which is one of it', () => {
    const grid = Float64Array.from({ length: 500 * 400 }, (_, cell) => cell);
    const few = thinned(grid, 500, 400);
    expect(few.width * few.height).toBeLessThan(21_000);
    expect((few.values[few.width + 1] as number) % 500).toBeLessThan(2 * few.step);
    expect(thinned(grid.subarray(0, 100), 10, 10)).toMatchObject({ width: 10, height: 10, step: 1 });
  });
});

describe('zooming', () => {
  it('takes the values of the rectangle as ends, with as many between them, and options as they are', () => {
    const axes = [axis('pace.walkSpeed=100:200:11'), axis('ramp.model=instant,linear,smooth')];
    expect(zoomInto(axes, { left: 2, right: 7, top: 1, bottom: 2 })).toEqual(['pace.walkSpeed=120:170:11', 'ramp.model=linear,smooth']);
    // One cell wide is too narrow: the next one is taken, too.
    expect(zoomInto(axes, { left: 3, right: 3, top: 0, bottom: 2 })[0]).toBe('pace.walkSpeed=130:140:11');
  });
});
