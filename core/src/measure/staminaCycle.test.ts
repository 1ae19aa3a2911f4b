import { describe, expect, it } from 'vitest';
import { seeds } from '../testing/campaign.ts';
import { drive, parametersWith } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { staminaCycle } from './staminaCycle.ts';

const sprint = [
  { at: 0, press: 'right' as const },
  { at: 0, press: 'sprint' as const },
];

describe('staminaCycle', () => {
  it('is max/drain and delay + goal/regain', () => {
    const cycle = staminaCycle(parametersWith({ 'stamina.enabled': true }));
    expect(cycle.lasts).toBe(5);
    expect(cycle.recovers).toBeCloseTo(0.6 + 25 / 15, 12);
    expect(cycle.distance).toBe(5 * 245);
  });

  it.each([
    ['the defaults', {}],
    ['a slow spent walk', { 'stamina.spentFactor': 0.5 }],
    ['a start above the recovery', { 'stamina.startAt': 60 }],
    ['a quick cycle', { 'stamina.drain': 60, 'stamina.regain': 80, 'stamina.regainDelay': 0.2 }],
    ['regain all the time', { 'stamina.regainWhile': 'always' }],
  ])('tells share and mean speed of 400 s to 1 % (%s)', (_, values) => {
    const all = { 'stamina.enabled': true, 'stamina.afterEmpty': 'resume', 'ramp.model': 'instant', ...values };
    const cycle = staminaCycle(parametersWith(all));
    const { trace } = drive(all, 60 * 500, sprint);
    const from = 60 * 100;
    const to = 60 * 500;
    const mean = (trace.at('x', to) - trace.at('x', from)) / 400;
    let sprinting = 0;
    for (let row = from; row < to; row++) sprinting += trace.at('sprintGiven', row);
    expect(Math.abs(mean / cycle.meanSpeed - 1)).toBeLessThan(0.01);
    expect(Math.abs(sprinting / (to - from) - cycle.share)).toBeLessThan(0.01);
  });

  it('holds for random bars, whichever of start and recovery is the larger', () => {
    for (const seed of seeds(6, 60)) {
      const next = sequence(seed * 6_700_417);
      const all = {
        'stamina.enabled': true,
        'stamina.afterEmpty': 'resume',
        'ramp.model': 'instant',
        'stamina.drain': 20 + 60 * next(),
        'stamina.regain': 20 + 80 * next(),
        'stamina.regainDelay': 2 * next(),
        'stamina.regainMovingFactor': 0.3 + 0.7 * next(),
        'stamina.startAt': 5 + 90 * next(),
        'stamina.recoverTo': 5 + 90 * next(),
        'stamina.spentFactor': 0.2 + 0.8 * next(),
      };
      const cycle = staminaCycle(parametersWith(all));
      const { trace } = drive(all, 60 * 500, sprint);
      // Whole cycles: from one end of a sprint to the last one.
      const ends: number[] = [];
      for (let row = 1; row < trace.end; row++)
        if (trace.at('sprintGiven', row - 1) === 1 && trace.at('sprintGiven', row) === 0) ends.push(row);
      const [from, to] = [ends[0] as number, ends.at(-1) as number];
      const mean = (trace.at('x', to) - trace.at('x', from)) / (trace.at('time', to) - trace.at('time', from));
      expect(Math.abs(mean / cycle.meanSpeed - 1), `seed ${seed}, ${JSON.stringify(all)}`).toBeLessThan(0.01);
    }
  });

  it('knows bars that never empty and bars that never fill on the move', () => {
    expect(staminaCycle(parametersWith({ 'stamina.enabled': true, 'stamina.drain': 0 })).lasts).toBe(Infinity);
    expect(staminaCycle(parametersWith({ 'stamina.enabled': true, 'stamina.regainWhile': 'standing' })).share).toBe(0);
  });
});
