import { describe, expect, it } from 'vitest';
import { rerun } from '../../replay/rerun.ts';
import { type Tape, tapeOf } from '../../tape/tape.ts';
import { anyEvents } from '../../testing/anyHands.ts';
import { seeds } from '../../testing/campaign.ts';
import { openGround } from '../../testing/drive.ts';
import { sequence } from '../../testing/sequence.ts';
import { oneOf, sound, tuningWith } from '../../testing/soundTuning.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { runDrills } from '../drills/run.ts';
import { drillSnags } from './drills.ts';
import type { Snag } from './snag.ts';
import { traceSnags } from './trace.ts';

const ids = (snags: readonly Snag[]) => snags.map(({ id, path = '' }) => `${id} ${path}`);

describe('snags of a trace', () => {
  const ground = openGround({ size: { width: 640, height: 384 }, start: { x: 200, y: 200 } });
  const tape = (ticks: number, events: Tape['events']): Tape => tapeOf({ name: 'Test', hz: 60, ticks, events });
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
    const presses: Tape['events'] = Array.from({ length: 20 }, (_, i) =>
      i % 2 === 0 ? { at: i * 8, press: 'down' as const } : { at: i * 8, release: 'down' as const },
    );
    expect(seen(values, tape(200, [{ at: 0, press: 'right' }, ...presses]))).toEqual([]);
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
    for (const seed of seeds(10, 30)) {
      const found = drillSnags([...runDrills(sound(seed).parameters)]);
      expect(ids(found), `seed ${seed}`).toEqual([]);
    }
  });

  it('name the drill', () => {
    const values = { 'stamina.enabled': true, 'stamina.emptyEndsSprint': false };
    expect(drillSnags([...runDrills(tuningWith(values).parameters)]).map(({ id, drill }) => `${id} ${drill}`)).toContain(
      'sprint-on-empty long-sprint-cycle',
    );
  });
});
