import { describe, expect, it } from 'vitest';
import { type Gate, groundWith } from '../ground/ground.ts';
import { World } from '../motion/world.ts';
import { Recorder } from '../tape/recorder.ts';
import { campaign, seeds } from '../testing/campaign.ts';
import { sequence } from '../testing/sequence.ts';
import { tuningWith } from '../testing/soundTuning.ts';
import { crossingTime, gateLines } from './gates.ts';
import { correctionsIn, LapTimer, lapInTrace, lapOf } from './lap.ts';

const size = { width: 1000, height: 1000 };
const start = { x: 100, y: 500 };
const upright = (x: number, y0 = 400, y1 = 600): Gate => ({ from: [x, y0], to: [x, y1] });
const course = (gates: Gate[], laps = 1) => groundWith({ name: 'Course', size, start, course: { gates, laps } });

/** A trace of a body at given places, a tick of 0.1 s each; contacts by row. */
function traceOf(places: readonly (readonly [number, number])[], touching: readonly number[] = []) {
  const rows = places.map(([x, y], i) => ({ x, y, time: i * 0.1, contacts: touching.includes(i) ? 1 : 0 }));
  return {
    first: 0,
    end: rows.length,
    at: (name: string, row: number) => (rows[row] as unknown as Record<string, number>)[name] ?? 0,
  } as never;
}

describe('a gate', () => {
  it('is crossed by a straight move just where an oracle of small pieces finds its side changed within the ends: 2,000 random moves', () => {
    const next = sequence(5);
    const place = (): [number, number] => [next() * 100, next() * 100];
    let crossed = 0;
    for (let i = 0; i < 2000; i++) {
      const [from, to, a, b] = [place(), place(), place(), place()];
      const [line] = gateLines({ start: { x: a[0], y: a[1] }, course: { gates: [{ from, to }], laps: 1 } });
      if (!line) throw new Error('no line');
      const time = crossingTime(line, ...a, ...b);
      // The oracle: the crossing of two lines by their equations (Cramer's rule).
      const [rx, ry, sx, sy] = [b[0] - a[0], b[1] - a[1], to[0] - from[0], to[1] - from[1]];
      const det = rx * sy - ry * sx;
      const t = ((from[0] - a[0]) * sy - (from[1] - a[1]) * sx) / det;
      const u = ((from[0] - a[0]) * ry - (from[1] - a[1]) * rx) / det;
      // From its start a body goes towards the gate's middle: that side is the front.
      const isIn = t > 0 && t <= 1 && u >= 0 && u <= 1;
      if (isIn) crossed++;
      expect(time >= 0, `move ${i}`).toBe(isIn);
      if (isIn) expect(time).toBeCloseTo(t, 9);
    }
    expect(crossed).toBeGreaterThan(100);
  });

  it('counts in the direction of the course alone, once for each lap', () => {
    const ground = course([upright(200), upright(300)]);
    const there = lapInTrace(
      traceOf([
        [100, 500],
        [250, 500],
        [150, 500],
        [250, 500],
        [350, 500],
      ]),
      ground,
      [],
      10,
    );
    // Over the first gate, back, and over it again: it is crossed already.
    expect(there.gates).toHaveLength(2);
    expect(there.gates[0]).toBeCloseTo(0.1 * (100 / 150), 9);
    const beside = lapInTrace(
      traceOf([
        [100, 500],
        [250, 700],
        [250, 500],
        [350, 500],
      ]),
      ground,
      [],
      10,
    );
    expect(beside).toMatchObject({ finished: false, gates: [] });
  });

  it('can be crossed with others in one tick, in their order', () => {
    const ground = course([upright(200), upright(300), upright(300), upright(400)]);
    const lap = lapInTrace(
      traceOf([
        [100, 500],
        [500, 500],
      ]),
      ground,
      [],
      10,
    );
    expect(lap.finished).toBe(true);
    expect(lap.gates.map((time) => Math.round(time * 1000))).toEqual([25, 50, 50, 75]);
    const wrongOrder = lapInTrace(
      traceOf([
        [100, 500],
        [500, 500],
      ]),
      course([upright(300), upright(200)]),
      [],
      10,
    );
    expect(wrongOrder.gates.length).toBeLessThan(2);
  });

  it('faces the bisector of the course: a hairpin gate is crossed from outside to inside as its neighbours lie', () => {
    const [, turn] = gateLines(course([upright(300), { from: [600, 500], to: [700, 500] }, upright(300, 700, 900)]));
    expect([turn?.nx, turn?.ny]).toEqual([-0, 1]);
  });
});

