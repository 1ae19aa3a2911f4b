import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseGround } from '../ground/ground.ts';
import { Recorder } from '../tape/recorder.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { valueInRange } from '../testing/anyValue.ts';
import { sequence } from '../testing/sequence.ts';
import { specs } from '../tuning/catalogue/catalogue.ts';
import type { TuningFile } from '../tuning/schema.ts';
import { newTuning, resolveTuning, withValue } from '../tuning/tuning.ts';
import { World } from './world.ts';

/** A tuning with about half of its parameters somewhere in their ranges, often at an end of it. */
function anyTuning(next: () => number): TuningFile {
  let file = newTuning('Any');
  for (const [path, spec] of specs) {
    const value = next() < 0.5 ? undefined : valueInRange(spec, next);
    if (value !== undefined) file = withValue(file, path, value);
  }
  return file;
}

describe('any tuning that validates', () => {
  it('never gives NaN, never throws, never hangs, whatever the hands do on the Boardwalk', () => {
    const ground = parseGround(readFileSync(new URL('../../../demo/boardwalk.ground.json', import.meta.url), 'utf8'));
    if (!ground.ok) throw new Error('there is no Boardwalk');
    let driven = 0;
    for (let seed = 1; seed <= 1500; seed++) {
      const next = sequence(seed * 7919);
      const tuning = resolveTuning(anyTuning(next));
      if (!tuning.ok) continue;
      driven++;
      const world = new World(tuning.value.parameters, ground.value, 120);
      const recorder = new Recorder();
      for (let tick = 0; tick < 100; tick++) {
        for (const event of anyEvents(next)) recorder.push(event);
        world.tick(recorder.next());
      }
      for (const column of ['x', 'y', 'vx', 'vy', 'facing', 'stamina', 'cameraX', 'cameraY', 'toGo'] as const)
        for (let row = 0; row < world.trace.end; row++)
          if (!Number.isFinite(world.trace.at(column, row)))
            throw new Error(`tuning ${seed}: ${column} in row ${row} is ${world.trace.at(column, row)}`);
    }
    expect(driven).toBeGreaterThan(200);
  });
});
