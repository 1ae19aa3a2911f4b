import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseGround } from '../ground/ground.ts';
import { controls } from '../tape/controls.ts';
import { Recorder } from '../tape/recorder.ts';
import { sequence } from '../testing/sequence.ts';
import { specs } from '../tuning/catalogue/catalogue.ts';
import type { FileValue, TuningFile } from '../tuning/schema.ts';
import { newTuning, resolveTuning, withValue } from '../tuning/tuning.ts';
import { World } from './world.ts';

/** A tuning with about half of its parameters somewhere in their ranges, often at an end of it. */
function anyTuning(next: () => number): TuningFile {
  let file = newTuning('Any');
  for (const [path, spec] of specs) {
    if (next() < 0.5) continue;
    let value: FileValue;
    if (spec.kind === 'number') {
      const kind = next();
      const sized = (next() < 0.5 && spec.min < 0 ? -1 : 1) * 10 ** (next() * 8 - 3);
      value = kind < 0.15 ? spec.min : kind < 0.3 ? spec.max : Math.max(spec.min, Math.min(spec.max, sized));
    } else if (spec.kind === 'choice') value = spec.options[Math.floor(next() * spec.options.length)] as string;
    else if (spec.kind === 'flag') value = next() < 0.5;
    else if (spec.kind === 'set') value = spec.options.filter(() => next() < 0.5);
    else continue;
    file = withValue(file, path, value);
  }
  return file;
}

/** Hands that do anything. */
function anyHands(recorder: Recorder, next: () => number): void {
  const control = () => controls[Math.floor(next() * controls.length)] as (typeof controls)[number];
  if (next() < 0.2) recorder.push({ press: control() });
  if (next() < 0.15) recorder.push({ release: control() });
  if (next() < 0.1) recorder.push({ stick: [next() * 2 - 1, next() * 2 - 1] });
  if (next() < 0.1) recorder.push({ point: [next() * 1300 - 100, next() * 700 - 100] });
  if (next() < 0.03) recorder.push({ swipe: 'left' });
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
        anyHands(recorder, next);
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
