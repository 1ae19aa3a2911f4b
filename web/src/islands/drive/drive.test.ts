import {
  type FramePattern,
  framePatterns,
  type HandsEvent,
  newGround,
  newTuning,
  Replay,
  readTuning,
  rerun,
  World,
  withValue,
} from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { Drive } from './drive.ts';

const tuned = (walkSpeed = 140) => {
  const read = readTuning(withValue(newTuning('Driven'), 'pace.walkSpeed', walkSpeed));
  if (!read.ok) throw new Error('no tuning');
  return read.value.parameters;
};
const ground = { ...newGround('Driven'), size: { width: 3000, height: 400 }, start: { x: 200, y: 200 } };

/** Presses and lets go of keys over frames of any length; gives how long that was. */
function about(drive: Drive, seed: number, frames: number): number {
  const next = sequence(seed);
  let time = 0;
  for (let i = 0; i < frames; i++) {
    if (next() < 0.2) {
      const control = (['left', 'right', 'up', 'down', 'sprint'] as const)[Math.floor(next() * 5)] as 'left';
      drive.say((next() < 0.5 ? { press: control } : { release: control }) as HandsEvent);
    }
    const elapsed = next() * 0.05;
    drive.advance(elapsed);
    time += elapsed;
  }
  return time;
}

