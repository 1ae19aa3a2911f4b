import { describe, expect, it } from 'vitest';
import { type Ground, groundWith } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { driveLaps } from '../pilot/laps.ts';
import { rerun } from '../replay/rerun.ts';
import { type Tape, type TapeEvent, tapeOf } from '../tape/tape.ts';
import { seeds } from '../testing/campaign.ts';
import { randomCourse } from '../testing/randomCourse.ts';
import { sequence } from '../testing/sequence.ts';
import { sound, tuningWith } from '../testing/soundTuning.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { alongCourse } from './along.ts';
import { type CoursePath, planCourse } from './coursePath.ts';
import { lapInTrace } from './lap.ts';
import { stretchesOf } from './stretches.ts';
import { type LapSide, numbersOn, whereTimeGoes } from './whereTimeGoes.ts';

function sideOf(name: string, parameters: Parameters, ground: Ground, tape: Tape, path: CoursePath): LapSide {
  const { trace } = rerun(tape, parameters, ground);
  return { name, trace, parameters, along: alongCourse(trace, ground, path) };
}

describe('the stretches of a course', () => {
  it('tile the path, and what happens on them adds up to the lap: laps of the pilot', () => {
    for (const seed of seeds(12, 600)) {
      const { parameters } = sound(seed, { 'bounds.policy': 'clamp' });
      const { width, height } = bodySize(parameters.body);
      const size = Math.max(width, height);
      const { ground, walls } = randomCourse(parameters, sequence(seed * 57), size, 0.6);
      const { tape, laps } = driveLaps(parameters, ground, {}, 1, walls);
      const path = planCourse(parameters, ground, walls);
      if (!laps[0]?.finished || path.blocked) continue;
      const stretches = stretchesOf(path, ground.course?.gates.length ?? 1, size);
      expect(stretches[0]?.from, `seed ${seed}`).toBe(0);
      expect(stretches.at(-1)?.to, `seed ${seed}`).toBe(path.length);
      for (const [i, { from, to }] of stretches.entries()) {
        expect(to, `seed ${seed}`).toBeGreaterThan(from);
        if (i > 0) expect(from, `seed ${seed}`).toBe(stretches[i - 1]?.to);
      }
      expect(new Set(stretches.map(({ name }) => name)).size, `seed ${seed}: ${stretches.map(({ name }) => name)}`).toBe(stretches.length);
      const side = sideOf('Own', parameters, ground, tape, path);
      const lap = lapInTrace(side.trace, ground, tape.events, tape.hz);
      const all = stretches.map((stretch) => numbersOn(side, stretch));
      const sum = (of: (one: (typeof all)[number]) => number) => all.reduce((total, one) => total + of(one), 0);
      expect(
        sum(({ time }) => time),
        `seed ${seed}`,
      ).toBeCloseTo(lap.time, 6);
      expect(sum(({ distance }) => distance) / lap.distance, `seed ${seed}`).toBeCloseTo(1, 6);
      expect(
        sum(({ contact }) => contact),
        `seed ${seed}`,
      ).toBeCloseTo(lap.contactTime, 6);
      expect(
        sum(({ touches }) => touches),
        `seed ${seed}`,
      ).toBe(lap.touches);
      expect(sum(({ sprint, time }) => sprint * time) / lap.time, `seed ${seed}`).toBeCloseTo(lap.sprint, 6);
    }
  });

  it('are named by gates and bends', () => {
    const gate = (x: number, y: number, dx: number, dy: number) => ({
      from: [x - dx, y - dy] as [number, number],
      to: [x + dx, y + dy] as [number, number],
    });
    const ground = groundWith({
      name: 'Corner',
      size: { width: 2000, height: 1000 },
      start: { x: 100, y: 500 },
      walls: [
        {
          points: [
            [600, 0],
            [620, 0],
            [620, 700],
            [600, 700],
          ],
          closed: true,
        },
      ],
      course: { gates: [gate(400, 500, 0, 100), gate(1400, 500, 0, 100), gate(1100, 560, 0, 50)], laps: 1 },
    });
    const { parameters } = tuningWith({ 'body.radius': 10 });
    const path = planCourse(parameters, ground, new WallIndex(bucketWalls(ground)));
    const names = stretchesOf(path, 3, 20).map(({ name }) => name);
    expect(names).toEqual([
      'straight to gate 1',
      'straight 1 of 2 to gate 2',
      'bend before gate 2',
      'straight 2 of 2 to gate 2',
      'gate 2, turning back',
      'straight to the finish',
    ]);
    const laps = stretchesOf({ ...path, gates: [path.gates[0] as number, ...path.gates.slice(1)] }, 1, 20);
    expect(laps.at(-1)?.name).toBe('straight to the finish, lap 3');
  });
});

