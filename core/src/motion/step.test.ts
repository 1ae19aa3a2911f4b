import { describe, expect, it } from 'vitest';
import { Recorder } from '../tape/recorder.ts';
import type { TapeEvent } from '../tape/tape.ts';
import { drive, openGround, parametersWith } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';
import { BUMPED, SENT } from './events.ts';
import { World } from './world.ts';

const ground = (cells: string[] = [], x = 48, y = 48) => openGround({ size: { width: 64_000, height: 640 }, start: { x, y }, cells });
const run = (values: Record<string, FileValue>, events: TapeEvent[], ticks: number, place = ground()) =>
  drive(
    { scheme: 'step', ...values },
    ticks,
    [...events].sort((a, b) => a.at - b.at),
    place,
  );
const openSteps = openGround({ size: { width: 1e6, height: 640 }, start: { x: 48, y: 48 } });
const press = (at: number, control: string, until = at + 2): TapeEvent[] =>
  [
    { at, press: control },
    { at: until, release: control },
  ] as TapeEvent[];

describe('a step', () => {
  it('goes to the centre of the next cell in just its time', () => {
    const { trace } = run({ 'step.time': 0.2 }, press(0, 'right'), 30);
    expect(trace.at('x', 12)).toBe(80);
    expect(trace.at('x', 11)).toBeLessThan(80);
    expect(trace.at('x', 6)).toBeCloseTo(48 + 16, 9);
    expect(trace.at('x', 30)).toBe(80);
    expect(trace.pose(6, '8')).toBe('walk-E');
    expect(trace.pose(30, '8')).toBe('stand-E');
  });

  it.each([30, 60, 144])('a thousand of them end exactly on their centre and take a thousand times as long (%d Hz)', (hz) => {
    const time = 0.16;
    const ticks = Math.round(1000 * time * hz);
    const world = run({ 'clock.hz': hz, 'step.time': time }, [{ at: 0, press: 'right' }], ticks);
    expect(world.body.stepCount).toBe(1000);
    expect(world.trace.at('x', ticks)).toBeCloseTo(48 + 32_000, 9);
    // Let go a tick before the last one ends: it rests on the centre, to the bit.
    const held = run(
      { 'clock.hz': hz, 'step.time': time },
      [
        { at: 0, press: 'right' },
        { at: ticks - 1, release: 'right' },
      ],
      ticks + 10,
    );
    expect(held.body.x).toBe(48 + 32_000);
  });

  it('eased is slow at both ends and takes the same time', () => {
    const { trace } = run({ 'step.time': 0.2, 'step.ease': 'smooth' }, press(0, 'right'), 30);
    expect(trace.at('x', 12)).toBe(80);
    expect(trace.at('x', 2) - trace.at('x', 1)).toBeLessThan(trace.at('x', 7) - trace.at('x', 6));
  });

  it('from beside the centre ends on a centre', () => {
    const motion = run({}, press(0, 'down'), 30, ground([], 41, 50)).body;
    expect([motion.x, motion.y]).toEqual([48, 80]);
  });

  it('at once is a nudge of one cell a press, at any size down to a pixel', () => {
    for (const cell of [1, 32]) {
      const { trace } = run(
        { 'step.time': 0, 'step.cell': cell },
        [...press(0, 'right', 20), ...press(30, 'right', 40)],
        60,
        ground([], cell / 2, cell / 2),
      );
      expect(trace.at('x', 1)).toBe(cell / 2 + cell);
      expect(trace.at('x', 25)).toBe(cell / 2 + cell);
      expect(trace.at('x', 60)).toBe(cell / 2 + 2 * cell);
    }
  });
});

