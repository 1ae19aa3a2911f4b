import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { axisText, readAxis, type SweepAxis, spread } from './axis.ts';
import { axesOf, readSweep } from './sweepFile.ts';

const file = {
  format: 'zygopod/sweep',
  version: 1,
  name: 'Stops',
  tuning: { name: 'Day boots', revision: 3 },
  over: ['pace.walkSpeed=60:320:40', 'ramp.decelerate=300:4800:30:log'],
  metrics: ['stopDistance', 'slideKept(45)'],
};

const faultOf = (change: object): string => {
  const read = readSweep({ ...file, ...change });
  return read.ok ? '' : `${read.faults[0]?.path}: ${read.faults[0]?.expected}`;
};

describe('the file of a sweep', () => {
  it('holds its axes, also that of a link’s factor, which the tuning it is run on may lack', () => {
    const read = readSweep({ ...file, over: ['pace.sprintSpeed.times=1.2:2.2:11', 'stamina.enabled=*'] });
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    expect(axesOf(read.value)).toEqual([
      { path: 'pace.sprintSpeed.times', values: spread(1.2, 2.2, 11, false), isLog: false },
      { path: 'stamina.enabled', values: [false, true], isLog: false },
    ]);
  });

  it.each([
    ['an absent parameter', { over: ['pace.nothing=1:2:3'] }, /^over\.0: a path of the catalogue/],
    ['a text', { over: ['name=a,b'] }, /^over\.0: a path of the catalogue/],
    ['ends in the wrong order', { over: ['pace.walkSpeed=9:1:3'] }, /^over\.0: the first below the second/],
    ['a log axis over 0', { over: ['pace.walkSpeed=0:9:3:log'] }, /^over\.0: a number above 0/],
    ['a factor of a flag', { over: ['stamina.enabled.times=1:2:3'] }, /^over\.0/],
    ['one parameter twice', { over: ['pace.walkSpeed=1:9:3', 'pace.walkSpeed=2:5:3'] }, /^over: two parameters/],
    ['10⁹ cells', { over: ['pace.walkSpeed=1:9:2000', 'ramp.decelerate=1:9:2000'] }, /^over: at most 1000000 cells/],
    ['three axes', { over: ['pace.walkSpeed=1:9:3', 'ramp.decelerate=1:9:3', 'ramp.accelerate=1:9:3'] }, /^over/],
    ['no metric', { metrics: [] }, /^metrics/],
    ['a metric that is none', { metrics: ['a b'] }, /^metrics\.0: .*name of a metric/],
    ['no tuning', { tuning: undefined }, /^tuning/],
    ['another key', { seconds: 3 }, /seconds/],
  ])('with %s is refused', (_, change, why) => {
    expect(faultOf(change)).toMatch(why);
  });

  it('reads back every axis that is written', () => {
    const number = fc.double({ min: 0.5, max: 4000, noNaN: true });
    const axis = fc.record({ from: number, more: number, count: fc.integer({ min: 2, max: 60 }), isLog: fc.boolean() });
    fc.assert(
      fc.property(axis, ({ from, more, count, isLog }) => {
        const made: SweepAxis = { path: 'ramp.decelerate', values: [...new Set(spread(from, from + more, count, isLog))], isLog };
        const read = readSweep({ ...file, over: [axisText(made)] });
        if (!read.ok) throw new Error(JSON.stringify(read.faults));
        expect(axesOf(read.value)[0]?.values).toEqual(made.values);
        expect(readAxis(axisText(made), { name: 'Any' } as never)).toEqual(axesOf(read.value)[0]);
      }),
    );
  });
});
