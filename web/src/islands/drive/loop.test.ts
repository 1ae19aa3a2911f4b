import { groundWith, newTuning, type Parameters, rerun, resolveTuning, type Tape, tapeOf, withValue } from '@zygopod/core';
import { beforeEach, describe, expect, it } from 'vitest';
import { Drive } from './drive.ts';

const ground = groundWith({ name: 'Plain', size: { width: 4000, height: 4000 }, start: { x: 2000, y: 2000 } });

function tuned(values: Record<string, number | string> = {}): Parameters {
  let file = newTuning('Loop');
  for (const [path, value] of Object.entries(values)) file = withValue(file, path, value);
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value.parameters;
}

let drive: Drive;
/** Frames of a display at 60 Hz. */
const frames = (count: number) => {
  for (let i = 0; i < count; i++) drive.advance(1 / 60 + 1e-9);
};
const rows = () =>
  Array.from({ length: drive.world.trace.end }, (_, row) => [drive.world.trace.at('x', row), drive.world.trace.at('y', row)]);

beforeEach(() => {
  drive = new Drive(tuned(), ground);
  drive.say({ press: 'right' });
  frames(60);
  drive.say({ press: 'down' });
  frames(60);
});

describe('a loop', () => {
  it('goes on at the same moment, pace and play with edited hands, and remembers what it was', () => {
    drive.loop({ from: 0, to: 2 });
    const loop = drive.$loop.get();
    if (!loop) throw new Error('no loop');
    loop.$pace.set(0.5);
    frames(90);
    const { now } = loop;
    drive.retape({ ...loop.tape, events: [] });
    const edited = drive.$loop.get();
    expect(edited).not.toBe(loop);
    expect([edited?.now, edited?.$pace.get(), edited?.$playing.get()]).toEqual([now, 0.5, true]);
    expect(edited?.source).toBe(loop.tape);
    // Nothing is pressed any more: the body rests where it began.
    expect(new Set(rows().map(String)).size).toBe(1);
    drive.retape({ ...loop.tape, ticks: 10 });
    expect(drive.$loop.get()?.now).toBeLessThanOrEqual((drive.$loop.get()?.begins ?? 0) + 10 / 60 + 1e-9);
  });

  it('of the drive before is kept at a restart, if it was one', () => {
    expect(drive.$earlier.get()).toBeNull();
    const [x, y] = rows().at(-1) as number[];
    drive.restart();
    const earlier = drive.$earlier.get();
    expect(earlier?.ticks).toBe(120);
    const again = rerun(earlier as Tape, tuned(), ground).trace;
    expect([again.at('x', again.end - 1), again.at('y', again.end - 1)]).toEqual([x, y]);
    // A drive in which nothing was done does not take its place; letting go is nothing.
    drive.say({ release: 'right' });
    drive.say({ release: 'down' });
    drive.say({ stick: [0, 0] });
    frames(90);
    drive.restart();
    expect(drive.$earlier.get()).toBe(earlier);
  });

  it('has none of the changes of the tuning that the drive has', () => {
    drive.retune(tuned({ 'pace.walkSpeed': 200 }), null);
    frames(30);
    drive.retune(tuned({ 'pace.walkSpeed': 80 }), null);
    frames(30);
    expect(drive.changes).toHaveLength(2);
    expect((drive.changes[1] as number) - (drive.changes[0] as number)).toBeCloseTo(0.5, 6);
    drive.loop({ from: 0, to: 1 });
    expect(drive.changes).toEqual([]);
  });

  it('is what was driven, and comes again and again', () => {
    const driven = rows();
    expect(drive.loop({ from: 0, to: 2 })).toBe(true);
    expect(rows().slice(0, 110)).toEqual(driven.slice(0, 110));
    const loop = drive.$loop.get();
    const seen = new Set<number>();
    for (let i = 0; i < 400; i++) {
      frames(1);
      seen.add(drive.row);
    }
    expect(seen.size).toBeGreaterThan(100);
    expect(drive.$loop.get()).toBe(loop);
    expect(drive.row).toBeLessThan(drive.world.trace.end);
  });

  it('is replayed with every change, and the earlier drive goes along as a ghost', () => {
    drive.loop({ from: 0, to: 2 });
    const before = rows();
    drive.retune(tuned({ 'pace.walkSpeed': 280 }), tuned());
    const loop = drive.$loop.get();
    expect(loop?.$cost.get().ticks).toBeGreaterThan(200);
    const [x0] = before.at(-1) as [number, number];
    const [x1] = rows().at(-1) as [number, number];
    expect((x1 - 2000) / (x0 - 2000)).toBeGreaterThan(1.8);
    const ghost = loop?.ghost?.trace;
    expect(ghost?.at('x', ghost.end - 1)).toBe(x0);
    drive.retune(tuned(), null);
    expect(loop?.ghost).toBeNull();
    expect(rows()).toEqual(before);
  });

  it('is taken over at the moment shown by a press, and by a stick that is pushed, not by a pointer that moves', () => {
    drive.loop({ from: 0, to: 2 });
    frames(30);
    drive.$loop.get()?.goTo(40);
    const [x, y] = rows()[40] as [number, number];
    drive.say({ point: [10, 10] });
    drive.say({ stick: [0, 0] });
    expect(drive.$loop.get()).not.toBeNull();
    drive.say({ press: 'up' });
    expect(drive.$loop.get()).toBeNull();
    expect([drive.world.body.x, drive.world.body.y]).toEqual([x, y]);
    frames(30);
    // Right and down are still down on the devices; the newest of the opposite keys counts.
    expect(drive.world.body.y).toBeLessThan(y);
    // The new drive can be looped in its turn, from where it was taken over.
    const { trace } = drive.world;
    expect(drive.loop({ from: trace.at('time', 0), to: trace.at('time', trace.end - 1) })).toBe(true);
    expect(rows()[0]).toEqual([x, y]);
  });

  it('goes tick by tick, at other paces, and back to the drive as it was left', () => {
    const left = [drive.world.body.x, drive.world.body.y];
    drive.loop({ from: 0.5, to: 1.5 });
    const loop = drive.$loop.get();
    if (!loop) throw new Error('there is no loop');
    loop.goTo(10);
    loop.goTo(drive.row + 1);
    expect(drive.row).toBe(11);
    frames(5);
    expect(drive.row).toBe(11);
    loop.$playing.set(true);
    loop.$pace.set(0.25);
    frames(20);
    expect(drive.row).toBeGreaterThanOrEqual(15);
    expect(drive.row).toBeLessThanOrEqual(17);
    expect(Array.from(loop.handsAt(5).held).filter(Boolean)).toHaveLength(1);
    expect(Array.from(loop.handsAt(50).held).filter(Boolean)).toHaveLength(2);
    drive.drive();
    expect([drive.world.body.x, drive.world.body.y]).toEqual(left);
  });

  it('of ten minutes is driven again within some frames, none of which waits for all of it', () => {
    const events = Array.from({ length: 300 }, (_, i) =>
      i % 2 ? { at: i * 120, release: 'right' as const } : { at: i * 120, press: 'right' as const },
    );
    drive.loop(tapeOf({ name: 'Long', hz: 60, ticks: 36_000, events }));
    drive.retune(tuned({ 'pace.walkSpeed': 60 }), tuned());
    const loop = drive.$loop.get();
    expect(loop?.length).toBe(600);
    expect(loop?.$cost.get().ticks).toBe(4000);
    expect(loop?.isWhole).toBe(false);
    let count = 0;
    for (; (loop?.$cost.get().ticks ?? 0) < 72_000 && count < 2000; count++) frames(1);
    expect(loop?.$cost.get().ticks).toBe(72_000);
    expect(loop?.isWhole).toBe(true);
    expect(count).toBeGreaterThan(1);
    const whole = rerun(loop?.tape as Tape, tuned({ 'pace.walkSpeed': 60 }), ground);
    expect(loop?.world.hash()).toBe(whole.hash());
  });

  it('can be narrowed to a span of itself, which moves as it does within the whole', () => {
    drive.loop({ from: 0, to: 2 });
    const whole = rows();
    expect(drive.loop({ from: 0.5, to: 1.5 })).toBe(true);
    expect(rows()).toEqual(whole.slice(30, 91));
    expect(drive.cut('Half', { from: 0.9, to: 0.6 })?.ticks).toBe(18);
    expect(drive.cut('Nothing', { from: 0.7, to: 0.7 })).toBeNull();
  });

  it('is none where nothing was driven', () => {
    const idle = new Drive(tuned(), ground);
    expect(idle.loop({ from: 0, to: 8 })).toBe(false);
    expect(idle.cut('Nothing', null)).toBeNull();
  });
});
