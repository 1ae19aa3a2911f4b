import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseGround } from '../../ground/ground.ts';
import { rerun } from '../../replay/rerun.ts';
import type { Tape } from '../../tape/tape.ts';
import { anyEvents } from '../../testing/anyHands.ts';
import { openGround } from '../../testing/drive.ts';
import { sequence } from '../../testing/sequence.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { newTuning, parseTuning, resolveTuning, type Tuning, withValue } from '../../tuning/tuning.ts';
import { runDrills } from '../drills/run.ts';
import { drillSnags } from './drills.ts';
import { groundSnags } from './ground.ts';
import { bySeverity, type Snag, type SnagId, snagWords } from './snag.ts';
import { traceSnags } from './trace.ts';
import { tuningSnags } from './tuning.ts';

const within = (next: () => number, low: number, high: number) => low + next() * (high - low);
const oneOf = <T>(next: () => number, ...values: T[]): T => values[Math.floor(next() * values.length)] as T;

function tuningWith(values: Record<string, FileValue>): Tuning {
  const file = Object.entries(values).reduce((made, [path, value]) => withValue(made, path, value), newTuning('Any'));
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

/** A tuning that a good game could have, at random; what is planted comes over it. */
function sound(seed: number, planted: Record<string, FileValue> = {}): Tuning {
  const next = sequence(seed * 733);
  const radius = within(next, 6, 40);
  const walk = within(next, 2, 12) * radius;
  const startAt = within(next, 2, 25);
  return tuningWith({
    scheme: oneOf(next, 'steer', 'steer', 'latch', 'turn', 'step'),
    'body.radius': radius,
    'body.shape': oneOf(next, 'circle', 'box'),
    'body.width': radius * 2,
    'body.height': radius * within(next, 1.5, 2.5),
    'pace.walkSpeed': walk,
    'pace.sprintSpeed': { of: 'pace.walkSpeed', times: within(next, 1.2, 2.5) },
    'pace.autoRun': oneOf(next, 'off', 'walk'),
    'ramp.model': oneOf(next, 'instant', 'linear', 'smooth'),
    'ramp.accelerate': walk * within(next, 4, 15),
    'ramp.decelerate': walk * within(next, 4, 15),
    'ramp.brake': walk * within(next, 8, 25),
    'ramp.halfLife': within(next, 0.02, 0.15),
    'stamina.enabled': next() < 0.5,
    'stamina.drain': within(next, 5, 60),
    'stamina.regain': within(next, 5, 60),
    'stamina.startAt': startAt,
    'stamina.recoverTo': startAt + within(next, 0, 30),
    'stamina.regainWhile': oneOf(next, 'standing', 'notSprinting'),
    'contact.wallFriction': next() < 0.5 ? 0 : within(next, 0, 0.5),
    'bounds.policy': oneOf(next, 'clamp', 'clamp', 'wrap', 'none'),
    'facing.directions': oneOf(next, '4', '8', '16', 'free'),
    'facing.turn': oneOf(next, 'instant', 'rate', 'smooth'),
    'facing.stickiness': within(next, 4, 10),
    'route.enabled': next() < 0.4,
    'input.deadZone': within(next, 0.1, 0.3),
    'step.cell': radius * 3,
    'camera.follow': oneOf(next, 'smooth', 'locked', 'deadZone'),
    'clock.hz': oneOf(next, 30, 60, 144),
    ...planted,
  });
}

const ids = (snags: readonly Snag[]) => snags.map(({ id, path = '' }) => `${id} ${path}`);

describe('snags of a tuning', () => {
  it('are none in 500 random sound ones', () => {
    for (let seed = 1; seed <= 500; seed++) expect(ids(tuningSnags(sound(seed))), `seed ${seed}`).toEqual([]);
  });

  const steer = { scheme: 'steer', 'input.directions': 'free' };
  const stamina = { 'stamina.enabled': true, 'stamina.drain': 20, 'stamina.regain': 15, 'stamina.regainMovingFactor': 0.5 };
  const clicks = { scheme: 'steer', 'route.enabled': true };
  const plantings: [SnagId, string, Record<string, FileValue>][] = [
    ['speed-zero', 'pace.walkSpeed', { ...steer, 'pace.walkSpeed': 0 }],
    ['sprint-not-faster', 'pace.sprintSpeed', { ...steer, 'pace.sprintSpeed': { of: 'pace.walkSpeed', times: 0.9 } }],
    ['sprint-unlinked', 'pace.sprintSpeed', { ...steer, 'pace.sprintSpeed': 900 }],
    ['sprint-unlinked', 'pace.restoredSpeed', { ...steer, 'pace.restoredSpeed': 7 }],
    ['sprint-on-empty', 'stamina.emptyEndsSprint', { ...steer, ...stamina, 'stamina.emptyEndsSprint': false }],
    ['drain-and-regain', 'stamina.regainWhile', { ...steer, ...stamina, 'stamina.regainWhile': 'always' }],
    ['stamina-coarse', 'stamina.interval', { ...steer, ...stamina, 'stamina.drain': 60, 'stamina.interval': 0.09 }],
    ['sprint-relock', 'stamina.recoverTo', { ...steer, ...stamina, 'stamina.startAt': 30, 'stamina.recoverTo': 10 }],
    ['diagonal-fast', 'input.normaliseDiagonals', { ...steer, 'input.normaliseDiagonals': false }],
    ['dead-zone-none', 'input.deadZone', { ...steer, 'input.deadZone': 0 }],
    ['two-devices', 'input.devices', { ...steer, 'input.devices': 'sum' }],
    ['clamp-centre', 'bounds.measure', { ...steer, 'bounds.policy': 'clamp', 'bounds.measure': 'centre' }],
    ['push-trembles', 'bounds.push', { ...steer, 'bounds.policy': 'push', 'bounds.push': 0.1 }],
    ['push-pops', 'bounds.push', { ...steer, 'bounds.policy': 'push', 'bounds.push': 400 }],
    ['arrive-orbits', 'route.arriveRadius', { ...clicks, 'route.arrival': 'radiusOnly', 'route.arriveRadius': 0.05 }],
    ['arrive-overshoots', 'route.brake', { ...clicks, 'ramp.model': 'linear', 'route.brake': false, 'route.arriveRadius': 0.05 }],
    ['rate-dependent', 'facing.turn', { ...steer, 'facing.turn': 'perTick' }],
    ['rate-dependent', 'camera.follow', { ...steer, 'camera.follow': 'perTick' }],
    ['rate-dependent', 'clock.stepping', { ...steer, 'clock.stepping': 'perFrame' }],
    ['rate-dependent', 'stamina.interval', { ...steer, ...stamina, 'stamina.drain': 5, 'stamina.regain': 5, 'stamina.interval': 0.5 }],
    ['auto-run-sprints-on', 'pace.autoRun', { ...steer, 'pace.autoRun': 'sprint' }],
    ['plant-resumes', 'route.afterPlant', { ...clicks, 'route.afterPlant': 'resume' }],
    ['facing-flickers', 'facing.stickiness', { ...steer, 'facing.directions': '8', 'facing.stickiness': 0 }],
    ['facing-lost', 'facing.whenStill', { ...steer, 'facing.whenStill': 'start' }],
    ['facing-wrong-way', 'facing.flip', { ...steer, 'facing.flip': 'x' }],
    ['wall-not-solid', 'contact.response', { ...steer, 'contact.response': 'none' }],
    ['wall-not-solid', 'contact.swept', { ...steer, 'contact.swept': false }],
    ['seams-felt', 'contact.seams', { ...steer, 'contact.seams': true }],
  ];
  it.each(plantings)('%s of %s is found where it is planted, alone, and its mend cures it and makes no other', (id, path, planted) => {
    for (let seed = 1; seed <= 40; seed++) {
      const tuning = sound(seed, planted);
      const found = tuningSnags(tuning);
      const snag = found.find((one) => one.id === id && one.path === path);
      expect(snag, `seed ${seed}: ${ids(found)}`).toBeDefined();
      expect(ids(found), `seed ${seed}`).toEqual([`${id} ${path}`]);
      expect(snag?.evidence).not.toBe('');
      const file = Object.entries(snag?.mend?.set ?? {}).reduce((made, [at, value]) => withValue(made, at, value), tuning.file);
      const mended = resolveTuning(file);
      if (!mended.ok) throw new Error(JSON.stringify(mended.faults));
      expect(ids(tuningSnags(mended.value)), `seed ${seed}, mended`).toEqual([]);
    }
  });

  it('are all found in the first draft: at least a dozen, each mended by its own deed, until none is left', () => {
    const read = parseTuning(readFileSync(new URL('../../../../demo/first-draft.tuning.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error('no first draft');
    let tuning = read.value;
    expect(new Set(tuningSnags(tuning).map(({ id }) => id)).size).toBeGreaterThanOrEqual(12);
    for (let left = tuningSnags(tuning); left.length > 0; ) {
      const [snag] = bySeverity(left);
      const file = Object.entries(snag?.mend?.set ?? {}).reduce((made, [at, value]) => withValue(made, at, value), tuning.file);
      const mended = resolveTuning(file);
      if (!mended.ok) throw new Error(JSON.stringify(mended.faults));
      tuning = mended.value;
      const now = tuningSnags(tuning);
      expect(now.length, `after ${snag?.id}`).toBeLessThan(left.length);
      left = now;
    }
  });

  it('tell that full speed needs more room than there is', () => {
    const slow = tuningWith({ 'pace.walkSpeed': 400, 'ramp.accelerate': 60 });
    const small = openGround({ size: { width: 640, height: 384 } });
    const [snag] = tuningSnags(slow, small);
    expect(snag?.id).toBe('never-at-speed');
    const mended = tuningWith({ 'pace.walkSpeed': 400, ...snag?.mend?.set });
    expect(tuningSnags(mended, small)).toEqual([]);
    expect(tuningSnags(slow, openGround({ size: { width: 4000, height: 384 } }))).toEqual([]);
  });

  it('take less than 5 ms', () => {
    const tuning = sound(7);
    tuningSnags(tuning);
    const begun = performance.now();
    for (let i = 0; i < 100; i++) tuningSnags(tuning);
    expect((performance.now() - begun) / 100).toBeLessThan(5);
  });
});

describe('snags of a ground', () => {
  const parameters = tuningWith({ 'body.radius': 12 }).parameters;
  const named = (over: object, p = parameters) =>
    groundSnags(openGround({ size: { width: 640, height: 384 }, start: { x: 80, y: 80 }, ...over }), p).map(({ id }) => id);
  const box = (x: number, y: number, w: number, h: number, solid = true) => ({
    points: [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ] as [number, number][],
    closed: true,
    solid,
  });

  it('are none where there is room', () => {
    expect(named({})).toEqual([]);
    expect(named({ walls: [box(300, 100, 60, 60)], goal: { x: 500, y: 300, radius: 16 } })).toEqual([]);
  });

  it('are found where they are', () => {
    expect(named({ walls: [box(300, 100, 60, 60, false)] })).toEqual(['wall-not-solid']);
    expect(named({ walls: [box(60, 60, 60, 60)] })).toContain('start-in-wall');
    expect(named({ walls: [box(300, -10, 20, 420)], goal: { x: 500, y: 300, radius: 16 } })).toEqual(['goal-unreachable']);
    const gap = (wide: number) => named({ walls: [box(300, -20, 20, 200), box(300, 180 + wide, 20, 260)] });
    expect(gap(20)).toEqual(['gap-too-narrow']);
    expect(gap(26)).toEqual(['gap-tight']);
    expect(gap(40)).toEqual([]);
    const straight = tuningWith({ 'route.enabled': true, 'route.planner': 'straight' }).parameters;
    expect(named({ walls: [box(300, 100, 60, 60)] }, straight)).toEqual(['route-straight']);
    expect(named({}, straight)).toEqual([]);
    expect(named({}, tuningWith({ scheme: 'step', 'body.radius': 16 }).parameters)).toEqual(['cell-body-equal']);
    expect(named({}, tuningWith({ scheme: 'step', 'body.radius': 12 }).parameters)).toEqual([]);
  });

  it('tell where, and by how much', () => {
    const ground = openGround({
      size: { width: 640, height: 384 },
      start: { x: 80, y: 80 },
      walls: [box(300, 40, 20, 140), box(300, 200, 20, 150)],
    });
    const [snag] = groundSnags(ground, parameters);
    expect(snag?.evidence).toContain('20 px wide');
    expect(snag?.place?.y).toBeCloseTo(190, 6);
  });

  it('are none on the demo’s Boardwalk but for its gaps', () => {
    const read = parseGround(readFileSync(new URL('../../../../demo/boardwalk.ground.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error('no Boardwalk');
    expect(groundSnags(read.value, parameters).filter(({ id }) => !id.startsWith('gap-'))).toEqual([]);
  });
});

describe('snags of a trace', () => {
  const ground = openGround({ size: { width: 640, height: 384 }, start: { x: 200, y: 200 } });
  const tape = (ticks: number, events: Tape['events']): Tape => ({
    format: 'zygopod/tape',
    version: 2,
    name: 'Test',
    hz: 60,
    ticks,
    events,
  });
  const named = (values: Record<string, FileValue>, hands: Tape, on = ground) => {
    const { parameters } = tuningWith(values);
    const { trace } = rerun(hands, parameters, on);
    return traceSnags({ trace, parameters, ground: on, tape: hands });
  };
  const seen = (...all: Parameters<typeof named>) => named(...all).map(({ id }) => id);
  const right = tape(240, [{ at: 5, press: 'right' }]);
  const click = tape(400, [
    { at: 5, point: [420, 230] },
    { at: 5, press: 'pointer' },
    { at: 8, release: 'pointer' },
  ]);

  it('are none in what any hands do with sound tunings', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const next = sequence(seed * 19);
      const { parameters } = sound(seed, { 'bounds.policy': oneOf(next, 'clamp', 'wrap'), 'clock.hz': 60 });
      const events: Tape['events'] = [];
      for (let at = 0; at < 900; at += 12) events.push(...anyEvents(next, 640, 384).map((event) => ({ at, ...event })));
      const hands = tape(900, events);
      const { trace } = rerun(hands, parameters, ground);
      // Points anywhere lead into corners, where giving up is right.
      const found = traceSnags({ trace, parameters, ground, tape: hands }).filter(({ id }) => id !== 'stuck' && id !== 'circling');
      expect(found, `seed ${seed}`).toEqual([]);
    }
  });

  it('are found where a setting makes them', () => {
    expect(seen({}, right)).toEqual([]);
    expect(seen({ 'bounds.policy': 'none' }, tape(400, right.events))).toEqual(['off-screen']);
    expect(seen({ 'bounds.measure': 'centre' }, tape(400, right.events))).toEqual(['off-screen']);
    expect(seen({ 'facing.flip': 'x' }, right)).toEqual(['facing-wrong-way']);
    expect(seen({ 'bounds.policy': 'push', 'bounds.push': 60 }, tape(400, right.events))).toContain('pop');
    const sprint = tape(500, [
      { at: 5, press: 'right' },
      { at: 5, press: 'sprint' },
    ]);
    const endless = { 'stamina.enabled': true, 'stamina.emptyEndsSprint': false, 'stamina.drain': 60 };
    expect(seen(endless, sprint)).toEqual(['sprint-on-empty']);
    expect(seen({ 'stamina.enabled': true, 'stamina.drain': 60 }, sprint)).toEqual([]);
    const orbit = {
      'route.enabled': true,
      'ramp.model': 'instant',
      'route.arrival': 'radiusOnly',
      'route.brake': false,
      'pace.walkSpeed': 600,
      'route.arriveRadius': 1,
    };
    // The point lies between two ticks' places.
    const between = tape(900, [
      { at: 1, point: [503, 200] },
      { at: 1, press: 'pointer' },
      { at: 4, release: 'pointer' },
    ]);
    const [circles] = named(orbit, between);
    expect(circles?.id).toBe('circling');
    expect(seen({ ...orbit, ...circles?.mend?.set }, between)).toEqual([]);
    const wall = {
      points: [
        [300, 100],
        [300, 320],
      ] as [number, number][],
      closed: false,
      solid: true,
    };
    const walled = openGround({ size: { width: 640, height: 384 }, start: { x: 200, y: 220 }, walls: [wall] });
    expect(seen({ 'route.enabled': true, 'route.planner': 'straight', 'contact.response': 'stop' }, click, walled)).toContain('stuck');
    expect(seen({ 'route.enabled': true }, click, walled)).toEqual([]);
  });

  it('see a facing that flips on a border, and not one that follows the hands', () => {
    const border: Tape['events'] = Array.from({ length: 40 }, (_, i) => {
      const angle = ((22.5 + (i % 2 === 0 ? 2 : -2)) * Math.PI) / 180;
      return { at: i * 4, stick: [Math.cos(angle), Math.sin(angle)] };
    });
    const values = { 'ramp.model': 'instant', 'facing.stickiness': 0 };
    const found = named(values, tape(200, border));
    expect(found.map(({ id }) => id)).toEqual(['facing-flicker']);
    expect(seen({ ...values, ...found[0]?.mend?.set }, tape(200, border))).toEqual([]);
    const asked: Tape['events'] = Array.from({ length: 20 }, (_, i) =>
      i % 2 === 0 ? { at: i * 8, press: 'down' as const } : { at: i * 8, release: 'down' as const },
    );
    expect(seen(values, tape(200, [{ at: 0, press: 'right' }, ...asked]))).toEqual([]);
  });

  it('see two devices that fight, where the tuning lets them', () => {
    const both = tape(200, [
      { at: 5, press: 'right' },
      { at: 30, stick: [-0.9, 0] },
      { at: 90, stick: [0, 0] },
    ]);
    expect(seen({ 'input.devices': 'sum' }, both)).toEqual(['two-devices']);
    expect(seen({ 'input.devices': 'larger' }, both)).toEqual([]);
  });

  it('see a body that trembles at an edge', () => {
    const found = named({ 'bounds.policy': 'push', 'bounds.push': 3 }, tape(500, right.events));
    expect(found.map(({ id }) => id)).toContain('tremble');
    expect(found.find(({ id }) => id === 'tremble')?.path).toBe('bounds.push');
  });
});

describe('snags of drills', () => {
  it('are none in sound tunings', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const found = drillSnags([...runDrills(sound(seed).parameters)]);
      expect(ids(found), `seed ${seed}`).toEqual([]);
    }
  }, 60_000);

  it('name the drill', () => {
    const values = { 'stamina.enabled': true, 'stamina.emptyEndsSprint': false };
    expect(drillSnags([...runDrills(tuningWith(values).parameters)]).map(({ id, drill }) => `${id} ${drill}`)).toContain(
      'sprint-on-empty long-sprint-cycle',
    );
  });
});

it('every id has a name, and says why it matters', () => {
  for (const [id, [name, why]] of Object.entries(snagWords)) {
    expect(name.length, id).toBeGreaterThan(3);
    expect(why.length, id).toBeGreaterThan(20);
  }
});
