import {
  bucketWalls,
  driveLaps,
  type Ground,
  groundWith,
  newTuning,
  type PilotOptions,
  planCourse,
  resolveTuning,
  type Tuning,
  type TuningFile,
  WallIndex,
  withValue,
} from '@zygopod/core';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { Opening } from '../../../server/data/openings.ts';
import { fakeServer, fakeStorage } from '../../../testing/fakeServer.ts';
import { changeLaps, groundMark } from '../../laps/lapStore.ts';
import { usualPilot } from '../../work/comparison.ts';
import { Comparing } from '../comparing.ts';
import type { LapsDesk } from './lapHands.ts';
import { behindAt, signed } from './lapLanes.ts';

/** Calls of the worker that aren't answered yet: each drives or plans when it is answered. */
let waiting: { answer(): void }[] = [];

const api = {
  drive(...[parameters, on, options]: Parameters<typeof driveLaps>) {
    if (options?.device === 'cells') return { why: 'no cells' };
    const { laps, tape } = driveLaps(parameters, on, options);
    return { lap: laps[0], tape, spread: null };
  },
  plan: (parameters: Tuning['parameters'], on: Ground) => planCourse(parameters, on, new WallIndex(bucketWalls(on))),
};
const desk = {
  call: (work: (remote: never) => Promise<never>) => new Promise<never>((give) => waiting.push({ answer: () => give(work(api as never)) })),
} as LapsDesk;

const named = (name: string, walk: number): TuningFile =>
  withValue(withValue(newTuning(name), 'pace.walkSpeed', walk), 'pace.sprintSpeed', walk * 1.5);
const gate = (x: number, y0 = 20, y1 = 160) => ({ from: [x, y0] as [number, number], to: [x, y1] as [number, number] });
const ground = groundWith({
  name: 'Straight',
  size: { width: 900, height: 200 },
  start: { x: 60, y: 90 },
  course: { gates: [gate(300), gate(700)], laps: 1 },
});
const opening: Opening = {
  tuning: { id: 'own', head: 1, saved: named('Own', 100), draft: null },
  ground: { id: 'ground', head: 1, saved: ground, draft: null },
  tape: null,
  project: { id: 'project', name: 'Game' },
};
const files: Record<string, TuningFile> = { own: named('Own', 100), fast: named('Fast', 180), slow: named('Slow', 70) };

beforeEach(() => {
  fakeStorage();
  waiting = [];
  fakeServer(({ path }) => {
    const [, collection, id = ''] = path.split('/');
    return { body: collection === 'tunings' && files[id] ? { file: files[id], head: 1, number: 1 } : { items: [] } };
  });
});
afterEach(() => vi.unstubAllGlobals());

const settle = async () => {
  for (let i = 0; i < 30; i++) await Promise.resolve();
};
/** Answers what is waiting, the newest or the oldest first, until nothing is. */
async function answerAll(comparing: Comparing, newest = false): Promise<void> {
  await settle();
  for (let one = newest ? waiting.pop() : waiting.shift(); one; one = newest ? waiting.pop() : waiting.shift()) {
    one.answer();
    await settle();
    // Planning begins when the laps are read.
    void comparing.length;
    await settle();
  }
  comparing.advance(0);
}

async function compared(...ids: string[]): Promise<Comparing> {
  const comparing = new Comparing(opening, desk);
  await comparing.open('');
  for (const id of ids) await comparing.add({ id, revision: null, rate: null });
  return comparing;
}

const times = (comparing: Comparing) => comparing.$sides.get().map((side) => comparing.laps.lapOf(side)?.lap.time);
/** The time of the pilot's lap, driven in place. */
const driven = (id: string, options: Partial<PilotOptions> = {}) => driveLaps(parametersOf(id), ground, options).laps[0]?.time;
function parametersOf(id: string): Tuning['parameters'] {
  const read = resolveTuning(files[id] as TuningFile);
  if (!read.ok) throw new Error('not valid');
  return read.value.parameters;
}

it('each side has its own lap of the pilot, whichever comes first, and other options drive all of them again', async () => {
  for (const newest of [false, true]) {
    const comparing = await compared('fast', 'slow');
    comparing.driveBy('pilot');
    expect(times(comparing)).toEqual([undefined, undefined, undefined]);
    await answerAll(comparing, newest);
    expect(times(comparing)).toEqual(['own', 'fast', 'slow'].map((id) => driven(id)));
    expect(comparing.length).toBe(driven('slow'));
    comparing.choosePilot({ ...usualPilot, sprint: 'never', reaction: 0.4 });
    expect(times(comparing)).toEqual([undefined, undefined, undefined]);
    await answerAll(comparing, newest);
    expect(times(comparing)).toEqual(['own', 'fast', 'slow'].map((id) => driven(id, { sprint: 'never', reaction: 0.4 })));
    // Options that were driven already are known.
    comparing.choosePilot(usualPilot);
    expect(waiting).toHaveLength(0);
    expect(times(comparing)).toEqual(['own', 'fast', 'slow'].map((id) => driven(id)));
    comparing.driveBy('tape');
    expect([comparing.laps.path, comparing.axis.isDistance, times(comparing)]).toEqual([null, false, [undefined, undefined, undefined]]);
  }
});

