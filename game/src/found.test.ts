import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Finding, findingsOf, GameDrive, type Parameters, parseGround, parseTuning, type Tape } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { seeds } from '../../core/src/testing/campaign.ts';
import { sequence } from '../../core/src/testing/sequence.ts';
import { type Fault, faults, type Numbers } from './carrier.ts';
import { headless, Wanderer } from './headless.ts';
import type { Reported } from './letterRun.ts';

const file = (name: string) => readFileSync(join(import.meta.dirname, '../../demo', name), 'utf8');
const boots = parseTuning(file('carrier-day-boots.tuning.json'));
const read = parseGround(file('boardwalk.ground.json'));
if (!boots.ok || !read.ok) throw new Error('no demo');
const { parameters } = boots.value;
const ground = read.value;
const columns = ['tick', 'x', 'y', 'vx', 'vy', 'facing', 'gait', 'stamina'];

/** Plays the game at random. */
function play(seed: number, { on = [], numbers = {}, hz = 60, seconds = 60 }: Partial<Playing> = {}): Reported[] {
  const game = headless({ faults: on, hz });
  Object.assign(game.carrier.numbers, numbers);
  const player = new Wanderer(game, sequence(seed));
  return Array.from({ length: seconds * hz }, () => {
    player.play();
    return game.advance() as Reported;
  });
}
interface Playing {
  on: readonly Fault[];
  numbers: Partial<Numbers>;
  hz: number;
  seconds: number;
}

/** Drives the model beside it, a batch at a time. */
function beside(ticks: readonly Reported[], hz = 60, model: Parameters = parameters, batch = 7): GameDrive {
  const terms = { hz, unit: 'px' as const, yUp: false, columns };
  const compared = new GameDrive(terms, { ground, tunings: [{ from: 0, parameters: model }], scale: { length: 1, height: 512 } });
  for (let i = 0; i < ticks.length; i += batch) {
    const some = ticks.slice(i, i + batch);
    compared.add(
      some.map(({ row }) => row),
      some.flatMap(({ hands }) => hands as Tape['events']),
    );
    compared.run(3);
  }
  while (!compared.run(1000));
  return compared;
}

const found = (compared: GameDrive, hz = 60, walk = 140): Finding[] =>
  compared.ticks ? findingsOf(compared.ticks, { unit: 'px', hz, declared: (path) => (path === 'pace.walkSpeed' ? walk : undefined) }) : [];
const kinds = (all: readonly Finding[]) => all.map(({ kind }) => kind).sort();

const named = {
  'stale-restore': 'stale-restore',
  'frame-lerp': 'per-frame',
  'late-facing': 'late-facing',
  'centre-clamp': 'centre-clamp',
  'double-drain': 'double-drain',
} as const satisfies Record<Fault, Finding['kind']>;

