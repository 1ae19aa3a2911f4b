import { plainUnits } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { firstPasting, readPasting } from './pasting.ts';

const code = 'speed = 3.5\nrun = 6\nodd_number = 900\nsprint_multiplier = 2';
const of = (changes: object) => readPasting({ ...firstPasting, code, ...changes });

describe('a paste', () => {
  it('is read by the evidence of its numbers, which is shown', () => {
    const { placed, terms, needsUnits, pasted } = of({});
    expect(placed.map(({ path, isGuess }) => [path, isGuess])).toEqual([
      ['pace.walkSpeed', true],
      ['pace.sprintSpeed', false],
      [null, false],
      [null, false],
    ]);
    // Tiles, metres or pixels a frame: without evidence the question is needed.
    expect(needsUnits).toBe(true);
    expect(of({ terms }).needsUnits).toBe(false);
    expect(pasted.values).toEqual(of({ terms }).pasted.values);
    expect(pasted.file.name).toBe('Pasted tuning');
  });

  it('is what is chosen by hand: that is no guess any more, and nobody else’s', () => {
    const { placed, pasted } = of({
      chosen: { odd_number: 'ramp.accelerate', run: null },
      terms: { units: plainUnits, fileUnit: 'px', strictly: false },
      name: ' Mine ',
    });
    expect(placed[2]).toMatchObject({ path: 'ramp.accelerate', isGuess: false, why: 'chosen by you' });
    expect(placed[1]).toMatchObject({ path: null, why: 'left by you' });
    expect(pasted.values).toEqual({ 'pace.walkSpeed': 3.5, 'ramp.accelerate': 900 });
    expect(pasted.note).toContain('run = 6 (line 2)');
    expect(pasted.file.name).toBe('Mine');
    const other = of({
      chosen: { odd_number: 'pace.walkSpeed' },
      terms: { units: { ...plainUnits, time: 'frame' }, fileUnit: 'px', strictly: false },
    });
    expect(other.placed[0]).toMatchObject({ path: null, why: 'you chose another for it' });
    expect(other.pasted.values['pace.walkSpeed']).toBe(54_000);
  });

  it('keeps how a number is taken, where what is proposed is chosen', () => {
    const { pasted } = readPasting({ ...firstPasting, code: 'body_diameter = 24', chosen: { body_diameter: 'body.radius' } });
    expect(pasted.values['body.radius']).toBe(12);
  });
});