it('a lap that comes drives its own side only, and leaves what is muted', async () => {
  const comparing = await compared('fast', 'slow');
  comparing.driveBy('pilot');
  await settle();
  comparing.mute(2);
  const before = comparing.$sides.get();
  // The laps were asked for one after the other; the path comes last.
  (waiting.find((_, i) => i === 1) as (typeof waiting)[number]).answer();
  await settle();
  const after = comparing.$sides.get();
  expect(after.map((side, i) => side === before[i])).toEqual([true, false, true]);
  expect(after[1]?.again.ticks).toBeGreaterThan(60);
  expect([...comparing.$muted.get()]).toEqual([2]);
});

it('the strip goes along the course of the first side, and other sides are behind it by their splits', async () => {
  const comparing = await compared('slow');
  comparing.driveBy('pilot');
  await answerAll(comparing);
  const [first, other] = comparing.$sides.get().map((side) => comparing.laps.lapOf(side));
  if (!first || !other) throw new Error('no laps');
  const path = planCourse(parametersOf('own'), ground, new WallIndex(bucketWalls(ground)));
  expect(comparing.axis).toMatchObject({ isDistance: true, length: path.length });
  for (const [i, at] of path.gates.entries())
    expect(behindAt(first.along, other.along, at)).toBeCloseTo((other.lap.gates[i] ?? 0) - (first.lap.gates[i] ?? 0), 9);
  for (const place of [10, 200, 500]) expect(comparing.axis.placeAt(comparing.axis.timeAt(place))).toBeCloseTo(place, 6);
  comparing.swap();
  await answerAll(comparing);
  expect(comparing.axis.timeAt(path.length)).toBeCloseTo(other.lap.time, 6);
});

it('a device that does not suit a tuning, and a lap that is not finished, say why', async () => {
  const comparing = await compared();
  comparing.driveBy('pilot');
  comparing.choosePilot({ ...usualPilot, device: 'cells' });
  await answerAll(comparing);
  expect(comparing.$sides.get()[0]?.hands).toEqual({ tape: null, why: 'no cells' });
  expect([comparing.length, comparing.axis.length > 0]).toEqual([0, true]);
});

it('by hand, a side has the best of the laps that were driven with just its numbers, on the ground as it is', async () => {
  const { laps, tape } = driveLaps(parametersOf('own'), ground, {});
  const slower = driveLaps(parametersOf('own'), ground, { sprint: 'never' });
  const lap = (id: string, file: TuningFile, driven: typeof slower, more = {}) => ({
    id,
    at: 1,
    lap: driven.laps[0] as never,
    began: 0,
    tape: driven.tape,
    tuning: { id: 'own', revision: 1, isDraft: false, file },
    ground: groundMark(ground),
    isChanged: false,
    ...more,
  });
  const renamed = Object.fromEntries(
    Object.entries({ ...files['own'], name: 'Another name', pace: { sprintSpeed: 150, walkSpeed: 100 } }).toReversed(),
  ) as TuningFile;
  expect(renamed.pace).toEqual(files['own']?.pace);
  const best = { laps, tape, spread: {} };
  changeLaps('ground', () => [
    lap('slower', renamed, slower),
    lap('other numbers', files['fast'] as TuningFile, best),
    lap('changed', renamed, best, { isChanged: true }),
    lap('elsewhere', renamed, best, { ground: groundMark({ ...ground, walls: [], course: undefined } as never) }),
  ]);
  const comparing = await compared('slow');
  comparing.driveBy('hand');
  await answerAll(comparing);
  expect(times(comparing)).toEqual([slower.laps[0]?.time, undefined]);
  expect(comparing.$sides.get()[1]?.hands).toEqual({ tape: null, why: 'no lap by hand with these numbers' });
  expect(groundMark({ ...ground, name: 'Renamed' })).toBe(groundMark(ground));
});

it('seconds have a sign of their own', () => {
  expect([0.3149, -0.08, 0.001, -0.001].map(signed)).toEqual(['+0.31 s', '−0.08 s', '±0.00 s', '±0.00 s']);
});
