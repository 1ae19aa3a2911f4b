import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainGround } from '../../measure/scenes/plainGround.ts';
import { rerun } from '../../replay/rerun.ts';
import { readTape } from '../../tape/tape.ts';
import { campaign } from '../../testing/campaign.ts';
import { hiddenRecording, randomHands, recorded } from '../../testing/recordings.ts';
import { sequence } from '../../testing/sequence.ts';
import { newTuning, readTuning } from '../../tuning/tuning.ts';
import { ended } from '../ended.ts';
import { facingOf } from './facing.ts';
import { advance, type Mover, type State } from './mover.ts';
import { type Recording, readRecording } from './recording.ts';
import { fitRecording, type RecordingReport } from './report.ts';
import { together } from './together.ts';

/** The seeds of the suite’s share: a linear ramp, and a smooth one. */
const FIRST = [1, 7];

const fitted = (recording: Recording): RecordingReport | string => ended(fitRecording(recording, newTuning('Found')));
const mover: Mover = {
  model: 'linear',
  walk: 140,
  sprint: 245,
  accelerate: 900,
  decelerate: 1200,
  brake: 1800,
  ease: 700,
  halfLife: 0.05,
  tick: 1e-9,
};

describe('the mover', () => {
  it('has the closed forms: v²/2a to a speed, v²/2d to rest, t + v/a round, in steps of any length', () => {
    const step = fc.double({ min: 0.001, max: 0.05, noNaN: true });
    fc.assert(
      fc.property(step, fc.double({ min: 50, max: 400, noNaN: true }), (dt, speed) => {
        const run = (state: State, aim: number, seconds: number) => {
          for (let left = seconds; left > 0; left -= dt) advance(state, aim, 0, mover, Math.min(dt, left));
          return state;
        };
        const [x, , vx] = run([0, 0, 0, 0, 0], speed, 1);
        expect(vx).toBeCloseTo(speed, 6);
        expect(x).toBeCloseTo(speed - speed ** 2 / (2 * mover.accelerate), 6);
        expect(run([0, 0, speed, 0, 0], 0, 1)[0]).toBeCloseTo(speed ** 2 / (2 * mover.decelerate), 6);
        const back = run([0, 0, speed, 0, 0], -speed, 1);
        const moving = 1 - speed / mover.brake - speed / mover.accelerate;
        expect(back[0]).toBeCloseTo(speed ** 2 / (2 * mover.brake) - speed ** 2 / (2 * mover.accelerate) - speed * moving, 4);
        const smooth: State = [0, 0, 0, 0, 0];
        for (let left = 0.05; left > 0; left -= dt) advance(smooth, speed, 0, { ...mover, model: 'smooth' }, Math.min(dt, left));
        expect(smooth[2]).toBeCloseTo(speed / 2, 6);
      }),
      { numRuns: 60 },
    );
  });
});