describe('presses', () => {
  it('near the end of a step are kept for the next, earlier ones are not', () => {
    const late = [...press(0, 'right', 4), ...press(7, 'down', 8)];
    expect(run({ 'step.time': 0.2, 'step.buffer': 0.12 }, late, 60).body).toMatchObject({ x: 80, y: 80 });
    expect(run({ 'step.time': 0.2, 'step.buffer': 0.02 }, late, 60).body).toMatchObject({ x: 80, y: 48 });
  });

  it('let go within the same tick count all the same', () => {
    const brief = (at: number, control: string): TapeEvent[] => [
      { at, press: control } as TapeEvent,
      { at, release: control } as TapeEvent,
    ];
    expect(run({ 'step.time': 0.2, 'step.buffer': 0.2 }, [...brief(0, 'right'), ...brief(3, 'down')], 60).body).toMatchObject({
      x: 80,
      y: 80,
    });
  });

  it('held repeat, or not if so set', () => {
    expect(run({ 'step.time': 0.1 }, press(0, 'right', 58), 60).body.x).toBe(48 + 10 * 32);
    expect(run({ 'step.time': 0.1, 'step.repeat': false }, press(0, 'right', 58), 60).body.x).toBe(80);
  });

  it('turn first where there is a time for it', () => {
    const { trace } = run({ 'step.time': 0.1, 'step.turnTime': 0.1 }, press(0, 'right', 3), 30);
    expect(trace.at('x', 6)).toBe(48);
    expect(trace.at('facing', 6)).toBe(0);
    expect(trace.at('x', 12)).toBe(80);
  });

  it('on both axes step diagonally where that is allowed: as far at the same pace, or in the same time', () => {
    const both: TapeEvent[] = [...press(0, 'right', 4), ...press(0, 'down', 4)];
    const arrival = (values: Record<string, FileValue>) => {
      const { trace } = run({ 'step.time': 0.2, 'step.diagonals': true, ...values }, both, 60);
      expect([trace.at('x', 60), trace.at('y', 60)]).toEqual([80, 80]);
      return Array.from({ length: 60 }, (_, row) => row).find((row) => trace.at('x', row) === 80);
    };
    expect(arrival({})).toBe(Math.ceil(0.2 * Math.SQRT2 * 60));
    expect(arrival({ 'step.diagonalTime': 'same' })).toBe(12);
    expect(run({ 'step.time': 0.2 }, both, 60).body.y + run({ 'step.time': 0.2 }, both, 60).body.x).toBe(48 + 80);
  });
});

describe('walls', () => {
  it('are faced and bumped for a time, and the body stays', () => {
    const world = run({ 'step.bumpTime': 0.1 }, press(0, 'right', 2), 30, ground(['....', '..#.', '....']));
    expect(world.body.x).toBe(48);
    expect(world.trace.at('facing', 30)).toBe(0);
    expect(world.trace.at('events', 1) & BUMPED).toBe(BUMPED);
    expect(world.trace.at('phase', 4)).toBe(3);
    expect(world.trace.at('phase', 8)).toBe(0);
  });

  it('let a body through that is as wide as the cell, and cut no corner', () => {
    const aisle = ground(['####', '....', '####']);
    expect(run({ 'body.shape': 'box', 'body.width': 32, 'body.height': 32 }, press(0, 'right'), 30, aisle).body.x).toBe(80);
    const corner = ground(['....', '..#.', '....', '....']);
    const both: TapeEvent[] = [...press(0, 'right', 3), ...press(0, 'down', 3)];
    expect(run({ 'step.diagonals': true }, both, 30, corner).body).toMatchObject({ x: 48, y: 48 });
  });

  it('and the edge of the ground hold it in', () => {
    const world = run({ 'bounds.policy': 'clamp' }, press(0, 'up', 58), 60);
    expect(world.body.y).toBe(16);
  });

  it('a cell larger than the ground never hangs', () => {
    expect(run({ 'step.cell': 1e5, 'bounds.policy': 'clamp' }, press(0, 'right', 30), 60).body.x).toBe(48);
  });
});

