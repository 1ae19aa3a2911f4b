import { describe, expect, it } from 'vitest';
import { plainGround } from '../measure/scenes/plainGround.ts';
import { TraceCursor, traceAt } from '../measure/traceAt.ts';
import { FrameClock, type FramePattern, framePatterns } from '../tape/frames.ts';
import { type Tape, tapeOf } from '../tape/tape.ts';
import { sequence } from '../testing/sequence.ts';
import { newTuning, resolveTuning, withValue } from '../tuning/tuning.ts';
import { rerun } from './rerun.ts';

const parameters = (stepping: 'fixed' | 'perFrame') => {
  const read = resolveTuning(withValue(newTuning('Any'), 'clock.stepping', stepping));
  if (!read.ok) throw new Error('no tuning');
  return read.value.parameters;
};

const tape = (ticks: number): Tape =>
  tapeOf({
    name: 'Out',
    hz: 60,
    ticks,
    events: [
      { at: 5, press: 'right' },
      { at: 40, release: 'right' },
    ],
  });

describe('hands driven again by frames', () => {
  it('reach just beyond the end of the tape, frame after frame of the pattern', () => {
    const next = sequence(5);
    for (let i = 0; i < 60; i++) {
      const pattern = Object.keys(framePatterns)[Math.floor(next() * 4)] as FramePattern;
      const ticks = 1 + Math.floor(next() * 700);
      const { trace } = rerun(tape(ticks), parameters('perFrame'), plainGround(), { frames: pattern });
      const frames = new FrameClock(pattern);
      let time = 0;
      let row = 0;
      for (; time < ticks / 60 - 1e-9; row++) {
        expect(trace.at('time', row)).toBeCloseTo(time, 9);
        time += frames.next();
      }
      expect(trace.end, `${pattern}, ${ticks} ticks`).toBe(row + 1);
    }
  });

  it('are plain ticks if the tuning steps evenly, and if no pattern is given', () => {
    const even = rerun(tape(100), parameters('fixed'), plainGround(), { frames: 'uneven' });
    const plain = rerun(tape(100), parameters('fixed'), plainGround());
    expect(even.hash()).toBe(plain.hash());
    expect(rerun(tape(100), parameters('perFrame'), plainGround()).trace.end).toBe(101);
  });

  it('are read between two ticks on the line between them, and held at both ends', () => {
    const { trace } = rerun(tape(100), parameters('fixed'), plainGround());
    const [t0, t1] = [trace.at('time', 20), trace.at('time', 21)];
    expect(traceAt(trace, 'x', t0 + (t1 - t0) / 4)).toBeCloseTo(trace.at('x', 20) * 0.75 + trace.at('x', 21) * 0.25, 9);
    // By looking at every row: the last one before the time and the one after it.
    const expected = (time: number) => {
      const rows = Array.from({ length: trace.end }, (_, row) => row);
      const after = rows.find((row) => trace.at('time', row) >= time) ?? trace.end - 1;
      const before = Math.max(0, after - 1);
      const [t0, t1] = [trace.at('time', before), trace.at('time', after)];
      const share = t1 > t0 ? Math.min(1, Math.max(0, (time - t0) / (t1 - t0))) : 1;
      return trace.at('x', before) + (trace.at('x', after) - trace.at('x', before)) * share;
    };
    const next = sequence(9);
    const cursor = new TraceCursor(trace);
    let time = 0;
    for (let i = 0; i < 500; i++) {
      time = next() < 0.1 ? next() * 2 - 0.2 : time + next() * 0.05;
      if (next() < 0.05) time = trace.at('time', Math.floor(next() * 100));
      expect(cursor.to(time).at('x'), `at ${time}`).toBe(expected(time));
      expect(traceAt(trace, 'x', time), `at ${time}`).toBe(expected(time));
    }
    expect(traceAt(trace, 'x', -5)).toBe(trace.at('x', 0));
    expect(traceAt(trace, 'x', 500)).toBe(trace.at('x', 100));
  });
});
