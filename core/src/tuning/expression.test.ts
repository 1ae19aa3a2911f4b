import { describe, expect, it } from 'vitest';
import { parametersWith } from '../testing/drive.ts';
import { readEntry } from './expression.ts';

const parameters = parametersWith();
const read = (text: string, path = 'pace.walkSpeed') => readEntry(text, path, parameters, 'px');

describe('entries of a number field', () => {
  it.each([
    ['140', 'pace.walkSpeed', 140],
    [' 140.5 px/s ', 'pace.walkSpeed', 140.5],
    ['900 px/s²', 'ramp.accelerate', 900],
    ['900 px/s^2', 'ramp.accelerate', 900],
    ['+10%', 'pace.walkSpeed', 154],
    ['−10 %', 'pace.walkSpeed', 126],
    ['×2', 'pace.walkSpeed', 280],
    ['/2', 'pace.walkSpeed', 70],
    ['3 px/frame at 30', 'pace.walkSpeed', 90],
    ['3 px/frame', 'pace.walkSpeed', 180],
    ['0.5 px/frame² at 60', 'ramp.accelerate', 1800],
    ['0.2 s to full', 'ramp.accelerate', 700],
    ['0.1 s to stop', 'ramp.decelerate', 1400],
    ['0.105 s to full', 'ramp.ease', 1000],
    ['5 s to empty', 'stamina.drain', 20],
    ['50 %', 'input.deadZone', 0.5],
    ['90 deg', 'facing.start', 90],
    ['12', 'stamina.max', 12],
    ['720 deg/s', 'ramp.turnRate', 720],
  ])('%s for %s is %d', (text, path, number) => {
    const entry = read(text, path);
    expect(entry.ok && entry.number).toBeCloseTo(number, 9);
  });

  it('0.1 s to 90 % is a half-life of 0.1/log2(10)', () => {
    const entry = read('0.1 s to 90%', 'ramp.halfLife');
    expect(entry.ok && entry.number).toBeCloseTo(0.1 / Math.log2(10), 12);
  });

  it('keeps a link as a link, with its number', () => {
    expect(read('1.75 × walk', 'pace.sprintSpeed')).toEqual({ ok: true, value: { of: 'pace.walkSpeed', times: 1.75 }, number: 245 });
    expect(read('walk + 60', 'pace.sprintSpeed')).toEqual({ ok: true, value: { of: 'pace.walkSpeed', plus: 60 }, number: 200 });
    expect(read('2 * pace.walkspeed - 10', 'pace.sprintSpeed')).toEqual({
      ok: true,
      value: { of: 'pace.walkSpeed', times: 2, plus: -10 },
      number: 270,
    });
  });

  it.each([
    ['', 'a number is needed'],
    ['fast', 'isn’t a number of the tuning'],
    ['1e9', 'outside'],
    ['-5', 'outside'],
    ['5 s to full', 'neither', 'pace.walkSpeed'],
    ['0 s to full', 'above 0', 'ramp.accelerate'],
    ['50%', 'neither', 'pace.walkSpeed'],
    ['/0', 'isn’t a number'],
    ['0x10', 'neither'],
  ])('refuses “%s” and says why', (text, why, path = 'pace.walkSpeed') => {
    const entry = read(text, path);
    expect(entry.ok).toBe(false);
    expect(!entry.ok && entry.why).toContain(why);
  });
});