describe('steps of any kind', () => {
  it('follow the newest of the held keys, whatever the older one does', () => {
    const walled = ground(['....', '..##', '....'].map((row) => row + '.'.repeat(20)));
    // Right is blocked by a solid cell: down is stepped as soon as it is pressed, also while right is bumped at.
    for (let at = 1; at < 20; at++) {
      const events: TapeEvent[] = [
        { at: 0, press: 'right' },
        { at, press: 'down' },
        { at: at + 8, release: 'down' },
      ];
      const { trace } = run({ 'step.time': 0.2 }, events, 60, walled);
      expect(trace.values('y').includes(80), `down at ${at}`).toBe(true);
    }
  });

  it.each([
    ['newest', [48, 80]],
    ['oldest', [80, 48]],
  ] as const)('with two keys at once go the way of the %s', (conflict, place) => {
    const both = [
      { at: 0, press: 'right' },
      { at: 0, press: 'down' },
    ] as TapeEvent[];
    const { trace } = run({ 'input.conflict': conflict, 'step.time': 0.2, 'step.repeat': false }, both, 20);
    expect([trace.at('x', 14), trace.at('y', 14)]).toEqual(place);
  });

  it('shorter than a tick are all taken, as many as its time holds', () => {
    for (const [hz, time] of [
      [1, 0.01],
      [1, 0.003],
      [30, 0.001],
      [2, 0.007],
    ] as const) {
      const seconds = 4;
      const { body } = run({ 'clock.hz': hz, 'step.time': time }, [{ at: 0, press: 'right' }], hz * seconds, openSteps);
      expect(body.stepCount).toBe(Math.floor(seconds / time + 1e-6));
      expect(body.x).toBeGreaterThanOrEqual(48 + 32 * body.stepCount);
      expect(body.x).toBeLessThan(48 + 32 * (body.stepCount + 1));
    }
  });

  it('of a body as wide as its cell begin where it was put, not beyond a wall', () => {
    for (let column = 1; column < 6; column++) {
      const cells = ['#######', '#.....#', '#######'];
      const place = openGround({ size: { width: 224, height: 96 }, start: { x: column * 32 + 16, y: 48 }, cells });
      const { trace } = run({ 'body.shape': 'box', 'body.width': 32, 'body.height': 32 }, [], 10, place);
      expect([trace.at('x', 0), trace.at('y', 0)]).toEqual([column * 32 + 16, 48]);
      expect(trace.at('x', 10)).toBe(column * 32 + 16);
    }
  });

  it('that wrap come out on a cell centre, at the speed of a step, and never in a solid cell', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const next = sequence(seed * 31);
      const cells = Array.from({ length: 8 }, () => Array.from({ length: 10 }, () => (next() < 0.2 ? '#' : '.')).join(''));
      const place = openGround({ size: { width: 320, height: 256 }, start: { x: 48, y: 48 }, cells });
      const events = Array.from({ length: 20 }, (_, i) => {
        const control = (['right', 'down', 'left', 'up'] as const)[Math.floor(next() * 4)] as 'up';
        return [
          { at: i * 30, press: control },
          { at: i * 30 + 29, release: control },
        ];
      }).flat();
      const policy = next() < 0.7 ? 'wrap' : 'sendTo';
      const values = { 'bounds.policy': policy, 'bounds.sendToX': 48, 'bounds.sendToY': 48, 'bounds.measure': 'centre', 'body.radius': 10 };
      const { trace } = run(values, events, 620, place);
      for (let row = 1; row < trace.end; row++) {
        const [x, y] = [trace.at('x', row), trace.at('y', row)];
        expect(trace.at('speed', row), `seed ${seed}, row ${row}`).toBeLessThan((32 / 0.16) * 1.5);
        expect(cells[Math.floor(y / 32)]?.[Math.floor(x / 32)] ?? '.', `seed ${seed}, row ${row}`).toBe('.');
        const ends = trace.at('phase', row) === 0 && trace.at('phase', row - 1) === 2;
        if (ends && !((trace.at('events', row) | trace.at('events', row - 1)) & SENT)) expect([x % 32, y % 32]).toEqual([16, 16]);
      }
    }
  });

  it('leave nothing behind in another scheme, and that nothing in them', () => {
    const stuck = openGround({ cells: ['###', '###', '###', '....'], start: { x: 40, y: 40 } });
    const { trace } = run({}, [], 60, stuck);
    expect(trace.values('events', 1).filter((events) => events !== 0)).toHaveLength(0);
    const place = openGround({ size: { width: 640, height: 320 }, start: { x: 48, y: 48 }, cells: ['....', '..#.', '....'] });
    const world = new World(parametersWith({ 'bounds.policy': 'none' }), place, 300);
    const recorder = new Recorder();
    recorder.push({ press: 'right' });
    for (let tick = 0; tick < 60; tick++) world.tick(recorder.next());
    expect(world.trace.at('contacts', 60)).toBe(1);
    world.setParameters(parametersWith({ scheme: 'step', 'bounds.policy': 'none' }));
    recorder.push({ release: 'right' });
    world.tick(recorder.next());
    world.tick(recorder.next());
    expect(world.trace.at('contacts', 62)).toBe(0);
    expect(world.trace.at('amount', 62)).toBe(0);
    expect(world.trace.at('speed', 62)).toBe(0);
  });
});
