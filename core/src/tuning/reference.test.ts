import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { jsonSchema } from '../formats/jsonSchema.ts';
import { type Ground, parseGround } from '../ground/ground.ts';
import { bucketWalls } from '../ground/wallIndex.ts';
import { prepareBounds } from '../motion/bounds.ts';
import { prepareCamera } from '../motion/camera.ts';
import { prepareClock } from '../motion/clock.ts';
import { prepareContact } from '../motion/contactPlan.ts';
import { prepareFacing } from '../motion/facing.ts';
import { prepareGait, stepGait } from '../motion/gait.ts';
import { prepareIntent } from '../motion/intent.ts';
import { prepareRoute } from '../motion/route.ts';
import { prepareStep } from '../motion/step.ts';
import { prepareVelocity } from '../motion/velocity.ts';
import { World } from '../motion/world.ts';
import { Navigator } from '../route/navigator.ts';
import type { HandsEvent } from '../tape/hands.ts';
import { Recorder } from '../tape/recorder.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { anotherValue } from '../testing/anyValue.ts';
import { sequence } from '../testing/sequence.ts';
import { matters, type Parameters, rowsOf, specs, stageOf } from './catalogue/catalogue.ts';
import { type Figure, figureTitles, type Stage } from './catalogue/specs.ts';
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

/** Rows that are read outside of a tick change no trace. */
const isBeyondTraces = (path: string) => stageOf(path) === 'drawing' || stageOf(path) === 'devices';

/** Rows that need a scene that chance does not come upon, each with the tests that have it. */
const ownScenes: Readonly<Record<string, string>> = {
  'route.stuckAfter': 'route.test.ts',
  'route.replanEvery': 'route.test.ts',
  'route.afterPlant': 'route.test.ts',
  'stamina.startAt': 'gait.test.ts',
};

/** Conditions for a row to matter, which chance alone seldom meets. By the beginning of the path. */
const circumstances: readonly (readonly [string, Record<string, FileValue>])[] = [
  ['ramp.points', { 'ramp.model': 'curve' }],
  ['stamina', { 'stamina.enabled': true, 'stamina.drain': 80, 'stamina.max': 100, scheme: 'latch' }],
  ['contact', { scheme: 'steer', 'ramp.model': 'instant' }],
  ['contact.contactsPerTick', { 'pace.walkSpeed': 900 }],
  ['bounds.sendTo', { 'bounds.policy': 'sendTo', scheme: 'latch' }],
  ['route', { 'route.enabled': true, scheme: 'steer' }],
  ['route.arriveRadius', { 'route.arrival': 'radiusOnly' }],
  ['step', { scheme: 'step' }],
  ['step.diagonalTime', { 'step.diagonals': true }],
];

/** A tuning with about a fifth of its rows changed, twice: once with this row as drawn, once with another value; null if there is none. */
function pair(path: string, seed: number, favoured = circumstances) {
  const next = sequence(seed);
  let file = newTuning('Any');
  for (const [other, spec] of specs)
    if (next() < 0.2 && !other.startsWith('clock')) file = withValue(file, other, anotherValue(spec, next));
  file = withValue(file, 'scheme', ['steer', 'latch', 'step', 'turn'][seed % 4] as string);
  file = withValue(file, 'route.enabled', next() < 0.6);
  file = withValue(file, 'stamina.enabled', next() < 0.7);
  for (const [start, values] of favoured)
    if (path.startsWith(start))
      for (const [other, value] of Object.entries(values)) if (other !== path) file = withValue(file, other, value);
  const spec = specs.get(path);
  if (!spec) throw new Error(path);
  const [a, b] = [resolveTuning(file), resolveTuning(withValue(file, path, anotherValue(spec, next)))];
  return a.ok && b.ok ? { a: a.value.parameters, b: b.value.parameters, next } : null;
}

/** True if the same hands leave another trace; null if there is no such pair. */
function changesTrace(path: string, seed: number, drawn = pair(path, seed)): boolean | null {
  if (!drawn) return null;
  const ground = grounds[seed % 3 === 0 ? 1 : 0] as Ground;
  const worlds = [new World(drawn.a, ground, 4), new World(drawn.b, ground, 4)];
  // Busy hands cancel a click's walk: others are calm, and rows of paths are driven by clicks alone.
  const every = [3, 20, 60][Math.floor(seed / 4) % 3] as number;
  const isClicked = path.startsWith('route.');
  const eventsAt = (tick: number): HandsEvent[] => {
    if (!isClicked) return tick % every === 0 ? anyEvents(drawn.next) : [];
    const { width, height } = ground.size;
    const lifted = Math.floor(tick / 90) % 2 === 0 ? 3 : 40;
    if (tick % 90 === 1) return [{ point: [drawn.next() * width, drawn.next() * height] }, { press: 'pointer' }];
    return tick % 90 === lifted ? [{ release: 'pointer' }] : [];
  };
  const recorder = new Recorder();
  for (let tick = 0; tick < 600; tick++) {
    for (const event of eventsAt(tick)) recorder.push(event);
    const hands = recorder.next();
    for (const world of worlds) world.tick({ ...hands, held: hands.held.slice(), order: hands.order.slice() });
    const [a, b] = worlds.map(({ body, parameters: { stamina } }) =>
      [body.x, body.y, body.facingAngle, stamina.enabled && body.gaitStamina, body.cameraX, body.cameraY, body.clockTime].join(' '),
    );
    if (a !== b) return true;
  }
  return false;
}

