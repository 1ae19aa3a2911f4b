import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TapeEvent } from '../tape/tape.ts';
import { drive } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';
import { gaits } from './codes.ts';
import { EMPTIED, RECOVERED, SPRINT_BEGAN, SPRINT_REFUSED } from './events.ts';

const on = { 'stamina.enabled': true, 'ramp.model': 'instant' };
const sprint: TapeEvent[] = [
  { at: 0, press: 'right' },
  { at: 0, press: 'sprint' },
];

/** Times (s) at whose tick's end something had happened. */
function times(values: Record<string, FileValue>, seconds: number, events: TapeEvent[], bit: number): number[] {
  const hz = Number(values['clock.hz'] ?? 60);
  const { trace } = drive(values, seconds * hz, events);
  return Array.from({ length: seconds * hz }, (_, i) => i + 1)
    .filter((row) => trace.at('events', row) & bit)
    .map((row) => trace.at('time', row));
}

describe('what the end of a sprint puts back', () => {
  const run: TapeEvent[] = [
    { at: 0, press: 'right' },
    { at: 30, press: 'sprint' },
    { at: 90, release: 'sprint' },
  ];
  it('is the walk speed while linked to it, and goes stale when it is a number of its own', () => {
    expect(drive({ 'pace.walkSpeed': 100 }, 200, run).trace.at('speed', 200)).toBe(100);
    const stale = drive({ 'pace.walkSpeed': 100, 'pace.restoredSpeed': 140 }, 200, run).trace;
    expect([stale.at('speed', 29), stale.at('speed', 200)]).toEqual([100, 140]);
  });
});

describe('stamina in closed form', () => {
  it.each([30, 60, 144])('a sprint lasts max/drain, recovery takes delay + recoverTo/regain (%d Hz)', (hz) => {
    const values = { ...on, 'clock.hz': hz };
    const [emptied] = times(values, 12, sprint, EMPTIED) as [number];
    expect(Math.abs(emptied - 100 / 20)).toBeLessThanOrEqual(1 / hz + 1e-9);
    const stop = Math.round(5.5 * hz);
    const standing: TapeEvent[] = [...sprint, { at: stop, release: 'right' }, { at: stop, release: 'sprint' }];
    const [recovered] = times({ ...values, 'stamina.regainWhile': 'standing' }, 12, standing, RECOVERED) as [number];
    // Standing begins half a second after empty; the wait of 0.6 s has run since the last drain.
    expect(Math.abs(recovered - (5 + 0.6 + 25 / 15))).toBeLessThanOrEqual(2 / hz + 1e-9);
  });

  it('is the same at 30, 60 and 144 Hz within one tick', () => {
    const levels = [30, 60, 144].map(
      (hz) => drive({ ...on, 'clock.hz': hz, 'stamina.afterEmpty': 'resume' }, 20 * hz, sprint).body.gaitStamina,
    );
    for (const level of levels) expect(Math.abs(level - (levels[1] as number))).toBeLessThan(20 / 30 + 15 / 30);
  });

  it('the mean speed of a long cycle is within 1 % of its formula', () => {
    const values = { ...on, 'stamina.afterEmpty': 'resume' };
    const world = drive(values, 60 * 300, sprint);
    const rate = 15 * 0.5;
    const sprinting = 25 / 20;
    const recovering = 0.6 + 25 / rate;
    const share = sprinting / (sprinting + recovering);
    const from = 60 * 100;
    const mean = (world.trace.at('x', 60 * 300) - world.trace.at('x', from)) / 200;
    expect(mean / (share * 245 + (1 - share) * 140)).toBeCloseTo(1, 2);
  });
});

describe('gaits', () => {
  it('stand, walk, sprint, spent, and walk again once recovered', () => {
    const { trace } = drive({ ...on, 'stamina.spentFactor': 0.5 }, 60 * 12, [...sprint.map((e) => ({ ...e, at: 60 }))]);
    const at = (seconds: number) => gaits[trace.at('gait', seconds * 60)];
    expect([at(0.5), at(2), at(7), at(11.5)]).toEqual(['stand', 'sprint', 'spent', 'walk']);
    expect(trace.at('speed', 7 * 60)).toBe(70);
  });

  it('a sprint under startAt is refused, and said once', () => {
    const events: TapeEvent[] = [...sprint, { at: 280, release: 'sprint' }, { at: 290, press: 'sprint' }, { at: 300, press: 'up' }];
    const low = times({ ...on, 'stamina.startAt': 30 }, 8, events, SPRINT_REFUSED);
    expect(low).toHaveLength(1);
  });

  it('after empty a held sprint is cancelled, or resumes', () => {
    expect(times(on, 20, sprint, SPRINT_BEGAN)).toHaveLength(1);
    expect(times({ ...on, 'stamina.afterEmpty': 'resume' }, 20, sprint, SPRINT_BEGAN).length).toBeGreaterThan(2);
  });

  it('goes on with nothing left when empty does not end it', () => {
    const world = drive({ ...on, 'stamina.emptyEndsSprint': false }, 60 * 8, sprint);
    expect(world.body.gaitStamina).toBe(0);
    expect(world.body.vx).toBe(245);
  });

  it('drains while blocked only if so set', () => {
    const wall = { ...on, 'bounds.policy': 'clamp' };
    const left: TapeEvent[] = [
      { at: 0, press: 'left' },
      { at: 0, press: 'sprint' },
    ];
    expect(drive(wall, 120, left).body.gaitStamina).toBeGreaterThan(99);
    expect(drive({ ...wall, 'stamina.drainWhile': 'held' }, 120, left).body.gaitStamina).toBeCloseTo(60, 6);
  });
});

