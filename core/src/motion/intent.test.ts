import { describe, expect, it } from 'vitest';
import type { TapeEvent } from '../tape/tape.ts';
import { drive } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';
import {
  ACTION_HELD,
  ACTION_PRESSED,
  ACTION_RELEASED,
  AUTO_RUN_OFF,
  AUTO_RUN_ON,
  SPRINT_CANCELLED,
  TOGGLED_OFF,
  TOGGLED_ON,
} from './events.ts';

/** The intent after `ticks` ticks of these events. */
const intent = (values: Record<string, FileValue>, events: TapeEvent[], ticks = 1) => {
  const { body } = drive(values, ticks, events);
  return {
    x: body.intentX,
    y: body.intentY,
    amount: body.intentAmount,
    sprintOn: body.intentSprintOn,
    sprintWanted: body.intentSprintWanted,
    toggled: body.intentToggled,
    autoRun: body.intentAutoRun,
  };
};
const press = (...controls: string[]) => controls.map((press, at) => ({ at, press }) as TapeEvent);
const stick = (x: number, y: number): TapeEvent[] => [{ at: 0, stick: [x, y] }];

describe('stick', () => {
  it('is rescaled from [deadZone, outerZone] to [0, 1], raised to the curve, direction kept', () => {
    expect(intent({}, stick(0.1, 0.1)).amount).toBe(0);
    expect(intent({}, stick(0.55, 0)).amount).toBeCloseTo((0.55 - 0.15) / 0.8, 12);
    expect(intent({ 'input.curve': 2 }, stick(0, 0.55)).amount).toBeCloseTo(0.25, 12);
    const slanted = intent({}, stick(0.3, 0.4));
    expect(slanted.y / slanted.x).toBeCloseTo(4 / 3, 12);
    expect(intent({}, stick(1, 1)).amount).toBeCloseTo(1, 12);
  });

  it('is a switch where the outer zone lies inside the dead zone', () => {
    expect(intent({ 'input.deadZone': 0.5, 'input.outerZone': 0.2 }, stick(0.6, 0)).amount).toBe(1);
    expect(intent({ 'input.deadZone': 0.5, 'input.outerZone': 0.2 }, stick(0.5, 0)).amount).toBe(0);
  });

  it('snaps to eighths, or to one axis', () => {
    const eighth = intent({ 'input.directions': '8' }, stick(0.9, 0.75));
    expect(eighth.x).toBeCloseTo(eighth.y, 12);
    expect(eighth.amount).toBeCloseTo(1, 12);
    for (const [x, y] of [
      [0.9, 0.5],
      [-0.9, 0.5],
      [0.5, 0.9],
      [0.5, -0.9],
    ] as const) {
      const four = intent({ 'input.directions': '4' }, stick(x, y));
      expect([Math.sign(four.x), Math.sign(four.y)]).toEqual(Math.abs(x) > Math.abs(y) ? [Math.sign(x), 0] : [0, Math.sign(y)]);
    }
  });

  it('and keys do not add up: the larger one counts', () => {
    expect(intent({}, [...stick(1, 0), { at: 0, press: 'right' }]).amount).toBe(1);
    expect(intent({}, [...stick(-0.5, 0), { at: 0, press: 'right' }]).x).toBe(1);
  });
});

describe('two devices', () => {
  const both: TapeEvent[] = [
    { at: 0, press: 'right' },
    { at: 1, stick: [0.05, 0] },
  ];

  it('fight when the newest takes over: a stick that drifts inside its dead zone stops the keys', () => {
    expect(intent({ 'input.devices': 'newest' }, both, 1).amount).toBe(1);
    expect(intent({ 'input.devices': 'newest' }, both, 2).amount).toBe(0);
    expect(intent({ 'input.devices': 'newest' }, [...both, { at: 2, press: 'down' }], 3).amount).toBeCloseTo(1, 12);
    expect(intent({}, both, 2).amount).toBe(1);
  });
});

