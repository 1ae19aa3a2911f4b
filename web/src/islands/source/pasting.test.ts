import { plainUnits } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { firstPasting, readPasting } from './pasting.ts';

const code = 'speed = 3.5\nrun = 6\nodd_number = 900\nsprint_multiplier = 2';
const of = (changes: object) => readPasting({ ...firstPasting, code, ...changes });

describe('a paste', () => {
  it('is read as its numbers speak for, which is told', () => {
    const { placed, terms, isAsked, made } = of({});
    expect(placed.map(({ path, isGuess }) => [path, isGuess])).toEqual([
      ['pace.walkSpeed', true],
      ['pace.sprintSpeed', false],
      [null, false],
      [null, false],
    ]);
    // Tiles, metres or pixels a frame: nothing says which, and it has to be asked.
    expect(isAsked).toBe(true);
    expect(of({ terms }).isAsked).toBe(false);
    expect(made.values).toEqual(of({ terms }).made.values);
    expect(made.file.name).toBe('Pasted tuning');
  });

  it('is what is chosen by hand: that is no guess any more, and nobody else’s', () => {
    const { placed, made } = of({
      chosen: { odd_number: 'ramp.accelerate', run: null },
      terms: { units: plainUnits, fileUnit: 'px', strictly: false },
      name: ' Mine ',
    });
    expect(placed[2]).toMatchObject({ path: 'ramp.accelerate', isGuess: false, why: 'chosen by you' });
    expect(placed[1]).toMatchObject({ path: null, why: 'left by you' });
    expect(made.values).toEqual({ 'pace.walkSpeed': 3.5, 'ramp.accelerate': 900 });
    expect(made.note).toContain('run = 6 (line 2)');
    expect(made.file.name).toBe('Mine');
    const other = of({
      chosen: { odd_number: 'pace.walkSpeed' },
      terms: { units: { ...plainUnits, time: 'frame' }, fileUnit: 'px', strictly: false },
    });
    expect(other.placed[0]).toMatchObject({ path: null, why: 'you chose another for it' });
    expect(other.made.values['pace.walkSpeed']).toBe(54_000);
  });

  it('keeps how a number is taken, where what is proposed is chosen', () => {
    const { made } = readPasting({ ...firstPasting, code: 'body_diameter = 24', chosen: { body_diameter: 'body.radius' } });
    expect(made.values['body.radius']).toBe(12);
  });
});