describe('a recording from outside', () => {
  const rows = Array.from({ length: 40 }, (_, i) => [i / 50, 3.25 * i, 7 - 1.5 * i] as const);
  const written = (delimiter: string, head: string[] | null, cell: (value: number) => string, order = [0, 1, 2]) =>
    [
      ...(head ? [order.map((k) => head[k]).join(delimiter)] : []),
      ...rows.map((row) => order.map((k) => cell(row[k] as number)).join(delimiter)),
    ].join('\r\n');
  const places = (text: string, options = {}) => {
    const read = readRecording(text, options);
    if (typeof read === 'string') throw new Error(read);
    return read;
  };

  it('is the same in every dialect, order of columns and unit', () => {
    const plain = places(written(',', ['time', 'x', 'y'], String));
    expect([...plain.times, ...plain.x, ...plain.y]).toEqual([
      ...rows.map(([t]) => t),
      ...rows.map(([, x]) => x),
      ...rows.map(([, , y]) => y),
    ]);
    const same = [
      written(';', ['Time (s)', 'Pos.X', 'Pos.Y'], (value) => String(value).replace('.', ',')),
      written('\t', ['elapsed', 'position_x', 'position_y'], String, [2, 0, 1]),
      written('|', ['t', 'PX', 'PY'], (value) => ` ${value} `),
      written(',', null, String),
      `﻿${written(',', ['time', 'x', 'y'], String)}\n`,
      rows.map(([time, x, y]) => JSON.stringify({ y, time, x, other: 'word' })).join('\n'),
      JSON.stringify(rows.map(([time, x, y]) => ({ time, x, y }))),
    ];
    for (const text of same) expect({ ...places(text), notes: [] }).toEqual({ ...plain, notes: [] });
    const ms = places(written(',', ['ms', 'x', 'y'], String).replace(/^([\d.]+),/gm, (_, time) => `${Number(time) * 1000},`));
    for (const [i, time] of ms.times.entries()) expect(time).toBeCloseTo(plain.times[i] as number, 9);
    const tiles = places(written(',', ['time', 'x', 'y'], String), { scale: 32, isYUp: true });
    expect([tiles.x[2], tiles.y[2]]).toEqual([2 * 3.25 * 32, -4 * 32]);
    const depth = places(['time,x,y,z', ...rows.map(([t, x, y]) => `${t},${x},0,${y}`)].join('\n'));
    expect(depth.y).toEqual(plain.y);
    expect(places(['tick,x,y', ...rows.map(([, x, y], i) => `${i},${x},${y}`)].join('\n')).times[30]).toBe(0.5);
  });

  it('is refused with its row or column where it can’t be used, and says what it left out', () => {
    const refused = (text: string) => {
      const read = readRecording(text);
      expect(typeof read).toBe('string');
      return read as string;
    };
    const lines = written(',', ['time', 'x', 'y'], String).split('\r\n');
    expect(refused('time,x,y\n0,1,2\n1,2,3')).toMatch(/found 2 rows/);
    expect(refused(lines.toSpliced(10, 0, '0,1,1').join('\n'))).toMatch(/row 10: found a time before/);
    expect(refused(lines.map((line, i) => (i === 0 ? line : line.replace(/,[^,]*$/, ',north'))).join('\n'))).toMatch(/without a number/);
    expect(refused(lines.join('\n').replace('x', 'depth'))).toMatch(/expected x and y/);
    expect(refused(lines.join('\n').replace('time', 'moment'))).toMatch(/expected time or tick/);
    expect(refused('')).toMatch(/found nothing/);
    expect(refused('just words')).toMatch(/found one column/);
    expect(refused('{"time":1,"x":2,"y":3}\n{"time":')).toMatch(/line 2/);
    expect(places(lines.toSpliced(10, 1, '0.18,,').join('\n')).notes).toEqual(['1 rows without numbers were left out']);
    const long = (hz: number, seconds: number) =>
      places(['time,x,y', ...Array.from({ length: hz * seconds }, (_, i) => `${i / hz},${i},0`)].join('\n'));
    expect(long(1000, 20)).toMatchObject({ notes: ['one of every 7 rows was used, of 20000'] });
    const minutes = long(60, 200);
    expect([minutes.times.length, minutes.notes]).toEqual([3000, ['the first 50 s were used']]);
    expect(places(lines.toSpliced(10, 0, lines[9] as string).join('\n')).notes).toEqual([
      '1 rows with the time of the row above were left out',
    ]);
  });
});

