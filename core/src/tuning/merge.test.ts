import { describe, expect, it } from 'vitest';
import { merge } from './merge.ts';
import type { FileValue, TuningFile } from './schema.ts';
import { newTuning, withValue } from './tuning.ts';

const base = newTuning('Shared');
const file = (values: Record<string, FileValue>): TuningFile =>
  Object.entries(values).reduce((changed, [path, value]) => withValue(changed, path, value), base);
const walk = 'pace.walkSpeed';
const rise = 'ramp.accelerate';

describe('a merge', () => {
  it('takes what only they changed, keeps what only I changed', () => {
    expect(merge([base], file({ [walk]: 150 }), file({ [rise]: 700 }))).toEqual({
      file: file({ [walk]: 150, [rise]: 700 }),
      conflicts: [],
    });
    expect(merge([base], file({ [walk]: 150 }), base)).toEqual({ file: file({ [walk]: 150 }), conflicts: [] });
    expect(merge([base], base, file({ [walk]: 150 }))).toEqual({ file: file({ [walk]: 150 }), conflicts: [] });
  });

  it('names what both changed to different values, and keeps mine there', () => {
    const merged = merge([base], file({ [walk]: 150, [rise]: 500 }), file({ [walk]: 160, [rise]: 500 }));
    expect(merged).toEqual({ file: file({ [walk]: 150, [rise]: 500 }), conflicts: [walk] });
  });

  it('takes their newer number where mine came from a draft that both have seen', () => {
    const seen = file({ [walk]: 201 });
    const merged = merge([base, seen], file({ [walk]: 201, [rise]: 600 }), file({ [walk]: 205 }));
    expect(merged).toEqual({ file: file({ [walk]: 205, [rise]: 600 }), conflicts: [] });
  });

  it('of two that changed nothing takes the one of the newer ancestor', () => {
    const newer = file({ [walk]: 203 });
    expect(merge([base, newer], newer, base).file).toEqual(newer);
    expect(merge([base, newer], base, newer).file).toEqual(newer);
  });

  it('keeps what I took back after it was sent, whether it arrived or not', () => {
    const sent = file({ [walk]: 150 });
    expect(merge([base], base, sent, [sent])).toEqual({ file: base, conflicts: [] });
    expect(merge([base, sent], base, sent, [sent]).file).toEqual(base);
    expect(merge([base], file({ [walk]: 160 }), sent, [sent])).toEqual({ file: file({ [walk]: 160 }), conflicts: [] });
    // It never arrived, and somebody else entered another number.
    expect(merge([base], sent, file({ [walk]: 170 }), [sent]).conflicts).toEqual([walk]);
  });

  it('brings a default back that they have set', () => {
    const old = file({ [walk]: 150 });
    expect(merge([old], old, base)).toEqual({ file: base, conflicts: [] });
  });
});
