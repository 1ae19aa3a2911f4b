import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { jsonSchema } from '../formats/jsonSchema.ts';
import { type Ground, parseGround } from '../ground/ground.ts';
import { World } from '../motion/world.ts';
import { Recorder } from '../tape/recorder.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { anotherValue } from '../testing/anyValue.ts';
import { sequence } from '../testing/sequence.ts';
import { specs } from './catalogue/catalogue.ts';
import { parameterReference } from './reference.ts';
import type { FileValue } from './schema.ts';
import { newTuning, resolveTuning, withValue } from './tuning.ts';

/** Grounds with free walls and with cells; without a facing of their own. */
const grounds = ['boardwalk', 'sorting-floor'].map((name): Ground => {
  const read = parseGround(readFileSync(new URL(`../../../demo/${name}.ground.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(`there is no ${name}`);
  const { facing: _facing, ...start } = read.value.start;
  return { ...read.value, start };
});

/** Rows that change what is drawn or heard from a device, and so no trace; each with what it does change. */
const beyondTraces: Readonly<Record<string, string>> = {
  'clock.snapToPixel': 'where the body is drawn',
  'facing.launchSpeed': 'how fast a thrown pebble is drawn',
  'camera.tilt': 'how the view is drawn',
  'input.swipeDistance': 'what of a finger’s way counts as a swipe',
  'input.swipeTime': 'what of a finger’s way counts as a swipe',
};

/** Rows that need a scene that chance does not come upon, each with the tests that have it. */
const ownScenes: Readonly<Record<string, string>> = {
  'route.stuckAfter': 'route.test.ts',
  'route.replanEvery': 'route.test.ts',
  'route.afterPlant': 'route.test.ts',
  'stamina.startAt': 'gait.test.ts',
};

/** What has to be so for a row to matter: chance alone seldom comes upon it. By the beginning of the path. */
const circumstances: readonly (readonly [string, Record<string, FileValue>])[] = [
  ['ramp.points', { 'ramp.model': 'curve' }],
  ['stamina', { 'stamina.enabled': true, 'stamina.drain': 80, 'stamina.max': 100, scheme: 'latch' }],
  ['contact', { scheme: 'steer', 'ramp.model': 'instant' }],
  ['bounds.sendTo', { 'bounds.policy': 'sendTo', scheme: 'latch' }],
  ['route', { 'route.enabled': true, scheme: 'steer' }],
  ['route.arriveRadius', { 'route.arrival': 'radiusOnly' }],
  ['step', { scheme: 'step' }],
  ['step.diagonalTime', { 'step.diagonals': true }],
];

/** A tuning with about a fifth of its rows changed, twice: once with this row as it was drawn, once with another value; null where that is none. */
function pair(path: string, seed: number) {
  const next = sequence(seed);
  let file = newTuning('Any');
  for (const [other, spec] of specs)
    if (next() < 0.2 && !other.startsWith('clock')) file = withValue(file, other, anotherValue(spec, next));
  file = withValue(file, 'scheme', ['steer', 'latch', 'step', 'turn'][seed % 4] as string);
  file = withValue(file, 'route.enabled', next() < 0.6);
  file = withValue(file, 'stamina.enabled', next() < 0.7);
  for (const [start, values] of circumstances)
    if (path.startsWith(start))
      for (const [other, value] of Object.entries(values)) if (other !== path) file = withValue(file, other, value);
  const spec = specs.get(path);
  if (!spec) throw new Error(path);
  const [a, b] = [resolveTuning(file), resolveTuning(withValue(file, path, anotherValue(spec, next)))];
  return a.ok && b.ok ? { a: a.value.parameters, b: b.value.parameters, next } : null;
}

/** Whether the same hands leave another trace. */
function changesTrace(path: string, seed: number): boolean {
  const drawn = pair(path, seed);
  if (!drawn) return false;
  const ground = grounds[seed % 3 === 0 ? 1 : 0] as Ground;
  const worlds = [new World(drawn.a, ground, 4), new World(drawn.b, ground, 4)];
  // Busy hands drop what a click has begun: others are calm.
  const every = [3, 20, 60][Math.floor(seed / 4) % 3] as number;
  const recorder = new Recorder();
  for (let tick = 0; tick < 600; tick++) {
    if (tick % every === 0) for (const event of anyEvents(drawn.next)) recorder.push(event);
    const hands = recorder.next();
    for (const world of worlds) world.tick({ ...hands, held: hands.held.slice(), order: hands.order.slice() });
    const [a, b] = worlds.map(
      ({ body }) => `${body.x} ${body.y} ${body.facingAngle} ${body.gaitStamina} ${body.cameraX} ${body.cameraY} ${body.clockTime}`,
    );
    if (a !== b) return true;
  }
  return false;
}

describe('every row of the catalogue', () => {
  it('is read by a stage: it changes some trace, or what is drawn or heard', () => {
    const inert = [...specs.keys()].filter((path) => {
      if (beyondTraces[path] || ownScenes[path]) return false;
      for (let seed = 1; seed <= 200; seed++) if (changesTrace(path, seed)) return false;
      return true;
    });
    expect(inert).toEqual([]);
    for (const path of Object.keys(beyondTraces)) expect(specs.has(path)).toBe(true);
    for (const [path, file] of Object.entries(ownScenes))
      expect(readFileSync(new URL(`../motion/${file}`, import.meta.url), 'utf8'), path).toContain(`'${path}'`);
  });

  it('tells itself to writers of files: title, help, unit, default and range are in the JSON Schema', () => {
    const schema = jsonSchema('tuning') as { properties: Record<string, { properties?: Record<string, object> }> };
    for (const [path, spec] of specs) {
      let at: { properties?: Record<string, object> } = schema;
      for (const name of path.split('.')) at = (at.properties?.[name] ?? {}) as typeof at;
      expect(at, path).toMatchObject({ title: spec.label, description: spec.help, default: spec.default });
      if (spec.kind === 'number' && spec.quantity === 'speed') expect(at, path).toMatchObject({ unit: 'px/s' });
    }
  });

  it('stands in the reference as it is now (./zygopod docs writes it)', () => {
    expect(readFileSync(new URL('../../../docs/parameters.md', import.meta.url), 'utf8')).toBe(parameterReference());
  });
});
