import {
  firstTuning,
  GameDrive,
  newGround,
  numberAt,
  readRecording,
  resolveTuning,
  type TuningFile,
  valueAt,
  withValue,
} from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { seeds } from '../../../../core/src/testing/campaign.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { relinked } from '../fields/model.ts';
import { Canon, tuningsInForce } from './inForce.ts';
import { Late } from './late.ts';
import { exchangeWith, isSame, matchGame } from './matching.ts';
import { handsAt } from './replaying.ts';
import { Sender } from './sender.ts';
import { traceCsv } from './traceCsv.ts';

const ground = { unit: 'px' as const, cell: 32 };

describe('numbers of a game', () => {
  const numbers = [
    { name: 'walk_speed', value: 140 },
    { name: 'accel', value: 900, path: 'ramp.accelerate' },
    { name: 'jump_height', value: 48 },
    { name: 'stamina_drain', value: 20 },
    { name: 'q', value: 3 },
    { name: 'instant_stop', value: true },
  ];

  it('are matched by their paths, by their names, and by hand, each parameter once', () => {
    const paths = (chosen: Record<string, string | null>, of = numbers) =>
      Object.fromEntries(matchGame(of, chosen).matched.map(({ name, path }) => [name, path]));
    expect(paths({})).toEqual({ walk_speed: 'pace.walkSpeed', accel: 'ramp.accelerate', stamina_drain: 'stamina.drain' });
    expect(paths({ q: 'pace.walkSpeed', accel: null })).toEqual({ q: 'pace.walkSpeed', stamina_drain: 'stamina.drain' });
    // A path that isn't one, or of another kind, counts as none.
    expect(paths({}, [{ name: 'x', value: 1, path: 'nothing.here' }])).toEqual({});
    expect(paths({}, [{ name: 'x', value: 1, path: 'stamina.enabled' }])).toEqual({});
    const { matched, others } = matchGame(numbers, {});
    expect(matched.length + others.length).toBe(numbers.length);
  });

  it('go to the game and back unchanged, in any unit', () => {
    const next = sequence(5);
    for (const unit of ['px', 'm', 'tiles'] as const)
      for (const on of [ground, { unit: 'm' as const, cell: 1 }])
        for (const path of ['pace.walkSpeed', 'ramp.accelerate', 'stamina.regainDelay', 'facing.rate', 'stamina.spentFactor']) {
          const exchange = exchangeWith({ unit }, on, 32);
          const value = next() * 500;
          expect(exchange.fromGame(path, exchange.toGame(path, value))).toBe(value);
        }
    expect(exchangeWith({ unit: 'tiles' }, ground, 32).toGame('pace.walkSpeed', 64)).toBe(2);
    expect(exchangeWith({ unit: 'm' }, ground, 32).fromGame('ramp.accelerate', 10)).toBe(320);
    expect(exchangeWith({ unit: 'm' }, ground, 32).toGame('stamina.enabled', true)).toBe(true);
    expect([isSame(140, Math.fround(140.1) - 0.1), isSame(1, 1.001), isSame(true, true), isSame('a', 'b')]).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });
});

describe('the tunings that a model is driven with', () => {
  const file: TuningFile = withValue(firstTuning('Boots', 'px'), 'pace.walkSpeed', 150);
  const exchange = exchangeWith({ unit: 'px' }, ground, 32);
  const read = resolveTuning(file);
  if (!read.ok) throw new Error('no tuning');
  const ours = (path: string) => valueAt(read.value.parameters, path) as number;
  const canon = new Canon();
  const inForce = (walk: number, friction: number, sets: { tick: number; values: Record<string, number> }[], pending: string[] = []) =>
    tuningsInForce(
      file,
      { sets },
      [
        { name: 'walk', path: 'pace.walkSpeed', value: walk },
        { name: 'friction', path: 'ramp.decelerate', value: friction },
      ],
      exchange,
      ours,
      (name) => pending.includes(name),
      canon,
    ).map(({ from, parameters }) => [
      from,
      numberAt(parameters, 'pace.walkSpeed'),
      numberAt(parameters, 'ramp.decelerate'),
      numberAt(parameters, 'pace.restoredSpeed'),
    ]);
  const decelerate = ours('ramp.decelerate');

  it('take a number that is the same now as the game had it, with what is linked to it; another stays ours throughout', () => {
    const sets: { tick: number; values: Record<string, number> }[] = [
      { tick: 0, values: { walk: 140, friction: 500 } },
      { tick: 60, values: { walk: 145 } },
      { tick: 90, values: { walk: 150 } },
    ];
    expect(inForce(150, 500, sets)).toEqual([
      [0, 140, decelerate, 140],
      [60, 145, decelerate, 145],
      [90, 150, decelerate, 150],
    ]);
    expect(inForce(145, 500, sets.slice(0, 2))).toEqual([[0, 150, decelerate, 150]]);
    // What is under way to the game counts as the same already.
    expect(inForce(145, 500, sets.slice(0, 2), ['walk'])).toEqual([
      [0, 140, decelerate, 140],
      [60, 145, decelerate, 145],
    ]);
    expect(inForce(150, 500, [])).toEqual([[0, 150, decelerate, 150]]);
  });

  it('are the same objects as long as they are the same', () => {
    const sets = [{ tick: 0, values: { walk: 140, friction: 500 } }];
    const matched = [{ name: 'walk', path: 'pace.walkSpeed', value: 150 }];
    const one = () => tuningsInForce(file, { sets }, matched, exchange, ours, () => false, canon)[0]?.parameters;
    expect(one()).toBe(one());
  });
});

