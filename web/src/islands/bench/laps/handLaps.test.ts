import { driveLaps, type Ground, type HandsEvent, rerun, type Tape } from '@zygopod/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { randomCourse } from '../../../../../core/src/testing/randomCourse.ts';
import { sequence } from '../../../../../core/src/testing/sequence.ts';
import { sound } from '../../../../../core/src/testing/soundTuning.ts';
import { bodySize } from '../../../../../core/src/tuning/body.ts';
import type { Tuning } from '../../../../../core/src/tuning/tuning.ts';
import { Drive } from '../../drive/drive.ts';
import { changeLaps, lapKey, lapsOn } from '../../laps/lapStore.ts';
import { newStore } from '../testStore.ts';
import { HandLaps } from './handLaps.ts';

beforeEach(() => {
  vi.stubGlobal('localStorage', newStore());
  vi.stubGlobal('window', new EventTarget());
});

/** A finished lap of the pilot with a random sound tuning on a random ground: the hands of a person who can drive. */
function drivable(seed: number): { tuning: Tuning; ground: Ground; tape: Tape; time: number; gates: number[] } {
  for (let k = seed * 1000; ; k++) {
    const tuning = sound(k);
    const { width, height } = bodySize(tuning.parameters.body);
    const { ground } = randomCourse(tuning.parameters, sequence(k * 31 + 7), Math.max(width, height), 3);
    const { laps, tape } = driveLaps(tuning.parameters, ground);
    const [lap] = laps;
    if (lap?.finished) return { tuning, ground, tape, time: lap.time, gates: lap.gates };
  }
}

/** Hands a tape's events to a drive, a tick a frame; `at` is called before each tick. */
function driveBy(drive: Drive, tape: Tape, at: (tick: number) => void = () => {}): void {
  drive.wake();
  for (let tick = 0; tick < tape.ticks; tick++) {
    for (const { at: when, ...event } of tape.events) if (when === tick) drive.say(event as HandsEvent);
    at(tick);
    // A little longer than a tick: floating-point sums of ticks would fall short of a whole one.
    drive.advance(1 / tape.hz + 1e-9);
  }
  for (const control of ['up', 'down', 'left', 'right', 'sprint'] as const) drive.say({ release: control });
}

function bench(seed: number) {
  const driven = drivable(seed);
  const { tuning, ground } = driven;
  const drive = new Drive(tuning.parameters, ground);
  const laps = new HandLaps(drive, 'ground', () => ({ id: 'tuning', revision: 3, isDraft: false, file: tuning.file }));
  return { ...driven, drive, laps, stop: laps.start() };
}