describe('keys', () => {
  it('make a diagonal of exactly 1, or of √2 when not evened', () => {
    expect(intent({}, press('right', 'down'), 2).amount).toBeCloseTo(1, 15);
    expect(intent({ 'input.normaliseDiagonals': false }, press('right', 'down'), 2).amount).toBe(Math.SQRT2);
  });

  it.each([
    ['newest', 1, -1],
    ['oldest', -1, 1],
    ['cancel', 0, 0],
  ])('opposite ones: %s', (conflict, leftThenRight, rightThenLeft) => {
    expect(intent({ 'input.conflict': conflict }, press('left', 'right'), 2).x).toBe(leftThenRight);
    expect(intent({ 'input.conflict': conflict }, press('right', 'left'), 2).x).toBe(rightThenLeft);
  });

  it.each([
    ['newest', [0, 1]],
    ['oldest', [1, 0]],
    ['cancel', [0, 0]],
  ])('ties with 4 ways: %s', (conflict, [x, y]) => {
    const four = intent({ 'input.directions': '4', 'input.conflict': conflict }, press('right', 'down'), 2);
    expect([four.x, four.y]).toEqual([x, y]);
  });

  it('on one axis only', () => {
    expect(intent({ 'input.axes': 'x' }, press('right', 'down'), 2)).toMatchObject({ x: 1, y: 0 });
    expect(intent({ 'input.axes': 'y' }, press('right', 'down'), 2)).toMatchObject({ x: 0, y: 1 });
  });

  it('are relative to a turned camera', () => {
    const turned = intent({ 'input.relativeTo': 'camera', 'camera.heading': 90 }, press('up'));
    expect(turned.x).toBeCloseTo(1, 12);
    expect(turned.y).toBeCloseTo(0, 12);
  });

  it('are relative to the facing: up is ahead', () => {
    const ahead = intent(
      { 'input.relativeTo': 'facing', 'facing.from': 'pointer' },
      [
        { at: 0, point: [0, 100] },
        { at: 5, press: 'up' },
      ],
      6,
    );
    expect(ahead.y).toBeCloseTo(1, 12);
  });
});

describe('scheme latch', () => {
  const latch = { scheme: 'latch' };
  it('goes on after the release until another press, or the stop', () => {
    const tap: TapeEvent[] = [
      { at: 0, press: 'right' },
      { at: 2, release: 'right' },
    ];
    expect(intent(latch, tap, 20).x).toBe(1);
    expect(intent(latch, [...tap, { at: 10, press: 'up' }, { at: 11, release: 'up' }], 20)).toMatchObject({ x: 0, y: -1 });
    expect(intent(latch, [...tap, { at: 10, press: 'plant' }], 20).amount).toBe(0);
  });

  it.each([
    ['up', 0, -1],
    ['right', 1, 0],
    ['down', 0, 1],
    ['left', -1, 0],
  ] as const)('takes a swipe %s', (swipe, x, y) => {
    expect(intent(latch, [{ at: 3, swipe }], 9)).toMatchObject({ x, y });
  });

  it('ends at an edge that holds it', () => {
    const world = drive({ ...latch, 'bounds.policy': 'clamp' }, 60, [{ at: 0, press: 'left' }]);
    expect(world.body.intentAmount).toBe(0);
    expect(world.body.vx).toBe(0);
  });
});

describe('scheme turn', () => {
  const turn = { scheme: 'turn', 'ramp.turnRate': 90, 'facing.directions': 'free', 'facing.start': 0, 'ramp.model': 'instant' };
  it('turns at the turn rate and drives along the heading, backwards too', () => {
    const world = drive(turn, 60, press('right'));
    expect(world.trace.at('facing', 60)).toBeCloseTo(90, 9);
    expect(world.body.x).toBe(0);
    expect(drive(turn, 60, press('up')).body.x).toBeCloseTo(140, 9);
    expect(drive({ ...turn, 'pace.backwardFactor': 0.5 }, 60, press('down')).body.x).toBeCloseTo(-70, 9);
  });

  it('drives a full circle of circumference speed · 360°/turnRate', () => {
    const world = drive({ ...turn, 'clock.integration': 'exact' }, 240, [
      { at: 0, press: 'up' },
      { at: 0, press: 'right' },
    ]);
    expect(world.body.x).toBeCloseTo(0, 9);
    expect(world.body.y).toBeCloseTo(0, 9);
    const widest = Math.max(...Array.from({ length: 240 }, (_, i) => world.trace.at('y', i)));
    expect(widest).toBeCloseTo((140 * 4) / Math.PI, 0);
  });
});