describe('drain and regain', () => {
  it('never run in one tick, unless regain is always', () => {
    const both = drive({ ...on, 'stamina.regainWhile': 'always', 'stamina.regainMovingFactor': 1 }, 60, sprint);
    expect(both.body.gaitStamina).toBeCloseTo(100 - 20 + 15, 6);
    expect(drive({ ...on, 'stamina.regainDelay': 0 }, 60, sprint).body.gaitStamina).toBeCloseTo(80, 6);
  });

  it('in lumps of rate × interval on its boundaries, the remainder carried over', () => {
    const { trace } = drive({ ...on, 'stamina.interval': 0.25 }, 120, sprint);
    const changes = Array.from({ length: 119 }, (_, i) => i + 1).filter((row) => trace.at('stamina', row + 1) !== trace.at('stamina', row));
    expect(changes.map((row) => trace.at('time', row + 1))).toEqual([0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75, 2]);
    expect(trace.at('stamina', 60)).toBe(80);
  });

  it('any numbers keep the bar between 0 and full', () => {
    const amount = fc.double({ min: 0, max: 1e6, noNaN: true });
    fc.assert(
      fc.property(
        fc.record({
          'stamina.max': fc.double({ min: 0.001, max: 1e6, noNaN: true }),
          'stamina.drain': amount,
          'stamina.regain': amount,
          'stamina.startAt': amount,
          'stamina.recoverTo': amount,
          'stamina.regainDelay': fc.double({ min: 0, max: 2, noNaN: true }),
          'stamina.interval': fc.constantFrom(0, 1e-9, 0.01, 0.3),
          'stamina.regainWhile': fc.constantFrom('standing', 'notSprinting', 'always'),
          'stamina.drainWhile': fc.constantFrom('moving', 'held'),
          'stamina.afterEmpty': fc.constantFrom('cancel', 'resume'),
          'stamina.emptyEndsSprint': fc.boolean(),
        }),
        (values) => {
          const { trace } = drive({ ...on, ...values }, 90, [...sprint, { at: 40, release: 'right' }, { at: 60, press: 'left' }]);
          for (let row = 0; row < trace.end; row++) {
            expect(trace.at('stamina', row)).toBeGreaterThanOrEqual(0);
            expect(trace.at('stamina', row)).toBeLessThanOrEqual(values['stamina.max']);
          }
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('lumps', () => {
  it('charge what was done since the last boundary, in any bursts, at any rate', () => {
    for (const hz of [30, 60, 144])
      for (const [running, walking] of [
        [9, 1],
        [3, 7],
        [5, 5],
      ] as const) {
        const ticks = 8 * hz;
        const unit = hz / 10 / 3;
        const events: TapeEvent[] = [{ at: 0, press: 'right' }];
        for (let at = 0; at < ticks; at += Math.round((running + walking) * unit))
          events.push({ at, press: 'sprint' }, { at: at + Math.round(running * unit), release: 'sprint' });
        const values = { ...on, 'clock.hz': hz, 'stamina.regainDelay': 0, 'stamina.regain': 10, 'stamina.startAt': 0 };
        const stamina = (interval: number) =>
          drive({ ...values, 'stamina.max': 1000, 'stamina.interval': interval }, ticks, events).body.gaitStamina;
        // On a common boundary both have charged the same; continuous may have been stopped by a full bar at the very start only.
        expect(Math.abs(stamina(0.5) - stamina(0))).toBeLessThan(1.5);
      }
  });

  it('come on their boundaries alone, also several in one tick', () => {
    const values = { ...on, 'stamina.interval': 0.25, 'stamina.drain': 20 };
    for (const hz of [2, 10, 60]) {
      const { trace } = drive({ ...values, 'clock.hz': hz }, 2 * hz, [
        { at: 0, press: 'right' },
        { at: 0, press: 'sprint' },
      ]);
      for (let row = 1; row <= 2 * hz; row++) expect(trace.at('stamina', row)).toBeCloseTo(100 - 5 * Math.floor(row / hz / 0.25 + 1e-9), 6);
    }
  });
});

describe('a bar that lasts a whole number of ticks', () => {
  it('is empty in the last of them', () => {
    for (let ticks = 3; ticks <= 240; ticks += 7)
      for (const hz of [30, 60, 144]) {
        const drain = 100 / (ticks / hz);
        const { trace } = drive({ ...on, 'clock.hz': hz, 'stamina.drain': drain }, ticks + 2, [
          { at: 0, press: 'right' },
          { at: 0, press: 'sprint' },
        ]);
        expect(trace.at('stamina', ticks), `${ticks} ticks at ${hz} Hz`).toBe(0);
        expect(trace.at('stamina', ticks - 1)).toBeGreaterThan(0);
      }
  });
});

describe('regain while standing', () => {
  it('waits until the body stands, not until the hands let go', () => {
    const values = { ...on, 'stamina.regainWhile': 'standing', 'stamina.regainDelay': 0, 'ramp.model': 'linear', 'ramp.decelerate': 245 };
    const { trace } = drive(values, 240, [
      { at: 0, press: 'right' },
      { at: 0, press: 'sprint' },
      { at: 60, release: 'right' },
      { at: 60, release: 'sprint' },
    ]);
    // From 245 px/s at 245 px/s² the body rolls on for a second.
    expect(trace.at('stamina', 118)).toBe(trace.at('stamina', 61));
    expect(trace.at('stamina', 130)).toBeGreaterThan(trace.at('stamina', 61));
  });
});