describe('a drive', () => {
  it('is what its tape gives again, whatever the frames were', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const drive = new Drive(tuned(), ground);
      about(drive, seed * 31, 200);
      const tape = drive.cut('All', null);
      if (!tape) throw new Error('nothing was driven');
      expect(rerun(tape, tuned(), ground, {}).hash(), `seed ${seed}`).toBe(drive.world.hash());
    }
  });

  it('runs as many ticks as fit into its time, and returns the rest of one', () => {
    const drive = new Drive(tuned(), ground);
    drive.say({ press: 'right' });
    let time = 0;
    for (const elapsed of [0.01, 0.02, 0.005, 0.03, 0.0999]) {
      drive.advance(elapsed);
      time += elapsed;
      expect(drive.recorder.ticks + drive.fraction).toBeCloseTo(time * 60, 6);
    }
    // A page that stalled does not catch up.
    const before = drive.recorder.ticks;
    drive.advance(30);
    expect(drive.recorder.ticks - before).toBeLessThanOrEqual(7);
  });

  it.each(Object.keys(framePatterns) as FramePattern[])('comes to the same place in frames that are %s', (pattern) => {
    const [plain, odd] = [new Drive(tuned(), ground), new Drive(tuned(), ground)];
    odd.setFrames(pattern);
    for (const drive of [plain, odd]) {
      drive.say({ press: 'right' });
      for (let i = 0; i < 120; i++) drive.advance(1 / 60);
    }
    const speed = 140;
    // But for what the pattern still holds back: a frame of it.
    expect(Math.abs(plain.world.body.x - odd.world.body.x)).toBeLessThan(speed * 0.2);
    expect(odd.world.body.x).toBeGreaterThan(300);
  });

  it('stops time once nothing moves, and goes on with the first word of a device', () => {
    const drive = new Drive(tuned(), ground);
    for (let i = 0; i < 60; i++) drive.advance(1 / 60);
    expect(drive.$running.get()).toBe(false);
    const { ticks } = drive.recorder;
    drive.advance(1 / 60);
    expect(drive.recorder.ticks).toBe(ticks);
    drive.say({ press: 'right' });
    expect(drive.$running.get()).toBe(true);
    drive.advance(1 / 60);
    expect(drive.world.body.x).toBeGreaterThan(200);
  });

  it('looks back at a row with the hands of that row, and comes back to the present when it is driven', () => {
    const drive = new Drive(tuned(), ground);
    drive.say({ press: 'right' });
    for (let i = 0; i < 30; i++) drive.advance(1 / 60);
    drive.say({ release: 'right' });
    drive.say({ press: 'down' });
    for (let i = 0; i < 30; i++) drive.advance(1 / 60);
    drive.$lookBack.set(drive.world.trace.end - 45);
    expect([drive.hands.held[3] !== 0, drive.hands.held[1] !== 0]).toEqual([true, false]);
    drive.$lookBack.set(drive.world.trace.end - 5);
    expect([drive.hands.held[3] !== 0, drive.hands.held[1] !== 0]).toEqual([false, true]);
    drive.say({ press: 'left' });
    expect(drive.$lookBack.get()).toBeNull();
  });

  it('takes over from a tape that plays, in the state that is shown, and records from there', () => {
    const drive = new Drive(tuned(), ground);
    drive.say({ press: 'right' });
    for (let i = 0; i < 90; i++) drive.advance(1 / 60);
    const tape = drive.cut('Right', null);
    if (!tape) throw new Error('nothing was driven');
    expect(drive.loop(tape)).toBe(true);
    for (let i = 0; i < 30; i++) drive.advance(1 / 60);
    const shown = drive.world.trace.at('x', drive.row);
    // A pointer that is moved takes over nothing; a key does.
    drive.say({ point: [5, 5] });
    expect(drive.$loop.get()).not.toBeNull();
    drive.say({ press: 'up' });
    expect(drive.$loop.get()).toBeNull();
    expect(drive.world.body.x).toBe(shown);
    for (let i = 0; i < 30; i++) drive.advance(1 / 60);
    const again = drive.cut('From there', null);
    if (!again?.snapshot?.body) throw new Error('the tape has no state to begin with');
    expect(rerun(again, tuned(), ground, {}).hash()).toBe(drive.world.hash());
    // What the pointer said meanwhile was heard.
    const replay = new Replay(again, again.hz);
    while (replay.tick < replay.ticks) replay.next();
    expect([replay.hands.pointX, replay.hands.pointY]).toEqual([5, 5]);
  });

  it('keeps what ended with a restart, unless it was but a moment', () => {
    const drive = new Drive(tuned(), ground);
    drive.say({ press: 'right' });
    for (let i = 0; i < 30; i++) drive.advance(1 / 60);
    drive.restart();
    expect(drive.$earlier.get()).toBeNull();
    expect(drive.world.body.x).toBe(200);
    drive.say({ press: 'down' });
    for (let i = 0; i < 90; i++) drive.advance(1 / 60);
    const hash = drive.world.hash();
    drive.restart();
    const earlier = drive.$earlier.get();
    if (!earlier) throw new Error('nothing was kept');
    expect(rerun(earlier, tuned(), ground, {}).hash()).toBe(hash);
  });

  it('starts where it is set, until it is set elsewhere', () => {
    const drive = new Drive(tuned(), ground);
    drive.say({ press: 'right' });
    for (let i = 0; i < 60; i++) drive.advance(1 / 60);
    drive.startHere(true);
    const { x, y } = drive.$start.get() as { x: number; y: number };
    drive.restart();
    expect([drive.world.body.x, drive.world.body.y]).toEqual([x, y]);
    drive.startHere(false);
    expect([drive.world.body.x, drive.world.body.y]).toEqual([200, 200]);
  });

  it('goes on with another tuning as a world that was given it does', () => {
    const drive = new Drive(tuned(), ground);
    drive.say({ press: 'right' });
    for (let i = 0; i < 30; i++) drive.advance(1 / 60);
    const saved = drive.world.save();
    drive.retune(tuned(300), null);
    for (let i = 0; i < 30; i++) drive.advance(1 / 60);
    const other = new World(tuned(), ground, 10);
    other.restore(saved);
    other.setParameters(tuned(300));
    for (let i = 0; i < 30; i++) other.tick(drive.recorder.hands);
    expect(drive.world.body.x).toBeCloseTo(other.body.x, 9);
    expect(drive.changes).toHaveLength(1);
  });
});
