import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { type Ground, parseGround, readGround } from '../ground/ground.ts';
import { Recorder } from '../tape/recorder.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { valueInRange } from '../testing/anyValue.ts';
import { campaign, seeds } from '../testing/campaign.ts';
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
    for (const seed of seeds(300, 1500, [1025])) {
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
    expect(driven).toBeGreaterThan(campaign(50, 200));
  });
});

/** A ground of any size with any cells, surfaces, walls, start and frame; null if that is no ground. */
function anyGround(next: () => number): Ground | null {
  const side = () => Math.max(1, next() < 0.1 ? next() * 20 : 100 + next() * 1500);
  const [width, height] = [side(), side()];
  const cell = next() < 0.1 ? 2 + next() * 5 : 20 + next() * 100;
  const [columns, rows] = [Math.min(40, Math.ceil(width / cell)), Math.min(40, Math.ceil(height / cell))];
  const dense = next() * 0.5;
  const mark = () => (next() < dense ? '#' : next() < 0.1 ? '~' : '.');
  const far = next() < 0.05 ? 1e4 : 1;
  const within = (size: number) => (next() * 1.4 - 0.2) * size;
  const read = readGround({
    format: 'zygopod/ground',
    version: 1,
    name: 'Any',
    size: { width, height },
    cell,
    cells: next() < 0.5 ? Array.from({ length: rows }, () => Array.from({ length: columns }, mark).join('')) : [],
    surfaces: { '~': { name: 'pool', speed: next() * 2 } },
    walls: Array.from({ length: Math.floor(next() * 8) }, () => ({
      points: Array.from({ length: 2 + Math.floor(next() * 4) }, () => [within(width) * far, within(height) * far]),
      closed: next() < 0.5,
    })),
    start: { x: within(width), y: within(height), facing: next() * 720 - 360 },
    ...(next() < 0.5 ? { frame: { x: next() * width, y: next() * height, width: side(), height: side() } } : {}),
  });
  return read.ok ? read.value : null;
}

describe('any tuning on any ground', () => {
  it('never gives NaN and never throws, whatever the hands do', () => {
    let driven = 0;
    for (const seed of seeds(150, 500)) {
      const next = sequence(seed * 7919 + 13);
      const tuning = resolveTuning(anyTuning(next));
      const ground = anyGround(next);
      if (!tuning.ok || !ground) continue;
      driven++;
      const world = new World(tuning.value.parameters, ground, 70);
      const recorder = new Recorder();
      for (let tick = 0; tick < 60; tick++) {
        for (const event of anyEvents(next, ground.size.width, ground.size.height)) recorder.push(event);
        world.tick(recorder.next());
      }
      for (const column of ['x', 'y', 'vx', 'vy', 'facing', 'stamina', 'cameraX', 'cameraY', 'toGo'] as const)
        expect(world.trace.values(column).every(Number.isFinite), `seed ${seed}: ${column}`).toBe(true);
    }
    expect(driven).toBeGreaterThan(campaign(50, 200));
  });
});
