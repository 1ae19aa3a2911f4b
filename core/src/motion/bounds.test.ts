import { describe, expect, it } from 'vitest';
import type { TapeEvent } from '../tape/tape.ts';
import { drive, openGround } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';
import { EDGE_LEFT, EDGE_MET, SENT, START_MOVED, WRAPPED } from './events.ts';

const ground = openGround({ size: { width: 400, height: 300 }, start: { x: 200, y: 150 } });
const hold = (...controls: string[]) => controls.map((press) => ({ at: 0, press }) as TapeEvent);
const run = (policy: string, controls: string[], more: Record<string, FileValue> = {}, ticks = 240) =>
  drive({ 'bounds.policy': policy, 'ramp.model': 'instant', ...more }, ticks, hold(...controls), ground);

describe('clamp', () => {
  it('keeps the whole body in, to the pixel, and the velocity across the edge is 0', () => {
    const world = run('clamp', ['right', 'down']);
    expect(world.body).toMatchObject({ x: 388, y: 288, vx: 0, vy: 0 });
    const back = run('clamp', ['left', 'up']);
    expect(back.body).toMatchObject({ x: 12, y: 12 });
  });

  it('by the centre lets half of the body out', () => {
    expect(run('clamp', ['right'], { 'bounds.measure': 'centre' }).body.x).toBe(400);
  });

  it('heeds the origin, insets, and one axis alone', () => {
    expect(run('clamp', ['right'], { 'body.originX': 0, 'bounds.inset.right': 10 }).body.x).toBe(400 - 10 - 24);
    expect(run('clamp', ['down'], { 'bounds.axes': 'x' }).body.y).toBeGreaterThan(400);
    expect(run('clamp', ['right'], { 'body.shape': 'box', 'body.width': 50 }).body.x).toBe(375);
  });

  it('along an edge keeps the speed along it, and emits the events of meeting and leaving it', () => {
    const events: TapeEvent[] = [...hold('right', 'down'), { at: 200, release: 'right' }];
    const world = drive(
      { 'ramp.model': 'instant' },
      240,
      events,
      openGround({ size: { width: 400, height: 3000 }, start: { x: 380, y: 90 } }),
    );
    const seen = Array.from({ length: world.trace.end }, (_, row) => world.trace.at('events', row));
    expect(seen.some((bits) => bits & EDGE_MET)).toBe(false);
    const held = drive(
      { 'bounds.policy': 'clamp', 'ramp.model': 'instant' },
      240,
      events,
      openGround({ size: { width: 400, height: 3000 }, start: { x: 380, y: 90 } }),
    ).trace;
    expect(held.at('vy', 150)).toBeCloseTo(140 * Math.SQRT1_2, 9);
    const bits = Array.from({ length: held.end }, (_, row) => held.at('events', row)).reduce((a, b) => a | b);
    expect([bits & EDGE_MET, bits & EDGE_LEFT]).toEqual([EDGE_MET, EDGE_LEFT]);
    expect(held.at('edge', 150)).toBe(2);
  });

  it('in a frame smaller than the body holds it in the middle', () => {
    const tiny = openGround({ size: { width: 10, height: 10 }, start: { x: 5, y: 5 } });
    expect(drive({ 'bounds.policy': 'clamp' }, 30, hold('right'), tiny).body).toMatchObject({ x: 5, y: 5 });
  });

  it('by the screen means the frame', () => {
    const framed = openGround({ start: { x: 100, y: 100 }, frame: { x: 50, y: 50, width: 200, height: 100 } });
    expect(drive({ 'bounds.policy': 'clamp', 'bounds.frame': 'screen' }, 240, hold('right'), framed).body.x).toBe(238);
  });
});

describe('push', () => {
  /** Peak-to-peak of the place while pressed against the edge. */
  const tremble = (push: number) => {
    const { trace } = run('push', ['right'], { 'bounds.push': push });
    const places = Array.from({ length: 60 }, (_, i) => trace.at('x', trace.end - 1 - i));
    return Math.max(...places) - Math.min(...places);
  };
  it('puts the body back inside and leaves its velocity, so that it trembles by what it is pushed', () => {
    expect(tremble(10)).toBeGreaterThan(8);
    expect(tremble(2)).toBeLessThan(tremble(10));
    expect(run('push', ['right']).body.vx).toBe(140);
    expect(Math.max(...Array.from({ length: 240 }, (_, row) => run('push', ['right']).trace.at('x', row)))).toBeLessThanOrEqual(388);
  });
  it('never puts it past the middle', () => {
    expect(run('push', ['right'], { 'bounds.push': 1e5 }).trace.at('x', 200)).toBeGreaterThanOrEqual(200);
  });
});

describe('wrap', () => {
  it('brings the body in at the other side once it is out of sight, over and over', () => {
    const { trace } = run('wrap', ['right'], {}, 900);
    const [places, bits] = [[], []] as [number[], number[]];
    for (let row = 0; row < trace.end; row++) {
      places.push(trace.at('x', row));
      bits.push(trace.at('events', row) & WRAPPED);
    }
    expect(Math.max(...places)).toBeLessThanOrEqual(412);
    expect(Math.min(...places)).toBeGreaterThanOrEqual(-12);
    expect(bits.filter(Boolean).length).toBe(Math.floor((200 + 12 + (140 / 60) * 900) / 424));
  });
  it('by the centre wraps at the edge itself', () => {
    const { trace } = run('wrap', ['left'], { 'bounds.measure': 'centre' }, 200);
    for (let row = 0; row < trace.end; row++) expect(trace.at('x', row)).toBeLessThanOrEqual(400);
  });
});

