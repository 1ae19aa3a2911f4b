import { drills, newTuning, readTuning, runDrills, type Snag, type Trace } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { snagMarks } from './drawSnags.ts';

const snag = (values: Partial<Snag>): Snag => ({ id: 'stuck', severity: 'fault', evidence: '', ...values });
const view = { scale: 2, x: 10, y: 20 };

describe('marks of snags on the yard', () => {
  it('lie at their places', () => {
    expect(snagMarks([snag({ place: { x: 60, y: 70 } })], null, view)).toEqual([{ x: 100, y: 100, severity: 'fault', name: 'Gets stuck' }]);
  });

  it('are where the body was at the moment, and none where there is neither place nor trace', () => {
    expect(snagMarks([snag({}), snag({ time: 1 })], null, view)).toEqual([]);
    const read = readTuning(newTuning('Any'));
    if (!read.ok) throw new Error('no tuning');
    const [result] = runDrills(read.value.parameters, { drills: drills.filter(({ name }) => name === 'standing-start') });
    const trace = result?.runs[0]?.trace as Trace;
    const [mark] = snagMarks([snag({ time: 0.4 })], trace, view);
    const row = trace.rowAt(0.4);
    expect(mark?.x).toBeCloseTo((trace.at('x', row) - view.x) * view.scale, 9);
    // A moment beyond the end is the last one.
    const [last] = snagMarks([snag({ time: 1e9 })], trace, view);
    expect(last?.x).toBeCloseTo((trace.at('x', trace.end - 1) - view.x) * view.scale, 9);
  });

  it('stand for what lies close by: the worst one', () => {
    const marks = snagMarks(
      [
        snag({ id: 'gap-tight', severity: 'risk', place: { x: 60, y: 70 } }),
        snag({ id: 'gap-too-narrow', severity: 'fault', place: { x: 63, y: 70 } }),
        snag({ id: 'gap-tight', severity: 'risk', place: { x: 90, y: 70 } }),
      ],
      null,
      view,
    );
    expect(marks.map(({ name, severity }) => [name, severity])).toEqual([
      ['A gap is too narrow', 'fault'],
      ['A gap is tight', 'risk'],
    ]);
  });
});