describe('a lap', () => {
  it('begins as the body leaves the start, and ends inside a tick', () => {
    const lap = lapInTrace(
      traceOf([
        [100, 500],
        [100, 500],
        [100, 500],
        [150, 500],
        [250, 500],
      ]),
      course([upright(200)]),
      [],
      10,
    );
    expect(lap.time).toBeCloseTo(0.1 + 0.05, 9);
    expect(lap.distance).toBeCloseTo(100, 9);
  });

  it('counts contacts apart by more than a tenth of a second as touches', () => {
    const places = Array.from({ length: 12 }, (_, i): [number, number] => [100 + i * 10, 500]);
    const lap = lapInTrace(traceOf(places, [2, 3, 5, 8]), course([upright(1000)]), [], 10);
    expect(lap.touches).toBe(2);
    expect(lap.contactTime).toBeCloseTo(0.4, 9);
  });

  it('counts ticks with changes of the hands as corrections; a stick only when it has moved far', () => {
    const events = [
      { at: 0, press: 'right' },
      { at: 0, press: 'up' },
      { at: 3, release: 'up' },
      { at: 4, stick: [0.1, 0] },
      { at: 5, stick: [0.5, 0] },
      { at: 6, stick: [0.6, 0] },
      { at: 7, stick: [0, 0] },
      { at: 8, point: [3, 4] },
      { at: 9, press: 'pointer' },
      { at: 20, press: 'left' },
    ] as const;
    expect(correctionsIn(events, 0, 10)).toBe(5);
  });

  it('is the same by rows of any rate, and read row by row or whole: random drives', () => {
    for (const seed of seeds(6, 200)) {
      const next = sequence(seed);
      const tuning = tuningWith({ 'clock.hz': [30, 60, 144][seed % 3] as number });
      const ground = course([upright(150 + next() * 100, 0, 1000), upright(400, 0, 1000)], 1);
      const world = new World(tuning.parameters, ground, campaign(2000, 4000));
      const recorder = new Recorder();
      const timer = new LapTimer(ground);
      timer.begin(world.trace, world.trace.end - 1);
      recorder.push({ press: 'right' });
      for (let i = 0; i < 1500 && !timer.isFinished; i++) {
        world.tick(recorder.next());
        timer.read(world.trace, world.trace.end - 1);
      }
      const hz = tuning.parameters.clock.hz;
      const events = recorder.tape('Drive', hz).events;
      const lap = lapOf(timer, events, hz);
      expect(lap).toEqual(lapInTrace(world.trace, ground, events, hz));
      expect(lap.finished).toBe(true);
      // The oracle: the time at which the recorded places, joined by lines, pass the finish.
      const { trace } = world;
      let row = trace.first;
      while (trace.at('x', row + 1) < 400) row++;
      const share = (400 - trace.at('x', row)) / (trace.at('x', row + 1) - trace.at('x', row));
      const passed = trace.at('time', row) + share * (trace.at('time', row + 1) - trace.at('time', row));
      let left = trace.first;
      while (trace.at('x', left + 1) === trace.at('x', trace.first)) left++;
      expect(lap.time).toBeCloseTo(passed - trace.at('time', left), 9);
    }
  });
});