describe('sprint control', () => {
  const walking: TapeEvent[] = [{ at: 0, press: 'right' }];
  const events = (values: Record<string, FileValue>, more: TapeEvent[], ticks: number) => {
    const { trace } = drive(values, ticks, [...walking, ...more]);
    return (bit: number) => Array.from({ length: ticks }, (_, i) => i + 1).filter((row) => trace.at('events', row) & bit).length;
  };

  it('holds, toggles, or both; no hold knocks the toggle out of step', () => {
    const hold: TapeEvent[] = [
      { at: 2, press: 'sprint' },
      { at: 5, release: 'sprint' },
    ];
    const toggle: TapeEvent[] = [
      { at: 3, press: 'sprintToggle' },
      { at: 4, release: 'sprintToggle' },
    ];
    expect(intent({}, [...walking, ...hold], 4).sprintOn).toBe(1);
    expect(intent({}, [...walking, ...hold], 7).sprintOn).toBe(0);
    expect(intent({}, [...walking, ...toggle], 7).sprintOn).toBe(0);
    expect(intent({ 'pace.sprintKey': 'toggle' }, [...walking, ...hold], 7).sprintOn).toBe(1);
    expect(intent({ 'pace.sprintKey': 'both' }, [...walking, ...hold, ...toggle], 7).sprintOn).toBe(1);
    const crossed: TapeEvent[] = [
      { at: 2, press: 'sprintToggle' },
      { at: 3, press: 'sprint' },
      { at: 4, release: 'sprintToggle' },
      { at: 5, release: 'sprint' },
      { at: 6, press: 'sprintToggle' },
    ];
    expect(intent({ 'pace.sprintKey': 'both' }, [...walking, ...crossed], 8).sprintOn).toBe(0);
    const count = events({ 'pace.sprintKey': 'both' }, crossed, 8);
    expect([count(TOGGLED_ON), count(TOGGLED_OFF)]).toEqual([1, 1]);
  });

  it('a tap between two ticks still toggles', () => {
    expect(intent({ 'pace.sprintKey': 'toggle' }, [...walking, { at: 2, press: 'sprint' }, { at: 2, release: 'sprint' }], 3).toggled).toBe(
      1,
    );
  });

  it('is not wanted with too little stick, nor standing', () => {
    expect(intent({}, [...stick(0.5, 0), { at: 0, press: 'sprint' }]).sprintWanted).toBe(0);
    expect(intent({}, [...stick(0.9, 0), { at: 0, press: 'sprint' }]).sprintWanted).toBe(1);
    expect(intent({}, press('sprint'))).toMatchObject({ sprintOn: 1, sprintWanted: 0 });
  });

  it('ends on stop, on a wall or edge, on an action, as set', () => {
    const toggled: TapeEvent[] = [
      { at: 0, press: 'sprint' },
      { at: 1, release: 'sprint' },
    ];
    const values = (on: string) => ({ 'pace.sprintKey': 'toggle', 'pace.sprintEndsOn': [on] });
    expect(intent(values('stop'), [...walking, ...toggled, { at: 5, release: 'right' }], 8).sprintOn).toBe(0);
    expect(intent(values('action'), [...walking, ...toggled, { at: 5, release: 'right' }], 8).sprintOn).toBe(1);
    expect(intent(values('action'), [...walking, ...toggled, { at: 5, press: 'action' }], 8).sprintOn).toBe(0);
    const edge: TapeEvent[] = [
      { at: 0, press: 'left' },
      { at: 0, press: 'sprint' },
    ];
    expect(intent({ ...values('wall'), 'bounds.policy': 'clamp' }, edge, 9).sprintOn).toBe(0);
  });

  it('held and cancelled must be pressed again', () => {
    const held: TapeEvent[] = [...walking, { at: 0, press: 'sprint' }, { at: 5, press: 'action' }];
    const values = { 'pace.sprintEndsOn': ['action'] };
    expect(intent(values, held, 20).sprintOn).toBe(0);
    expect(intent(values, [...held, { at: 9, release: 'sprint' }, { at: 11, press: 'sprint' }], 20).sprintOn).toBe(1);
    expect(
      events(
        values,
        [
          { at: 0, press: 'sprint' },
          { at: 5, press: 'action' },
        ],
        20,
      )(SPRINT_CANCELLED),
    ).toBe(1);
  });
});