describe('Letter run beside the model', () => {
  it.each(seeds(6, 200, [66]))('does the same, drive %i', (seed) => {
    const hz = [60, 30, 144][seed % 3] as number;
    const compared = beside(play(seed, { hz }), hz);
    expect(found(compared, hz).map(({ words }) => words)).toEqual([]);
    // Every tick of both is there.
    expect(compared.game.end).toBe(compared.model?.end);
    expect(compared.game.end).toBe(60 * hz);
  });

  it.each(seeds(3, 60).flatMap((seed) => faults.map((fault) => [fault, seed] as const)))(
    'with the fault %s it is found, and nothing else, drive %i',
    (fault, seed) => {
      const hz = fault === 'frame-lerp' ? 60 : ([60, 30, 144][seed % 3] as number);
      const all = found(beside(play(seed, { on: [fault], hz }), hz), hz);
      expect(kinds(all)).toEqual([named[fault]]);
      for (const { rows } of all) expect(rows.length).toBeGreaterThan(0);
    },
  );

  it.each(seeds(4, 100))('with two faults both are found, drive %i', (seed) => {
    const [one, other] = faults.filter((_, i) => i === seed % 5 || i === (seed * 3 + 1) % 5 || i === (seed + 1) % 5) as [Fault, Fault];
    // A velocity that goes by frames hides what its target is.
    if (one === 'frame-lerp' || other === 'frame-lerp') return;
    const all = kinds(found(beside(play(seed, { on: [one, other], seconds: 120 }))));
    expect(all).toEqual(expect.arrayContaining([named[one], named[other]]));
  });

  it.each(seeds(4, 100))('numbers that differ are found with the value that the game has, drive %i', (seed) => {
    const next = sequence(seed);
    const other = (value: number) => Math.round(value * (next() < 0.5 ? 0.5 + next() * 0.35 : 1.2 + next()));
    const [accel, friction, turn_brake, walk_speed] = [other(900), other(1200), other(1800), other(140)];
    const drained = Math.round(10 + next() * 8);
    const numbers = { accel, friction, turn_brake, walk_speed, stam_drain: drained };
    const all = found(beside(play(seed, { seconds: 120, numbers })), 60, walk_speed);
    const mends = Object.fromEntries(all.flatMap(({ mend }) => (mend ? [[mend.path, mend.value]] : [])));
    const near = (path: string, value: number) => expect(mends[path] as number, path).toBeCloseTo(value, -Math.log10(value * 0.01));
    near('ramp.accelerate', accel);
    near('ramp.decelerate', friction);
    near('ramp.brake', turn_brake);
    near('pace.walkSpeed', walk_speed);
    near('stamina.drain', drained);
    // With these numbers the model does the same.
    const same = {
      ...parameters,
      pace: { ...parameters.pace, walkSpeed: walk_speed, restoredSpeed: walk_speed },
      ramp: { ...parameters.ramp, accelerate: accel, decelerate: friction, brake: turn_brake },
      stamina: { ...parameters.stamina, drain: drained },
    };
    const again = beside(play(seed, { numbers }), 60, same);
    expect(found(again, 60, walk_speed).map(({ words }) => words)).toEqual([]);
  });

  it('finds the same in metres, with y up, and without velocities', () => {
    const ticks = play(5, { on: ['late-facing', 'double-drain'] });
    const metre = 32;
    const drive = (unit: 'm', cut: (row: readonly number[]) => number[], names: string[]) => {
      const compared = new GameDrive(
        { hz: 60, unit, yUp: true, columns: names },
        { ground, tunings: [{ from: 0, parameters }], scale: { length: metre, height: 512 } },
      );
      compared.add(
        ticks.map(({ row }) => cut(row)),
        ticks.flatMap(({ hands }) => hands as Tape['events']),
      );
      compared.run(Infinity);
      return kinds(found(compared));
    };
    const up = ([tick, x, y, vx, vy, facing, gait, stamina]: readonly number[]) =>
      [
        tick,
        (x as number) / metre,
        (512 - (y as number)) / metre,
        (vx as number) / metre,
        -(vy as number) / metre,
        -(facing as number),
        gait,
        stamina,
      ] as number[];
    expect(drive('m', up, columns)).toEqual(['double-drain', 'late-facing']);
    const bare = (row: readonly number[]) => up(row).filter((_, i) => i !== 3 && i !== 4);
    expect(
      drive(
        'm',
        bare,
        columns.filter((name) => name !== 'vx' && name !== 'vy'),
      ),
    ).toEqual(['double-drain', 'late-facing']);
  });

  it('begins anew where the game restarts, and where ticks are missing', () => {
    const ticks = play(3, { seconds: 20 });
    const moved = ticks.map(({ row, hands }, i) => ({
      hands,
      row: i < 600 ? row : row.map((value, k) => (k === 1 ? value - 200 : value)),
    }));
    const jumped = beside(moved);
    expect(jumped.drives).toBe(2);
    expect(jumped.span).toEqual({ from: 600, to: 1199 });
    const gap = beside([...ticks.slice(0, 300), ...ticks.slice(310)]);
    expect(gap.span).toEqual({ from: 310, to: 1199 });
    expect(found(gap).map(({ words }) => words)).toEqual([]);
    gap.layAgain();
    expect(gap.span).toEqual({ from: 1199, to: 1199 });
  });

  it('takes another tuning at the tick from which it is in force', () => {
    const before = play(8, { seconds: 30 });
    const game = headless();
    const player = new Wanderer(game, sequence(8));
    const ticks = Array.from({ length: before.length }, (_, i) => {
      if (i === 700) game.carrier.numbers.walk_speed = 200;
      player.play();
      return game.advance() as Reported;
    });
    const faster = { ...parameters, pace: { ...parameters.pace, walkSpeed: 200, restoredSpeed: 200 } };
    const compared = beside(ticks);
    expect(kinds(found(compared))).not.toEqual([]);
    compared.retune([
      { from: 0, parameters },
      { from: 700, parameters: faster },
    ]);
    while (!compared.run(100));
    expect(found(compared).map(({ words }) => words)).toEqual([]);
    // A change of what is yet to come doesn't drive again what was.
    const { model } = compared;
    compared.retune([
      { from: 0, parameters },
      { from: 700, parameters: faster },
      { from: 99_999, parameters },
    ]);
    expect(compared.model).toBe(model);
    expect(compared.isWhole).toBe(true);
  });
});