describe('sendTo', () => {
  it('puts the body to the point at rest, and goes on from there', () => {
    const { trace } = run('sendTo', ['right'], { 'bounds.sendToX': 60, 'bounds.sendToY': 80 });
    const at = Array.from({ length: trace.end }, (_, row) => row).find((row) => trace.at('events', row) & SENT) as number;
    expect([trace.at('x', at), trace.at('y', at), trace.at('speed', at)]).toEqual([60, 80, 0]);
    expect(trace.at('x', at + 1)).toBeGreaterThan(60);
  });
});

describe('measured by the centre', () => {
  it('it is the centre that is held, wherever the origin is', () => {
    for (const [originX, originY] of [
      [0, 0],
      [1, 0.25],
      [0.3, 0.9],
    ] as const) {
      const values = { 'bounds.measure': 'centre', 'body.originX': originX, 'body.originY': originY };
      const { body } = run('clamp', ['right', 'down'], values);
      expect(body.x + (0.5 - originX) * 24).toBeCloseTo(400, 9);
      expect(body.y + (0.5 - originY) * 24).toBeCloseTo(300, 9);
      const back = run('clamp', ['left', 'up'], values).body;
      expect([back.x + (0.5 - originX) * 24, back.y + (0.5 - originY) * 24].map((value) => Math.abs(value) < 1e-9)).toEqual([true, true]);
    }
  });
});

describe('edges beside walls', () => {
  const wall = (...points: [number, number][]) => ({ points, closed: false, solid: true });
  /** A wall that runs along the left edge: a body that is pushed back, or comes in there, would be in it. */
  const walled = openGround({
    size: { width: 400, height: 300 },
    start: { x: 200, y: 150 },
    walls: [wall([30, -50], [30, 350]), wall([0, 200], [400, 200])],
  });

  it('a push ends short of the wall, and says so', () => {
    for (const push of [10, 40, 400]) {
      const { trace } = drive(
        { 'bounds.policy': 'push', 'bounds.push': push, 'ramp.model': 'instant' },
        120,
        [{ at: 0, press: 'up' }],
        openGround({ size: { width: 400, height: 300 }, start: { x: 200, y: 150 }, walls: [wall([150, 45], [250, 45])] }),
      );
      // The body is held by the wall: it never gets to the edge above it.
      expect(Math.min(...trace.values('y'))).toBeCloseTo(45 + 12.01, 5);
    }
    const { trace } = drive(
      { 'bounds.policy': 'push', 'bounds.push': 100, 'ramp.model': 'instant' },
      120,
      [{ at: 0, press: 'right' }],
      openGround({ size: { width: 400, height: 300 }, start: { x: 360, y: 150 }, walls: [wall([340, 0], [340, 300])] }),
    );
    for (let row = 0; row < trace.end; row++) expect(trace.at('x', row)).toBeGreaterThanOrEqual(340 + 12);
    expect(trace.values('events').some((events) => events & START_MOVED)).toBe(true);
  });

  it('a body that wraps, or is sent, comes to a free place', () => {
    for (const policy of ['wrap', 'sendTo']) {
      const { trace } = drive(
        { 'bounds.policy': policy, 'bounds.sendToX': 30, 'bounds.sendToY': 200, 'ramp.model': 'instant' },
        200,
        hold('right'),
        walled,
      );
      for (let row = 1; row < trace.end; row++) {
        const [x, y] = [trace.at('x', row), trace.at('y', row)];
        expect(Math.abs(x - 30)).toBeGreaterThanOrEqual(12);
        expect(y).toBeLessThan(200 - 11.9);
      }
      expect(trace.values('events').some((events) => events & (WRAPPED | SENT))).toBe(true);
    }
  });

  it('an edge and a wall that meets it at a slope hold the body in their corner', () => {
    for (const shape of ['box', 'circle'])
      for (const slope of [120, 200, 300, 420]) {
        const ground = openGround({
          size: { width: 1000, height: 1000 },
          start: { x: 900, y: 210 },
          walls: [wall([1000 - slope, -100], [1000, 500])],
        });
        const { trace } = drive(
          { 'bounds.policy': 'clamp', 'body.shape': shape },
          1200,
          [
            { at: 0, press: 'right' },
            { at: 120, press: 'down' },
            { at: 700, release: 'right' },
          ],
          ground,
        );
        // On the side of the wall on which it started: the sign of the distance from it never changes.
        const side = (x: number, y: number) => Math.sign((x - 1000 + slope) * 600 - (y + 100) * slope);
        const began = side(trace.at('x', 0), trace.at('y', 0));
        for (let row = 0; row < trace.end; row++) {
          expect(side(trace.at('x', row), trace.at('y', row))).toBe(began);
          expect(trace.at('x', row)).toBeLessThanOrEqual(988);
        }
      }
  });
});
