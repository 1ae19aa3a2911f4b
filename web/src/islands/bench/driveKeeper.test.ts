import { type Ground, rerun, type Tape } from '@zygopod/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { anyEvents } from '../../../../core/src/testing/anyHands.ts';
import { openGround, parametersWith } from '../../../../core/src/testing/drive.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { Drive } from '../drive/drive.ts';
import { DriveKeeper, driveLeftBehind } from './driveKeeper.ts';
import { newStore } from './testStore.ts';

const ground: Ground = openGround({ start: { x: 500, y: 500 } });
const parameters = parametersWith({ 'stamina.enabled': true });

beforeEach(() => {
  vi.stubGlobal('localStorage', newStore());
});

/** Drives for some frames by any hands; keeps the drive now and then. */
function driveOn(drive: Drive, keeper: DriveKeeper, frames: number, next: () => number): number {
  let kept = drive.recorder.ticks;
  for (let frame = 0; frame < frames; frame++) {
    for (const event of anyEvents(next)) drive.say(event);
    drive.say({ press: 'right' });
    drive.advance(1 / 60);
    if (next() > 0.02) continue;
    keeper.keep();
    kept = drive.recorder.ticks;
  }
  return kept;
}

const LATER = 120_000;

describe('a drive whose page is closed', () => {
  it('is there for the next page as it was kept last, restarts or not', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const next = sequence(seed * 91);
      const drive = new Drive(parameters, ground);
      const keeper = new DriveKeeper(drive, 'tuning');
      for (let i = Math.floor(next() * 3); i > 0; i--) {
        driveOn(drive, keeper, 200 + Math.floor(next() * 2000), next);
        drive.restart();
      }
      driveOn(drive, keeper, 300 + Math.floor(next() * 3000), next);
      keeper.keep();
      const { trace } = drive.world;
      const [x, y] = [trace.at('x', trace.end - 1), trace.at('y', trace.end - 1)];
      const tape = driveLeftBehind('tuning', Date.now() + LATER) as Tape;
      expect(tape.ticks, `seed ${seed}`).toBe(drive.recorder.ticks);
      const again = rerun(tape, parameters, ground).trace;
      expect([again.at('x', again.end - 1), again.at('y', again.end - 1)], `seed ${seed}`).toEqual([x, y]);
      expect(driveLeftBehind('tuning', Date.now() + LATER)).toBeNull();
      expect(Object.keys(localStorage)).toEqual([]);
    }
  });

  it('is not taken from a page that is still there, nor by another tuning', () => {
    const drive = new Drive(parameters, ground);
    const keeper = new DriveKeeper(drive, 'tuning');
    driveOn(drive, keeper, 200, sequence(4));
    keeper.keep();
    expect(driveLeftBehind('tuning')).toBeNull();
    expect(driveLeftBehind('another', Date.now() + LATER)).toBeNull();
    // At rest, and while a tape plays, it is still there: it is heard of all the while.
    vi.useFakeTimers();
    const stop = (() => {
      vi.stubGlobal('window', { addEventListener: () => undefined, removeEventListener: () => undefined });
      return keeper.start();
    })();
    drive.loop({ from: 0, to: 1 });
    vi.advanceTimersByTime(10 * 60_000);
    expect(driveLeftBehind('tuning')).toBeNull();
    stop();
    vi.useRealTimers();
    keeper.keep(true);
    expect(driveLeftBehind('tuning')).not.toBeNull();
  });

  it('is whole again where another page took it from one that was asleep', () => {
    const next = sequence(8);
    const drive = new Drive(parameters, ground);
    const keeper = new DriveKeeper(drive, 'tuning');
    driveOn(drive, keeper, 3000, next);
    keeper.keep();
    expect(driveLeftBehind('tuning', Date.now() + LATER)).not.toBeNull();
    driveOn(drive, keeper, 200, next);
    keeper.keep(true);
    const tape = driveLeftBehind('tuning') as Tape;
    expect(tape.ticks).toBe(drive.recorder.ticks);
    const { trace } = drive.world;
    const again = rerun(tape, parameters, ground).trace;
    expect([again.at('x', again.end - 1), again.at('y', again.end - 1)]).toEqual([
      trace.at('x', trace.end - 1),
      trace.at('y', trace.end - 1),
    ]);
  });

  it('is forgotten after a day, and no hindrance where the store is full or spoilt', () => {
    const drive = new Drive(parameters, ground);
    const keeper = new DriveKeeper(drive, 'tuning');
    driveOn(drive, keeper, 200, sequence(5));
    keeper.keep(true);
    expect(driveLeftBehind('tuning', Date.now() + 25 * 3600 * 1000)).toBeNull();
    expect(Object.keys(localStorage)).toEqual([]);
    vi.stubGlobal('localStorage', newStore(300));
    driveOn(drive, keeper, 300, sequence(6));
    expect(() => keeper.keep()).not.toThrow();
    vi.stubGlobal('localStorage', newStore());
    localStorage.setItem('zygopod-drive:tuning:abcd', '{"at":');
    expect(driveLeftBehind('tuning', Date.now() + LATER)).toBeNull();
  });
});