/** The parameters; calls `say` with the path of every row that is read. */
function listening(values: object, prefix: string, say: (path: string) => void): object {
  return new Proxy(values, {
    get(target, name) {
      const path = prefix ? `${prefix}.${String(name)}` : String(name);
      const value = Reflect.get(target, name) as unknown;
      if (specs.has(path)) say(path);
      else if (typeof value === 'object' && value !== null) return listening(value, path, say);
      return value;
    },
  });
}

/** Which stages read each row while they are prepared and while they run, whatever the choices. */
function readings(): Map<string, Set<Stage>> {
  const read = new Map<string, Set<Stage>>();
  const ground = grounds[0] as Ground;
  for (let seed = 1; seed <= 40; seed++) {
    const drawn = pair(['stamina.max', 'ramp.brake', 'scheme'][seed % 3] as string, seed);
    if (!drawn) continue;
    const world = new World(drawn.a, ground, 4);
    const { walls, navigator } = world;
    const prepared: Record<string, (parameters: Parameters) => unknown> = {
      intent: prepareIntent,
      step: (parameters) => prepareStep(parameters, ground, walls),
      route: (parameters) => [prepareRoute(parameters, ground, walls, navigator), new Navigator(parameters, ground, walls)],
      gait: (parameters) => {
        const plan = prepareGait(parameters);
        const recorder = new Recorder();
        for (let tick = 0; tick < 200; tick++) {
          if (tick % 20 === 0) for (const event of anyEvents(drawn.next)) recorder.push(event);
          world.tick(recorder.next());
          stepGait({ ...world.body }, plan);
          // Empty at once, and still locked.
          stepGait({ ...world.body, gaitStamina: 1e-9, gaitSprinting: 1, intentSprintOn: 1, intentSprintWanted: 1 }, plan);
          stepGait({ ...world.body, gaitStamina: 1e-9, gaitLocked: 1 }, plan);
        }
      },
      velocity: prepareVelocity,
      contact: (parameters) => [prepareContact(parameters, ground, walls), bucketWalls(ground, parameters.contact.seams)],
      bounds: (parameters) => prepareBounds(parameters, ground, walls),
      facing: (parameters) => prepareFacing(parameters, ground),
      camera: (parameters) => prepareCamera(parameters, ground),
      clock: prepareClock,
    };
    for (const [stage, prepare] of Object.entries(prepared))
      prepare(listening(drawn.a, '', (path) => read.set(path, (read.get(path) ?? new Set()).add(stage as Stage))) as Parameters);
  }
  return read;
}

describe('every row of the catalogue', () => {
  it('is read by a stage: it changes some trace, or what is drawn or heard', () => {
    const inert = [...specs.keys()].filter((path) => {
      if (isBeyondTraces(path) || ownScenes[path]) return false;
      for (let seed = 1; seed <= 800; seed++) if (changesTrace(path, seed)) return false;
      return true;
    });
    expect(inert).toEqual([]);
    for (const [path, file] of Object.entries(ownScenes))
      expect(readFileSync(new URL(`../motion/${file}`, import.meta.url), 'utf8'), path).toContain(`'${path}'`);
  });

  it('changes nothing where it is said not to matter', () => {
    const wrong: string[] = [];
    let tried = 0;
    for (const path of specs.keys())
      for (let seed = 1; seed <= 12; seed++) {
        const drawn = pair(path, seed, []);
        if (!drawn || matters(path, drawn.a) || matters(path, drawn.b)) continue;
        tried++;
        if (changesTrace(path, seed, drawn)) wrong.push(`${path} ${seed}`);
      }
    expect(wrong).toEqual([]);
    expect(tried).toBeGreaterThan(200);
  });

  it('is read by the stage that it names', () => {
    const read = readings();
    const wrong = [...specs.keys()].filter((path) => !isBeyondTraces(path) && !read.get(path)?.has(stageOf(path)));
    expect(wrong.map((path) => `${path} is read by ${[...(read.get(path) ?? [])]}`)).toEqual([]);
  });

  it('stands once in its figure, those with a place first', () => {
    const all = (Object.keys(figureTitles) as Figure[]).flatMap(rowsOf);
    expect([...all].sort()).toEqual([...specs.keys()].sort());
    expect(rowsOf('walls').slice(0, 4)).toEqual(['contact.response', 'contact.wallFriction', 'contact.keepSpeed', 'contact.cornerAssist']);
  });

  it('is described for authors of files: title, help, unit, default and range are in the JSON Schema', () => {
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
