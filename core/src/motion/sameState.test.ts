import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseGround } from '../ground/ground.ts';
import type { Hands } from '../tape/hands.ts';
import { Recorder } from '../tape/recorder.ts';
import { Replay } from '../tape/replay.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { anotherValue } from '../testing/anyValue.ts';
import { seeds } from '../testing/campaign.ts';
import { sequence } from '../testing/sequence.ts';
import { type Parameters, specs } from '../tuning/catalogue/catalogue.ts';
import { newTuning, resolveTuning, withValue } from '../tuning/tuning.ts';
import { World } from './world.ts';

const read = parseGround(readFileSync(new URL('../../../demo/boardwalk.ground.json', import.meta.url), 'utf8'));
if (!read.ok) throw new Error('there is no Boardwalk');
const boardwalk = read.value;

const schemes = ['steer', 'latch', 'step', 'turn'] as const;

/** A tuning of one of the schemes with about an eighth of its parameters changed, and again with one path changed; null if that is no tuning. */
function tunings(path: string, seed: number): { before: Parameters; after: Parameters; next: () => number } | null {
  const next = sequence(seed);
  let file = newTuning('Any');
  for (const [other, spec] of specs) if (next() < 0.125 && other !== 'clock.hz') file = withValue(file, other, anotherValue(spec, next));
  file = withValue(file, 'route.enabled', next() < 0.6);
  file = withValue(file, 'stamina.enabled', next() < 0.6);
  file = withValue(file, 'scheme', schemes[seed % 4] as string);
  const spec = specs.get(path);
  const [before, after] = [resolveTuning(file), resolveTuning(spec ? withValue(file, path, anotherValue(spec, next)) : file)];
  return before.ok && after.ok ? { before: before.value.parameters, after: after.value.parameters, next } : null;
}

/** Hands for some ticks, handed to each of the worlds; the first difference of their states is an error. */
function driveAll(worlds: World[], recorder: Recorder, next: () => number, ticks: number, label: string): void {
  for (let tick = 0; tick < ticks; tick++) {
    for (const event of anyEvents(next)) recorder.push(event);
    const hands = recorder.next();
    for (const world of worlds) world.tick(copyOf(hands));
    const [first, ...others] = worlds.map((world) => world.hash());
    for (const hash of others) if (hash !== first) throw new Error(`${label}: another state after ${tick} ticks`);
  }
}

const copyOf = (hands: Hands): Hands => ({ ...hands, held: hands.held.slice(), order: hands.order.slice() });

describe('every row of the catalogue', () => {
  it('changed during a drive gives the result of a fresh world from the same state', () => {
    const draws = seeds(3, 9);
    let runs = 0;
    [...specs.keys()].forEach((path, row) => {
      for (const i of draws) {
        const drawn = tunings(path, row * 10 + i);
        if (!drawn) continue;
        runs++;
        const recorder = new Recorder();
        const changed = new World(drawn.before, boardwalk, 200);
        driveAll([changed], recorder, drawn.next, 80, path);
        changed.setParameters(drawn.after);
        const fresh = new World(drawn.after, boardwalk, 200);
        fresh.restore(changed.save());
        driveAll([changed, fresh], recorder, drawn.next, 80, `${path}, draw ${i}`);
      }
    });
    expect(runs).toBeGreaterThan(specs.size * draws.length * 0.75);
  });
});

describe('a state', () => {
  it('that is put back goes on as it did, to the bit, in any tuning', () => {
    for (const seed of seeds(60, 300)) {
      const drawn = tunings('', seed);
      if (!drawn) continue;
      const recorder = new Recorder();
      const world = new World(drawn.before, boardwalk, 400);
      driveAll([world], recorder, drawn.next, 60, 'before');
      const saved = world.save();
      expect(Array.from(world.save())).toEqual(Array.from(saved));
      const later = Array.from({ length: 60 }, () => {
        for (const event of anyEvents(drawn.next)) recorder.push(event);
        return copyOf(recorder.next());
      });
      const hashes = later.map((hands) => {
        world.tick(copyOf(hands));
        return world.hash();
      });
      world.restore(saved);
      for (const [i, hands] of later.entries()) {
        world.tick(copyOf(hands));
        expect(world.hash(), `seed ${seed}, tick ${i}`).toBe(hashes[i]);
      }
    }
  });

  it('is the same after a run of ticks as after each of them', () => {
    for (const seed of seeds(20, 100)) {
      const drawn = tunings('', seed);
      if (!drawn) continue;
      const [one, other] = [new World(drawn.before, boardwalk, 400), new World(drawn.before, boardwalk, 400)];
      const recorder = new Recorder();
      for (let event = 0; event < 20; event++) {
        for (const said of anyEvents(drawn.next)) recorder.push(said);
        const hands = recorder.next();
        const ticks = 1 + Math.floor(drawn.next() * 12);
        one.run(copyOf(hands), ticks);
        other.tick(copyOf(hands));
        for (let tick = 1; tick < ticks; tick++) other.tick(recorder.next());
        expect(one.hash(), `seed ${seed}`).toBe(other.hash());
        expect(one.trace.end).toBe(other.trace.end);
      }
    }
  });
});

describe('a recording', () => {
  it('replays to the bit, also after restarts with anything held', () => {
    for (const seed of seeds(80, 400)) {
      const drawn = tunings('', seed);
      if (!drawn) continue;
      const world = new World(drawn.before, boardwalk, 400);
      const recorder = new Recorder();
      for (let restarts = 0; restarts < 3; restarts++) {
        driveAll([world], recorder, drawn.next, 20 + Math.floor(drawn.next() * 60), 'live');
        const tape = JSON.parse(JSON.stringify(recorder.tape('Again', world.parameters.clock.hz)));
        const replay = new Replay(tape, tape.hz);
        const again = new World(drawn.before, boardwalk, 400);
        for (let tick = 0; tick < replay.ticks; tick++) again.tick(replay.next());
        expect(again.hash(), `seed ${seed}, restart ${restarts}`).toBe(world.hash());
        world.restart();
        recorder.restart();
      }
    }
  });
});