describe('a fit to a recording', () => {
  it.each([
    ['keys', FIRST],
    ['stick', [6]],
  ] as const)('finds speeds, the ramp and its rates of hidden tunings from places with noise, within its ranges: %s', (device, first) => {
    let [models, inside, ranges] = [0, 0, 0];
    const off: Record<'speed' | 'rate', number[]> = { speed: [], rate: [] };
    const tried = campaign(first.length, 150);
    for (let i = 0; i < tried; i++) {
      const seed = tried === first.length ? (first[i] as number) : i + 1;
      const { parameters, recording } = hiddenRecording(seed, device);
      const report = fitted(recording);
      if (typeof report === 'string') continue;
      expect(readTuning(JSON.parse(JSON.stringify(report.tuning))).ok).toBe(true);
      const { pace, ramp } = parameters;
      const isRight = report.set['ramp.model'] === ramp.model;
      models += Number(isRight);
      const speeds = { 'pace.walkSpeed': pace.walkSpeed, 'pace.sprintSpeed': pace.sprintSpeed };
      const rates = { 'ramp.accelerate': ramp.accelerate, 'ramp.decelerate': ramp.decelerate, 'ramp.halfLife': ramp.halfLife };
      for (const [path, value] of Object.entries({ ...speeds, ...(isRight ? rates : {}) })) {
        const range = report.held[path];
        if (!range) continue;
        off[path in speeds ? 'speed' : 'rate'].push(Math.abs((report.set[path] as number) / value - 1));
        ranges++;
        inside += Number(range.low <= value && value <= range.high);
      }
    }
    const at = (values: number[], share: number) => values.toSorted((a, b) => a - b)[Math.floor(share * (values.length - 1))] as number;
    const figures = `models ${models} of ${tried}, ranges ${inside} of ${ranges}, speeds ${at(off.speed, 0.5)} and ${at(off.speed, 0.9)}, rates ${at(off.rate, 0.5)} and ${at(off.rate, 0.9)}`;
    expect(models / tried, figures).toBeGreaterThanOrEqual(0.9);
    expect(inside / ranges, figures).toBeGreaterThanOrEqual(0.85);
    expect(at(off.speed, 0.5), figures).toBeLessThan(0.005);
    expect(at(off.rate, 0.5), figures).toBeLessThan(0.03);
    expect(at(off.rate, 0.9), figures).toBeLessThan(0.15);
    if (tried > first.length) console.info(figures);
  });

  it('takes other implementations for the nearest model: lerp each frame, and friction on the velocity', () => {
    const [dt, walk] = [1 / 60, 130];
    for (const friction of [false, true]) {
      const next = sequence(friction ? 5 : 6);
      const wishes = randomHands(next, 8).map((wish) => ({ ...wish, isSprint: false }));
      const rows: [number, number, number][] = [];
      let [x, y, vx, vy, now] = [0, 0, 0, 0, 0];
      for (let frame = 0; frame < 480; frame++) {
        while (wishes[now + 1] && (wishes[now + 1] as (typeof wishes)[0]).time <= frame * dt) now++;
        const { held = [] } = frame * dt >= (wishes[0]?.time ?? 0) ? (wishes[now] ?? {}) : {};
        const axis = (more: string, less: string) =>
          Number((held as readonly string[]).includes(more)) - Number((held as readonly string[]).includes(less));
        const [dx, dy] = [axis('right', 'left'), axis('down', 'up')];
        const length = Math.hypot(dx, dy) || 1;
        if (friction) {
          vx = (vx + (walk * 8 * dt * dx) / length) * (1 - 8 * dt);
          vy = (vy + (walk * 8 * dt * dy) / length) * (1 - 8 * dt);
        } else {
          vx += ((walk * dx) / length - vx) * 0.2;
          vy += ((walk * dy) / length - vy) * 0.2;
        }
        [x, y] = [x + vx * dt, y + vy * dt];
        rows.push([frame * dt, x, y]);
      }
      const report = fitted(recorded(rows, 60, 0.3, next));
      if (typeof report === 'string') throw new Error(report);
      expect(report.set['ramp.model']).toBe('smooth');
      const kept = friction ? 1 - 8 * dt : 0.8;
      const speed = friction ? (walk * 8 * dt * kept) / (1 - kept) : walk;
      expect((report.set['pace.walkSpeed'] as number) / speed).toBeCloseTo(1, 1.5);
      expect((report.set['ramp.halfLife'] as number) / ((-dt * Math.LN2) / Math.log(kept))).toBeCloseTo(1, 0.8);
    }
  });

  it('can’t tell where nothing moves, or noise is all there is', () => {
    const next = sequence(3);
    const times = Float64Array.from({ length: 400 }, (_, i) => i / 60);
    const still = { times, x: times.map(() => 5), y: times.map(() => 7), facing: null, notes: [] };
    const noise = { ...still, x: times.map(() => next() * 3), y: times.map(() => next() * 3) };
    for (const recording of [still, noise]) expect(fitted(recording)).toMatch(/^found no motion/);
  });

  it('gives the hands as a tape that drives the found tuning along the recorded path', () => {
    const { recording } = hiddenRecording(7);
    const report = fitted(recording);
    if (typeof report === 'string') throw new Error(report);
    const tape = readTape(report.tape);
    const tuning = readTuning(report.tuning);
    if (!tape.ok || !tuning.ok) throw new Error('not valid');
    const { x, y, times } = recording;
    const ground = plainGround({ start: { x: x[0] as number, y: y[0] as number, facing: 0 } });
    const { trace } = rerun(tape.value, tuning.value.parameters, ground);
    let travelled = 0;
    let most = 0;
    for (let row = 1; row < times.length; row++) {
      travelled += Math.hypot((x[row] as number) - (x[row - 1] as number), (y[row] as number) - (y[row - 1] as number));
      const tick = Math.min(trace.end - 1, Math.round(((times[row] as number) - (times[0] as number)) * tape.value.hz) - 1);
      most = Math.max(most, Math.hypot(trace.at('x', tick) - (x[row] as number), trace.at('y', tick) - (y[row] as number)));
    }
    expect(most / travelled).toBeLessThan(0.02);
  });

  it('joins several takes: each number weighed by its ranges, walk and sprint from takes with one speed each', () => {
    const take = (speed: number, low: number, high: number) => ({
      set: { 'pace.walkSpeed': speed, 'ramp.model': 'linear' },
      held: { 'pace.walkSpeed': { low, high, evidence: 'cruise' } },
      unknown: ['pace.sprintSpeed', 'ramp.brake'],
    });
    const both = together([take(240, 239, 241), take(140, 139, 141)]);
    expect(both.set).toMatchObject({ 'pace.walkSpeed': 140, 'pace.sprintSpeed': 240, 'ramp.model': 'linear' });
    expect(both.unknown).toEqual(['ramp.brake']);
    // A range half as wide counts four times as much, and both together are narrower than either.
    const [low, high] = [140 * Math.exp(-0.02), 140 * Math.exp(0.02)];
    const one = together([take(140, low, high), take(145, 145 * Math.exp(-0.01), 145 * Math.exp(0.01))]);
    expect(Math.log((one.set['pace.walkSpeed'] as number) / 140) / Math.log(145 / 140)).toBeCloseTo(0.8, 2);
    const range = one.held['pace.walkSpeed'] as { low: number; high: number };
    expect(Math.log(range.high / range.low)).toBeCloseTo(0.04 / Math.sqrt(5), 3);
  });

  it('reads how the facing turns: its directions, a steady rate, or a half-life', () => {
    const times = Float64Array.from({ length: 240 }, (_, i) => i / 60);
    const quarter = Math.PI / 2;
    const steps = (angle: (time: number) => number) => ({ times, x: times, y: times, facing: times.map(angle), notes: [] });
    const square = (time: number) => (Math.floor(time) % 2) * quarter;
    expect(facingOf(steps(square))).toMatchObject({ directions: '4', turn: 'instant' });
    const rate = facingOf(steps((time) => Math.min(1, (time % 2) * 4) * quarter));
    expect(rate).toMatchObject({ turn: 'rate', rate: expect.closeTo(360, 0) });
    const smooth = facingOf(steps((time) => quarter * (1 - 2 ** (-(time % 2) / 0.1))));
    expect(smooth?.turn).toBe('smooth');
    expect(smooth?.halfLife).toBeCloseTo(0.1, 2);
    expect(facingOf({ ...steps(square), facing: null })).toBeNull();
  });
});
