import { describe, expect, it } from 'vitest';
import { readGround } from '../ground/ground.ts';
import { readTape } from '../tape/tape.ts';
import type { FileValue } from '../tuning/schema.ts';
import { newTuning, readTuning, withValue } from '../tuning/tuning.ts';
import { groundLine, tapeLine, tuningLine, tuningNumbers } from './line.ts';

function tuned(values: Record<string, FileValue>) {
  const read = readTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), newTuning('Any')));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

describe('a line of numbers', () => {
  it('describes a tuning by its main numbers', () => {
    expect(tuningLine(tuned({ 'pace.walkSpeed': 140, 'ramp.decelerate': 1400, 'clock.integration': 'exact' }))).toBe(
      'walk 140 · sprint 245 · stops within 7 px',
    );
    expect(tuningLine(tuned({ 'pace.sprintSpeed': 140, 'ramp.model': 'instant' }))).toBe('walk 140 · at once');
    expect(tuningLine(tuned({ scheme: 'turn', 'ramp.turnRate': 140, 'ramp.model': 'smooth', 'ramp.halfLife': 0.08 }))).toBe(
      'walk 140 · sprint 245 · turns 140 °/s · half-life 0.08 s',
    );
    expect(tuningLine(tuned({ 'route.enabled': true }))).toContain('click to go');
    expect(tuningLine(tuned({ scheme: 'step', 'step.cell': 32, 'step.time': 0.16, 'step.buffer': 0.1 }))).toBe(
      'cells of 32 · 6.25 cells/s · buffered',
    );
    expect(tuningLine(tuned({ scheme: 'step', 'step.time': 0, 'step.buffer': 0 }))).toContain('at once');
  });

  it('describes a ground and a tape by their sizes', () => {
    const ground = readGround({
      format: 'zygopod/ground',
      version: 1,
      name: 'Any',
      size: { width: 320, height: 96 },
      start: { x: 9, y: 9 },
    });
    if (!ground.ok) throw new Error('no ground');
    expect(groundLine(ground.value)).toBe('320 × 96 px');
    const walls = [
      {
        points: [
          [0, 0],
          [9, 9],
        ] as [number, number][],
        closed: false,
        solid: true,
      },
    ];
    expect(groundLine({ ...ground.value, cell: 32, cells: ['#'], walls })).toBe('320 × 96 px · cells of 32 · 1 wall');
    const tape = readTape({ format: 'zygopod/tape', version: 2, name: 'Any', hz: 30, ticks: 75, events: [{ at: 0, press: 'up' }] });
    if (!tape.ok) throw new Error('no tape');
    expect(tapeLine(tape.value)).toBe('2.5 s · 30 Hz · 1 event');
  });
});

describe('the numbers of a tuning', () => {
  it('are those in force: links followed, defaults filled in', () => {
    const numbers = tuningNumbers(tuned({ 'pace.walkSpeed': 200 }));
    expect(numbers['pace.walkSpeed']).toBe(200);
    expect(numbers['pace.sprintSpeed']).toBe(350);
    expect(numbers['body.radius']).toBe(12);
    expect(numbers['facing.directions']).toBeUndefined();
  });
});