describe('a sender of values', () => {
  it('keeps one request under way, sends the newest values next, and loses none', async () => {
    for (const seed of seeds(20, 400)) {
      const next = sequence(seed);
      const game: Record<string, number> = {};
      let underWay = 0;
      let time = 0;
      const begun: number[] = [];
      const wait = async (ms: number) => {
        time += ms;
      };
      const sender = new Sender<number>(
        async (values) => {
          expect(++underWay).toBe(1);
          begun.push(time);
          for (let i = 0; i < next() * 6; i++) await Promise.resolve();
          time += next() * 30;
          Object.assign(game, values);
          underWay--;
        },
        16,
        { now: () => time, wait },
      );
      const wanted: Record<string, number> = {};
      for (let i = 0; i < 60; i++) {
        const name = `number${Math.floor(next() * 4)}`;
        wanted[name] = next();
        sender.send({ [name]: wanted[name] as number });
        for (let k = 0; k < next() * 8; k++) await Promise.resolve();
      }
      while (sender.waiting.length > 0 || underWay > 0) await Promise.resolve();
      expect(game).toEqual(wanted);
      for (const [i, at] of begun.entries()) if (i > 0) expect(at - (begun[i - 1] as number)).toBeGreaterThanOrEqual(16 - 1e-9);
    }
  });
});

describe('hands for a game', () => {
  it('are at its rate, none of them earlier than on the tape', () => {
    const tape = {
      hz: 60,
      ticks: 120,
      events: [
        { at: 0, press: 'up' as const },
        { at: 7, release: 'up' as const },
        { at: 119, press: 'down' as const },
      ],
    };
    for (const hz of [30, 60, 144]) {
      const { hands, ticks } = handsAt(tape, hz);
      expect(ticks).toBe(2 * hz);
      for (const [i, { at }] of hands.entries()) {
        const wanted = ((tape.events[i]?.at ?? 0) * hz) / 60;
        expect(at - wanted).toBeGreaterThanOrEqual(-1e-6);
        expect(at - wanted).toBeLessThan(1);
      }
    }
  });
});

describe('the delay of rows', () => {
  it('is what is more than the least, whatever the clocks', () => {
    const late = new Late(60);
    const delays = [5, 3, 40, 3, 7, ...Array.from({ length: 200 }, () => 4)];
    for (const [tick, delay] of delays.entries()) late.take([[tick]], 1e6 + tick * (1000 / 60) + delay, 0);
    expect(Math.abs(late.at(2) - 37)).toBeLessThan(0.01);
    expect(Math.abs(late.at(3))).toBeLessThan(0.01);
    expect(late.at(999)).toBeNaN();
    expect(Math.abs((late.p99 as number) - 1)).toBeLessThan(0.01);
  });
});

describe('a link’s new ratio', () => {
  it('gives the number that was put, as does what is added where the source is 0', () => {
    const next = sequence(11);
    for (let i = 0; i < 200; i++) {
      const [source, wanted, plus] = [next() * 300 + 1, next() * 900, next() * 40];
      const link = relinked({ of: 'pace.walkSpeed', plus }, source, wanted);
      expect(source * (link.times ?? 1) + (link.plus ?? 0)).toBeCloseTo(wanted, 1);
      expect(relinked({ of: 'pace.walkSpeed', times: 2 }, 0, wanted).plus).toBeCloseTo(wanted, 2);
    }
  });
});

describe('the drive of a game as a recording', () => {
  it.each([30, 60, 144])('has the times and places that the game sent at %i Hz', (hz) => {
    const read = resolveTuning(firstTuning('Boots', 'px'));
    if (!read.ok) throw new Error('no tuning');
    const drive = new GameDrive(
      { hz, unit: 'px', yUp: false, columns: ['tick', 'x', 'y'] },
      { ground: newGround('Open', 'px'), tunings: [{ from: 0, parameters: read.value.parameters }], scale: { length: 1, height: 400 } },
    );
    const rows = Array.from({ length: 40 }, (_, tick) => [tick + 7, 100 + (tick * 120) / hz, 50]);
    drive.add(rows, []);
    drive.run(100);
    const recording = readRecording(traceCsv(drive, 'time'));
    if (typeof recording === 'string') throw new Error(recording);
    const { times, x } = recording;
    // Even times of the game's rate, whichever tick is the first.
    const start = (times[0] as number) - ((x[0] as number) - 100) / 120;
    for (const [i, time] of times.entries()) expect(x[i]).toBeCloseTo(100 + 120 * (time - start), 6);
    expect((times.at(-1) as number) - (times[0] as number)).toBeCloseTo((times.length - 1) / hz, 9);
    expect(times.length).toBeGreaterThanOrEqual(39);
  });
});
