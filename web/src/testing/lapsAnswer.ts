import { driveLaps, groundWith, lapInTrace, readTape, readTuning, rerun, type Tape } from '@zygopod/core';
import { expect, it } from 'vitest';
import type { Described } from './described.ts';

const course = {
  gates: [
    { from: [300, 40], to: [300, 340] },
    { from: [500, 340], to: [560, 220] },
    { from: [120, 60], to: [120, 330] },
  ] as { from: [number, number]; to: [number, number] }[],
  laps: 1,
};

/** Tests that laps are answered as they are described, and as the same core drives them here. */
export function lapsAnswer(described: Described, tuning: object): void {
  const ask = described.ask.bind(described);
  const open = {
    name: 'Lap ground',
    size: { width: 640, height: 384 },
    start: { x: 80, y: 190 },
    walls: [
      {
        points: [
          [380, 120],
          [420, 120],
          [420, 260],
          [380, 260],
        ] as [number, number][],
        closed: true,
        solid: true,
      },
    ],
  };
  const ground = groundWith({ ...open, course });

  it('is what laps are answered by: the pilot’s, with a tape that drives them again', async () => {
    const read = readTuning(tuning);
    if (!read.ok) throw new Error('no tuning');
    const { parameters } = read.value;
    for (const options of [
      {},
      { device: 'keys4' },
      { device: 'stick', reaction: 0.35, sprint: 'always' },
      { jitter: 0.4, seed: 7, laps: 3 },
    ]) {
      const { value } = await ask('POST', '/laps', {}, 200, { body: { tuning, ground, ...options } });
      const { laps: count = 1, ...rest } = options as { laps?: number };
      const own = driveLaps(parameters, ground, rest, count);
      const { tape, laps, spread, ...lap } = value;
      expect(lap).toEqual(own.laps[0]);
      expect(laps ?? [lap]).toEqual(own.laps);
      expect(spread ?? own.spread).toEqual(own.spread);
      const again = readTape(tape);
      expect(again.ok).toBe(true);
      const kept = tape as Tape;
      expect(lapInTrace(rerun(kept, parameters, ground).trace, ground, kept.events, kept.hz).time).toBe(lap['time']);
    }
  });

  it('says why a lap isn’t finished, and which body can’t be driven', async () => {
    const none = await ask('POST', '/laps', {}, 200, { body: { tuning, ground: groundWith(open) } });
    expect(none.value).toMatchObject({ finished: false, why: 'the ground has no course' });
    const inWall = { ...course, gates: [{ from: [390, 150], to: [390, 200] }] };
    const blocked = await ask('POST', '/laps', {}, 200, { body: { tuning, ground: { ...ground, course: inWall } } });
    expect(blocked.value).toMatchObject({ finished: false, why: expect.stringMatching(/^gate 1: /) });
    await ask('POST', '/laps', {}, 422, { body: { tuning, ground, device: 'cells' } });
    await ask('POST', '/laps', {}, 422, { body: { tuning, ground: { ...ground, course: { gates: [] } } } });
    await ask('POST', '/laps', {}, 422, { body: { tuning: { ...tuning, pace: { walkSpeed: 'fast' } }, ground } });
    for (const wrong of [{ laps: 0 }, { laps: 201 }, { jitter: 2 }, { device: 'wheel' }, { reaction: -1 }, { surprise: 1 }])
      await ask('POST', '/laps', {}, 422, { body: { tuning, ground, ...wrong } });
  });
}