describe('laps by hand', () => {
  it('are timed and kept as the same hands drive them, and their tapes drive them again', () => {
    for (let seed = 1; seed <= 12; seed++) {
      vi.stubGlobal('localStorage', newStore());
      const { drive, laps, tape, time, gates, tuning, ground, stop } = bench(seed);
      expect([laps.$state.get(), laps.best, laps.ghost]).toEqual(['waiting', null, null]);
      driveBy(drive, tape);
      expect([seed, laps.$state.get()]).toEqual([seed, 'finished']);
      const [kept] = laps.$laps.get();
      expect(kept?.lap.time).toBe(time);
      expect(kept?.lap.gates).toEqual(gates);
      expect([laps.time, laps.isKept]).toEqual([time, true]);
      expect(kept).toMatchObject({ isChanged: false, tuning: { revision: 3, isDraft: false } });
      expect(lapsOn('ground')).toEqual(laps.$laps.get());
      // The kept tape drives the same states, in the page's loop as anywhere.
      const again = rerun(kept?.tape as Tape, tuning.parameters, ground).trace;
      const own = rerun(tape, tuning.parameters, ground).trace;
      const rows = (trace: typeof own) =>
        Array.from({ length: again.end }, (_, row) => ['x', 'y', 'facing'].map((name) => trace.at(name as 'x', row)));
      expect(rows(again)).toEqual(rows(own));
      stop();
    }
  });

  it('are compared with the best one before them, gate by gate', () => {
    const { drive, laps, tape, gates, stop } = bench(20);
    driveBy(drive, tape);
    drive.restart();
    expect(laps.rival).toBe(laps.$laps.get()[0]);
    expect(laps.ghost?.trace.at('x', 0)).toBe(drive.live.trace.at('x', 0));
    expect([laps.time, laps.behindAt(0)]).toEqual([0, null]);
    driveBy(drive, tape, () => {
      for (let gate = 0; gate < laps.timer.crossed; gate++) expect(laps.behindAt(gate)).toBe(0);
    });
    expect(laps.behindAt(gates.length - 1)).toBe(0);
    // The first of two equal laps stays the best.
    expect(laps.$laps.get()).toHaveLength(2);
    expect(laps.best?.id).toBe(laps.rival?.id);
    // A lap whose rival was faster by a known time at each gate.
    changeLaps('ground', (all) => all.map((lap) => ({ ...lap, lap: { ...lap.lap, gates: lap.lap.gates.map((t) => t - 0.25) } })));
    window.dispatchEvent(Object.assign(new Event('storage'), { key: lapKey('ground') }));
    drive.restart();
    driveBy(drive, tape);
    expect(laps.behindAt(gates.length - 1)).toBeCloseTo(0.25, 9);
    stop();
  });

  it('are kept but never the best if the tuning was changed during them', () => {
    const { drive, laps, tape, tuning, stop } = bench(30);
    driveBy(drive, tape, (tick) => {
      if (tick === Math.floor(tape.ticks / 2)) drive.retune({ ...tuning.parameters }, null);
    });
    expect(laps.$laps.get()[0]?.isChanged).toBe(true);
    expect(laps.best).toBe(null);
    // Changed before the body leaves the start, it is a lap like any other.
    drive.restart();
    drive.retune({ ...tuning.parameters }, null);
    driveBy(drive, tape);
    expect(laps.best?.isChanged).toBe(false);
    stop();
  });

  it('don’t begin from another place, from a tape, or on another ground', () => {
    const { drive, laps, tape, ground, stop } = bench(40);
    driveBy(drive, tape);
    drive.startHere(true);
    drive.restart();
    driveBy(drive, tape);
    expect([laps.$state.get(), laps.$laps.get().length]).toEqual(['none', 1]);
    drive.startHere(false);
    drive.restart();
    expect(laps.$state.get()).toBe('waiting');
    drive.loop(tape);
    drive.say({ press: 'right' });
    expect(laps.$state.get()).toBe('none');
    stop();
    const other = { ...ground, walls: [] };
    const elsewhere = new HandLaps(new Drive(drive.live.parameters, other), 'ground', () => ({}) as never);
    expect(elsewhere.$laps.get()).toHaveLength(1);
    expect(elsewhere.best).toBe(ground.walls.length > 0 ? null : elsewhere.$laps.get()[0]);
    const plain = new HandLaps(new Drive(drive.live.parameters, { ...ground, course: undefined } as never), 'ground', () => ({}) as never);
    expect([plain.hasCourse, plain.$laps.get()]).toEqual([false, []]);
  });

  it('don’t begin with a tick per frame, nor go on with one', () => {
    const { drive, laps, tape, tuning, ground, stop } = bench(60);
    const perFrame = { ...tuning.parameters, clock: { ...tuning.parameters.clock, stepping: 'perFrame' as const } };
    drive.say({ press: 'right' });
    drive.advance(0.2);
    drive.retune(perFrame, null);
    expect(laps.$state.get()).toBe('none');
    drive.restart();
    driveBy(drive, tape);
    expect([laps.$state.get(), laps.$laps.get()]).toEqual(['none', []]);
    stop();
    const other = new HandLaps(new Drive(perFrame, ground), 'ground', () => ({}) as never);
    other.start();
    expect(other.$state.get()).toBe('none');
  });

  it('are deleted in every page, are 40 at most, and survive a store with anything in it', () => {
    const { drive, laps, tape, stop } = bench(50);
    driveBy(drive, tape);
    const [lap] = lapsOn('ground');
    if (!lap) throw new Error('no lap');
    const many = Array.from({ length: 50 }, (_, i) => ({ ...lap, id: `lap ${i}`, at: i, lap: { ...lap.lap, time: 10 + i } }));
    const kept = changeLaps('ground', () => many);
    expect(kept).toHaveLength(40);
    expect([kept[0]?.id, kept[38]?.id, kept[39]?.id]).toEqual(['lap 0', 'lap 38', 'lap 49']);
    laps.remove('lap 0');
    expect(lapsOn('ground')[0]?.id).toBe('lap 1');
    // Earlier versions kept the whole ground in each lap, in any order of its keys.
    const { name: _, ...rest } = laps.ground;
    const text = JSON.stringify(Object.fromEntries(Object.entries(rest).toReversed()));
    localStorage.setItem(
      lapKey('ground'),
      JSON.stringify([
        { ...lap, ground: text },
        { ...lap, id: 'broken', ground: '{' },
      ]),
    );
    expect(lapsOn('ground').map((one) => laps.isHere(one))).toEqual([true, false]);
    for (const text of [
      '',
      '{',
      'null',
      '{}',
      '[null]',
      '[1]',
      '[{"id":"a"}]',
      `[{"id":"a","at":1,"began":0,"lap":{"time":1,"gates":[1]}}]`,
    ]) {
      localStorage.setItem(lapKey('ground'), text);
      expect(lapsOn('ground')).toEqual([]);
    }
    stop();
  });
});
