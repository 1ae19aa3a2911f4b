import { expect, it } from 'vitest';
import { firstYard } from '../ground/yard.ts';
import { rerun } from '../replay/rerun.ts';
import { tapeOf } from '../tape/tape.ts';
import { firstTuning } from './firstTuning.ts';
import { newTuning, resolveTuning } from './tuning.ts';

/** A first tuning, driven to the right for four seconds on the yard that goes with it. */
function driven(unit: 'px' | 'm') {
  const read = resolveTuning(firstTuning('First', unit));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  const tape = tapeOf({ name: 'Right', hz: 60, ticks: 240, events: [{ at: 0, press: 'right' }] });
  return rerun(tape, read.value.parameters, firstYard(unit)).trace;
}

it('is one of defaults in pixels', () => {
  expect(firstTuning('First', 'px')).toEqual(newTuning('First', 'px'));
});

it('moves in metres as it does in pixels, 32 of them to the metre', () => {
  const [pixels, metres] = [driven('px'), driven('m')];
  expect(metres.end).toBe(pixels.end);
  for (let row = pixels.first; row < pixels.end; row += 7) {
    expect(metres.at('x', row)).toBeCloseTo(pixels.at('x', row) / 32, 1);
    expect(metres.at('speed', row)).toBeCloseTo(pixels.at('speed', row) / 32, 1);
  }
  expect(pixels.at('x', pixels.end - 1) - pixels.at('x', 0)).toBeGreaterThan(200);
});
