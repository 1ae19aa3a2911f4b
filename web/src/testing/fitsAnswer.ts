import { ended, fitRecording, fitTargets, newTuning, readRecording, readTuning } from '@zygopod/core';
import { expect, it } from 'vitest';
import { hiddenRecording } from '../../../core/src/testing/recordings.ts';
import type { Described } from './described.ts';

/** Tests that fits are answered as they are described, and as the core finds them here. */
export function fitsAnswer(described: Described, tuning: object): void {
  const ask = described.ask.bind(described);
  const targets = [{ metric: 'stopDistance', max: 5 }];

  it('is what fits are answered by: the core’s report', async () => {
    const read = readTuning(tuning);
    if (!read.ok) throw new Error('no tuning');
    const moves = [{ path: 'ramp.decelerate', min: 100, max: 20_000 }];
    for (const body of [
      { targets, moves },
      { targets: [...targets, { metric: 'stopTime', min: 2 }], moves },
    ]) {
      const { value } = await ask('POST', '/fits', {}, 200, { body: { tuning, ...body } });
      const report = ended(fitTargets({ tuning: read.value, ground: null, ...body }));
      expect(value).toEqual(JSON.parse(JSON.stringify(report)));
    }
  });

  it('is not fitted where it can’t be: 422, with why', async () => {
    const refused = async (body: object) => (await ask('POST', '/fits', {}, 422, { body: { tuning, targets, ...body } })).value;
    expect(await refused({ moves: [{ path: 'pace.speed' }] })).toMatchObject({ title: expect.stringContaining('no such parameter') });
    expect(await refused({ targets: [{ metric: 'lapTime', max: 9 }] })).toMatchObject({ title: expect.stringContaining('needs a ground') });
    await refused({ targets: [] });
    await refused({ targets: [{ metric: 'stopTime', min: 3, max: 2 }] });
    await refused({ tuning: { ...tuning, pace: { walkSpeed: 'fast' } } });
    await refused({ ground: { format: 'zygopod/ground' } });
    await refused({ surprise: 1 });
  });

  it('is what recordings are answered by: the core’s report', async () => {
    const { recording } = hiddenRecording(7);
    const { x, y } = recording;
    // Four seconds: while this is computed here, too, the server closes idle connections.
    const times = recording.times.filter((time) => time < 4);
    const text = ['time;x;y', ...[...times].map((time, i) => `${time};${(x[i] as number) / 32};${-(y[i] as number) / 32}`)].join('\n');
    const refused = async (body: object) => (await ask('POST', '/fits/recordings', {}, 422, { body })).value;
    expect(await refused({ text: 'time,x,y\n0,1,2' })).toMatchObject({ title: expect.stringContaining('found 1 rows') });
    await refused({ text: '', scale: 1 });
    await refused({ text, scale: -1 });
    await refused({ text, start: { format: 'zygopod/tuning' } });
    const { value } = await ask('POST', '/fits/recordings', {}, 200, { body: { text, scale: 32, yUp: true } });
    const read = readRecording(text, { scale: 32, isYUp: true });
    if (typeof read === 'string') throw new Error(read);
    const report = ended(fitRecording(read, newTuning('From a recording')));
    if (typeof report === 'string') throw new Error(report);
    // The motion is for the page only.
    const { motion: _motion, ...shared } = report;
    expect(value).toEqual(JSON.parse(JSON.stringify(shared)));
    await new Promise(setImmediate);
  });
}
