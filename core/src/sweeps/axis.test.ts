import { describe, expect, it } from 'vitest';
import { seeds } from '../testing/campaign.ts';
import { sequence } from '../testing/sequence.ts';
import { axis, tuned } from '../testing/tuned.ts';
import { resolveTuning } from '../tuning/tuning.ts';
import { axisText, placeOn, readAxis, spread, valueOn, withAxis } from './axis.ts';

describe('axes', () => {
  it('are even, by factors, lists, options and flags, with their ends as they were given', () => {
    expect(axis('pace.walkSpeed=60:320:14').values).toEqual(Array.from({ length: 14 }, (_, i) => 60 + i * 20));
    const log = axis('ramp.decelerate=300:4800:5:log').values as number[];
    expect(log.map((value) => Math.round(value))).toEqual([300, 600, 1200, 2400, 4800]);
    expect(axis('clock.hz=30,60,144').values).toEqual([30, 60, 144]);
    expect(axis('ramp.model=linear,smooth').values).toEqual(['linear', 'smooth']);
    expect(axis('stamina.enabled=*').values).toEqual([false, true]);
    expect(spread(0.1, 0.7, 7, false).at(-1)).toBe(0.7);
  });

  it.each([
    ['pace.nothing=1:2:3', /no such parameter/],
    ['pace.walkSpeed', /found no values/],
    ['pace.walkSpeed=10:5:4', /expected the first below the second/],
    ['pace.walkSpeed=5:5:4', /expected the first below the second/],
    ['pace.walkSpeed=0:10:4:log', /lower end of a log axis/],
    ['pace.walkSpeed=1:10:1', /a whole number from 2 on/],
    ['pace.walkSpeed=1:10:1000000000', /at most 2000/],
    ['pace.walkSpeed=1:10:4:exp', /expected log or nothing/],
    ['pace.walkSpeed=NaN:10:4', /expected FROM:TO:COUNT/],
    ['pace.walkSpeed=1,x,3', /found x, expected a number/],
    ['pace.walkSpeed=-5:10:4', /expected numbers from 0/],
    ['ramp.model=bouncy', /found bouncy, expected some of/],
    ['ramp.points=1:2:3', /found a curve/],
    ['ramp.accelerate.times=1:2:3', /found no link at ramp.accelerate/],
  ])('%s is refused with what would be right', (text, why) => {
    expect(readAxis(text, tuned().file)).toMatch(why);
  });

  it('keep links: a linked number follows, and its factor is an axis of its own', () => {
    const tuning = tuned();
    const sprintOf = (path: string, value: number) => {
      const read = resolveTuning(withAxis(tuning.file, { path, values: [], isLog: false }, value));
      return read.ok ? read.value.parameters.pace.sprintSpeed : null;
    };
    expect(sprintOf('pace.walkSpeed', 200)).toBe(350);
    expect(sprintOf('pace.sprintSpeed.times', 2)).toBe(280);
    expect(axis('pace.sprintSpeed.times=1.2:2:5').values).toHaveLength(5);
  });
});

describe('places on axes', () => {
  it('are read back from the text of an axis, value for value', () => {
    for (const seed of seeds(20, 400)) {
      const next = sequence(seed);
      const [low, high] = [1 + next() * 100, 150 + next() * 300];
      const text = [
        `pace.walkSpeed=${low}:${high}:${2 + Math.floor(next() * 30)}${next() < 0.5 ? ':log' : ''}`,
        `clock.hz=${[...new Set([1, 2, 3].map(() => 1 + Math.floor(next() * 200)))].join(',')}`,
        'ramp.model=linear,smooth',
        'pace.sprintSpeed.times=1.2:2:5',
      ][Math.floor(next() * 4)] as string;
      const read = axis(text);
      expect(axis(axisText(read)), text).toEqual({ ...read, isLog: axisText(read).endsWith(':log') });
    }
  });

  it('lie between the values that a number lies between, by its logarithm on a log axis', () => {
    expect(placeOn(axis('pace.walkSpeed=100:200:3'), 125)).toBe(0.5);
    expect(placeOn(axis('pace.walkSpeed=100:400:3:log'), Math.sqrt(2) * 100)).toBeCloseTo(0.5, 12);
    expect(placeOn(axis('pace.walkSpeed=100:200:3'), 99)).toBeNull();
    expect(placeOn(axis('ramp.model=linear,smooth'), 'smooth')).toBe(1);
    expect(valueOn(axis('pace.sprintSpeed.times=1.2:2:5'), tuned())).toBe(1.75);
    expect(valueOn(axis('pace.walkSpeed=100:200:3'), tuned())).toBe(tuned().parameters.pace.walkSpeed);
  });
});