const long = groundWith({
  name: 'Long',
  size: { width: 2000, height: 400 },
  start: { x: 100, y: 200 },
  course: { gates: [{ from: [1500, 0], to: [1500, 400] }], laps: 1 },
});
const walled: Ground = {
  ...long,
  walls: [
    {
      points: [
        [0, 220],
        [2000, 220],
        [2000, 240],
        [0, 240],
      ],
      closed: true,
    },
  ],
};

const tapeWith = (events: TapeEvent[]) => tapeOf({ name: 'Hands', hz: 60, ticks: 3000, events });
const straight = tapeWith([{ at: 0, press: 'right' }]);
const tuning = (values: Record<string, string | number | boolean> = {}) =>
  tuningWith({
    'body.radius': 10,
    'pace.walkSpeed': 140,
    'pace.sprintSpeed': 240,
    'ramp.model': 'instant',
    'stamina.enabled': false,
    ...values,
  }).parameters;

describe('where the time goes', () => {
  const compared = (first: [Parameters, Tape], other: [Parameters, Tape], ground = long) => {
    const path = planCourse(first[0], ground, new WallIndex(bucketWalls(ground)));
    const sides = [sideOf('one', ...([first[0], ground, first[1], path] as const)), sideOf('two', other[0], ground, other[1], path)];
    const [found] = whereTimeGoes(sides, path, ground);
    const [back] = whereTimeGoes(sides.toReversed(), path, ground);
    // Seen from the other side it is as much the other way round.
    expect(back?.seconds ?? 0).toBeCloseTo(-(found?.seconds ?? 0), 9);
    return found;
  };

  it('is a lower speed: as many seconds as distance over speeds gives', () => {
    const found = compared([tuning(), straight], [tuning({ 'pace.walkSpeed': 100 }), straight]);
    expect(found?.seconds).toBeCloseTo(1400 / 100 - 1400 / 140, 1);
    expect(found).toMatchObject({ side: 1, place: 'straight to the finish', cause: 'two reaches 100 px/s, one 140' });
  });

  it('is less sprint', () => {
    const sprinting = tapeWith([
      { at: 0, press: 'right' },
      { at: 0, press: 'sprint' },
    ]);
    const found = compared([tuning(), sprinting], [tuning(), straight]);
    expect(found?.seconds).toBeCloseTo(1400 / 140 - 1400 / 240, 1);
    expect(found?.cause).toBe('two sprints 0 % of the time, one 100 %');
  });

  it('is a rest on the course', () => {
    const rests = tapeWith([
      { at: 0, press: 'right' },
      { at: 120, release: 'right' },
      { at: 198, press: 'right' },
    ]);
    const found = compared([tuning(), straight], [tuning(), rests]);
    expect(found?.seconds).toBeCloseTo(1.3, 6);
    expect(found?.cause).toBe('two stands for 1.30 s, one not at all');
  });

  it('is a detour', () => {
    const detour = tapeWith([
      { at: 0, press: 'right' },
      { at: 60, press: 'up' },
      { at: 60, release: 'right' },
      { at: 120, press: 'right' },
      { at: 120, release: 'up' },
    ]);
    const found = compared([tuning(), straight], [tuning(), detour]);
    expect(found?.seconds).toBeCloseTo(1, 6);
    expect(found?.cause).toBe('two travels 1540 px, one 1400');
  });

  it('is a wall that is slid along', () => {
    const pushing = tapeWith([
      { at: 0, press: 'right' },
      { at: 0, press: 'down' },
    ]);
    const found = compared([tuning(), straight], [tuning(), pushing], walled);
    expect(found?.cause).toBe('two touches once, one never');
  });

  it('is nothing between equal laps, and no stretch that one of them did not reach', () => {
    expect(compared([tuning(), straight], [tuning(), straight])).toBeUndefined();
    const short = tapeOf({ name: 'Hands', hz: 60, ticks: 300, events: [{ at: 0, press: 'right' }] });
    expect(compared([tuning(), straight], [tuning({ 'pace.walkSpeed': 100 }), short])).toBeUndefined();
  });
});
