import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseGround } from '../ground/ground.ts';
import { columns } from '../motion/trace.ts';
import { World } from '../motion/world.ts';
import { Recorder } from '../tape/recorder.ts';
import { readTape, type Tape } from '../tape/tape.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { anotherValue } from '../testing/anyValue.ts';
import { sequence } from '../testing/sequence.ts';
import { specs } from '../tuning/catalogue/catalogue.ts';
import { newTuning, resolveTuning, withValue } from '../tuning/tuning.ts';
import { Recording } from './recording.ts';
import { rerun } from './rerun.ts';

const boardwalk = (() => {
  const read = parseGround(readFileSync(new URL('../../../demo/boardwalk.ground.json', import.meta.url), 'utf8'));
  if (!read.ok) throw new Error('there is no Boardwalk');
  return read.value;
})();

/** Parameters with about a fifth of the rows changed, of every scheme, with and without routes and stamina. */
function anyParameters(next: () => number) {
  for (;;) {
    let file = newTuning('Any');
    for (const [path, spec] of specs) if (next() < 0.2 && !path.startsWith('clock')) file = withValue(file, path, anotherValue(spec, next));
    file = withValue(file, 'scheme', ['steer', 'latch', 'step', 'turn'][Math.floor(next() * 4)] as string);
    file = withValue(file, 'route.enabled', next() < 0.5);
    file = withValue(file, 'stamina.enabled', next() < 0.6);
    file = withValue(file, 'clock.hz', [30, 60, 144][Math.floor(next() * 3)] as number);
    const read = resolveTuning(file);
    if (read.ok) return read.value.parameters;
  }
}

/** A tape as its file keeps it. */
function kept(tape: Tape): Tape {
  const read = readTape(JSON.parse(JSON.stringify(tape)));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

/** A row of a trace as text, bit for bit. */
const row = (world: World, at: number) => columns.map((column) => world.trace.at(column, at)).join(' ');

/** Drives for some ticks by any hands, recorded. */
function driven(seed: number, ticks: number) {
  const next = sequence(seed * 7919);
  const parameters = anyParameters(next);
  const world = new World(parameters, boardwalk, ticks);
  const recorder = new Recorder();
  const recording = new Recording(world, recorder);
  const calm = next() < 0.5 ? 1 : 12;
  for (let tick = 0; tick < ticks; tick++) {
    if (tick % calm === 0) for (const event of anyEvents(next)) recorder.push(event);
    world.tick(recorder.next());
    recording.note();
  }
  return { world, recording, recorder, next, parameters };
}

describe('a span cut from a drive', () => {
  it('moves bit for bit as it was driven, from wherever it begins, through a file', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const ticks = 1500;
      const { world, recording, next, parameters } = driven(seed, ticks);
      const from = Math.floor(next() * (ticks - 2));
      const to = from + 1 + Math.floor(next() * Math.min(400, ticks - from - 1));
      const tape = recording.cut('Span', from, to);
      if (!tape) throw new Error(`seed ${seed}: no span`);
      expect([tape.ground, tape.scheme]).toEqual([boardwalk.name, parameters.scheme]);
      const again = rerun(kept(tape), parameters, boardwalk);
      expect(again.trace.end, `seed ${seed}`).toBe(to - from + 1);
      for (let i = 0; i <= to - from; i++)
        expect(row(again, i), `seed ${seed}, tick ${from + i} of ${from} to ${to}`).toBe(row(world, from + i));
    }
  });

  it('is held to what is there, and is none where there is nothing', () => {
    const { recording } = driven(3, 200);
    expect(recording.cut('All', -50, 1e9)?.ticks).toBe(200);
    expect(recording.cut('None', 120, 120)).toBeNull();
    expect(recording.cut('Later', 300, 400)).toBeNull();
  });

  it('begins with the tuning of its first tick if that was changed later', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const { world, recording, recorder, next } = driven(seed, 400);
      const other = anyParameters(next);
      if (other.clock.hz !== world.parameters.clock.hz) continue;
      world.setParameters(other);
      recording.mark();
      for (let tick = 0; tick < 300; tick++) {
        for (const event of anyEvents(next)) recorder.push(event);
        world.tick(recorder.next());
        recording.note();
      }
      const tape = recording.cut('After', 450, 700) as Tape;
      const again = rerun(kept(tape), other, boardwalk);
      // The first 400 rows have been kept by the small trace no longer; what is compared is the newest.
      const newest = world.trace.end - 1;
      expect(row(again, again.trace.end - 1), `seed ${seed}`).toBe(row(world, newest));
    }
  });

  it('on any other tuning makes finite numbers, and never more stamina than full', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const { recording, next } = driven(seed, 300);
      const tape = recording.cut('Span', 100, 300) as Tape;
      const other = anyParameters(next);
      const { trace } = rerun(kept(tape), other, boardwalk);
      for (let i = 0; i < trace.end; i++) {
        expect(trace.at('stamina', i)).toBeLessThanOrEqual(other.stamina.max);
        for (const column of ['x', 'y', 'vx', 'vy', 'facing'] as const)
          expect(Number.isFinite(trace.at(column, i)), `seed ${seed}`).toBe(true);
      }
    }
  });

  it('gives the hands of every tick that is kept', () => {
    const next = sequence(11);
    const world = new World(anyParameters(next), boardwalk, 10);
    const recorder = new Recorder();
    const recording = new Recording(world, recorder);
    const seen: string[] = [];
    const copied = ({ held, stickX, stickY, pointX, pointY }: typeof recorder.hands) =>
      JSON.stringify([Array.from(held, Boolean), stickX, stickY, pointX, pointY]);
    for (let tick = 0; tick < 900; tick++) {
      for (const event of anyEvents(next)) recorder.push(event);
      world.tick(recorder.next());
      recording.note();
      seen.push(copied(recorder.hands));
    }
    for (let tick = recording.first + 1; tick <= 900; tick += 7)
      expect(copied(recording.handsAt(tick)), `tick ${tick}`).toBe(seen[tick - 1]);
  });

  it('lists the numbers that this core does not know', () => {
    const { world, recording } = driven(5, 50);
    const tape = recording.cut('Span', 10, 50) as Tape;
    const foreign = kept({ ...tape, snapshot: { hands: {}, ...tape.snapshot, body: { ...tape.snapshot?.body, legsCount: 4 } } });
    expect(world.resume(foreign.snapshot as NonNullable<Tape['snapshot']>)).toEqual(['legsCount']);
  });
});

describe('what is recorded', () => {
  it('is bounded: ten minutes of marks, and the events that belong to them', () => {
    const world = new World(anyParameters(sequence(4)), boardwalk, 10);
    const { hz } = world.parameters.clock;
    const recorder = new Recorder(2000);
    const recording = new Recording(world, recorder);
    for (let tick = 0; tick < 700 * hz; tick++) {
      if (tick % 3 === 0) recorder.push({ stick: [(tick % 7) / 7, 0] });
      recorder.next();
      recording.note();
    }
    expect(recording.marks.length).toBeLessThanOrEqual(600 / 5 + 2);
    expect(recorder.first).toBeGreaterThan(0);
    expect(recorder.between(0, 1e9).length).toBeLessThanOrEqual(2000);
    expect(recording.first).toBeGreaterThanOrEqual(recorder.first);
    expect(recording.cut('All', 0, 1e9)?.ticks).toBe(700 * hz - recording.first);
  });
});