describe('auto-run', () => {
  const on: TapeEvent[] = [
    { at: 2, press: 'autoRun' },
    { at: 3, release: 'autoRun' },
  ];
  const values = { 'pace.autoRun': 'walk', 'facing.start': 0 };

  it('goes straight on along the facing, and stops by its control', () => {
    expect(intent(values, on, 10)).toMatchObject({ x: 1, y: 0, autoRun: 1 });
    expect(intent(values, [...on, { at: 8, press: 'autoRun' }], 10)).toMatchObject({ amount: 0, autoRun: 0 });
  });

  it('is steered by what is pressed, and restores what was held when it ends', () => {
    const steered: TapeEvent[] = [...on, { at: 5, press: 'down' }];
    expect(intent(values, steered, 10)).toMatchObject({ x: 0, y: 1, autoRun: 1 });
    expect(intent(values, [...steered, { at: 8, press: 'autoRun' }], 10)).toMatchObject({ x: 0, y: 1, autoRun: 0 });
    expect(intent(values, [...steered, { at: 20, release: 'down' }], 40)).toMatchObject({ autoRun: 1 });
  });

  it('ends by opposite input', () => {
    const world = drive(values, 10, [...on, { at: 6, press: 'left' }]);
    expect(world.body).toMatchObject({ intentX: -1, intentAutoRun: 0 });
    const rows = Array.from({ length: 10 }, (_, i) => world.trace.at('events', i + 1));
    expect(rows.findIndex((bits) => bits & AUTO_RUN_ON)).toBe(2);
    expect(rows.findIndex((bits) => bits & AUTO_RUN_OFF)).toBe(6);
  });

  it('that sprints leaves the sprint on only where a toggle key shares its state', () => {
    const off: TapeEvent[] = [...on, { at: 8, press: 'autoRun' }];
    expect(intent({ ...values, 'pace.autoRun': 'sprint' }, on, 6).sprintWanted).toBe(1);
    expect(intent({ ...values, 'pace.autoRun': 'sprint' }, off, 12).sprintOn).toBe(0);
    expect(intent({ ...values, 'pace.autoRun': 'sprint', 'pace.sprintKey': 'toggle' }, off, 12).sprintOn).toBe(1);
  });
});

describe('action', () => {
  it.each([30, 60, 144])('a hold comes at half a second, not at the press, and a tap never does (%d Hz)', (hz) => {
    const held: TapeEvent[] = [
      { at: 0, press: 'action' },
      { at: hz, release: 'action' },
      { at: hz + 9, press: 'action' },
      { at: hz + 12, release: 'action' },
    ];
    const { trace } = drive({ 'clock.hz': hz }, 2 * hz, held);
    const times = (bit: number) =>
      Array.from({ length: 2 * hz }, (_, i) => i + 1)
        .filter((row) => trace.at('events', row) & bit)
        .map((row) => trace.at('time', row));
    expect(times(ACTION_PRESSED)).toHaveLength(2);
    expect(times(ACTION_HELD)).toEqual([0.5]);
    expect(times(ACTION_RELEASED)).toHaveLength(2);
  });
});
