import { describe, expect, it } from 'vitest';
import { type Ground, groundWith } from '../../ground/ground.ts';
import { parametersWith } from '../../testing/drive.ts';
import { sequence } from '../../testing/sequence.ts';
import type { FileValue } from '../../tuning/schema.ts';
import { type Metrics, metricSpecOf } from '../metricSpecs.ts';
import { drills } from './list.ts';
import { metricsOf, runDrills } from './run.ts';

const byName = (...names: string[]) => drills.filter(({ name }) => names.includes(name));
const measured = (values: Record<string, FileValue>, ...names: string[]): Metrics =>
  metricsOf([...runDrills(parametersWith(values), { drills: byName(...names) })]);

/** Within half a per cent, or a quarter of a tick's worth. */
function near(value: number | undefined, wanted: number, tick: number, what: string): void {
  expect(value, what).toBeDefined();
  expect(Math.abs((value as number) - wanted), `${what}: ${value}, by the formula ${wanted}`).toBeLessThanOrEqual(
    Math.max(0.005 * Math.abs(wanted), tick / 4),
  );
}

const RATES = [30, 60, 144];

/** Random numbers of a sound tuning, and the formulas of what it comes to, at all three rates. */
function each(count: number, seed: number, check: (next: () => number, hz: number, what: string) => void): void {
  for (let i = 0; i < count; i++) {
    const next = sequence(seed + i * 101);
    const hz = RATES[i % 3] as number;
    check(next, hz, `instance ${i}, ${hz} Hz`);
  }
}
const within = (next: () => number, low: number, high: number) => low + next() * (high - low);

describe('drills agree with closed forms', () => {
  it('start, stop and turn-round on a linear ramp', () => {
    each(60, 11, (next, hz, what) => {
      const [v, a, d, b] = [within(next, 60, 400), within(next, 400, 9000), within(next, 400, 9000), within(next, 400, 9000)];
      const values = {
        'pace.walkSpeed': v,
        'ramp.accelerate': a,
        'ramp.decelerate': d,
        'ramp.brake': b,
        'clock.hz': hz,
        'clock.integration': 'exact',
      };
      const m = measured(values, 'standing-start', 'hard-stop', 'turn-round');
      const [tick, perTick] = [1 / hz, v / hz];
      near(m.riseTime, (0.99 * v) / a, tick, `${what}, riseTime`);
      near(m.riseDistance, (0.99 * v) ** 2 / (2 * a), perTick, `${what}, riseDistance`);
      near(m.stopTime, v / d, tick, `${what}, stopTime`);
      near(m.stopDistance, v ** 2 / (2 * d), perTick, `${what}, stopDistance`);
      near(m.reverseTime, v / b + (0.99 * v) / a, tick, `${what}, reverseTime`);
      near(m.reverseOvershoot, v ** 2 / (2 * b), perTick, `${what}, reverseOvershoot`);
      expect(m.inputLatency).toBe(1);
    });
  });

  it('start and stop with a half-life', () => {
    each(30, 23, (next, hz, what) => {
      const h = within(next, 0.03, 0.3);
      const m = measured({ 'ramp.model': 'smooth', 'ramp.halfLife': h, 'clock.hz': hz }, 'standing-start', 'hard-stop');
      near(m.riseTime, h * Math.log2(100), 1 / hz, `${what}, riseTime`);
      near(m.stopTime, h * Math.log2(100), 1 / hz, `${what}, stopTime`);
    });
  });

  it('a body that turns and goes corners on an arc', () => {
    each(30, 5, (next, hz, what) => {
      const [v, rate] = [within(next, 60, 200), within(next, 90, 400)];
      const m = measured(
        { scheme: 'turn', 'pace.walkSpeed': v, 'ramp.turnRate': rate, 'clock.hz': hz, 'clock.integration': 'exact' },
        'right-angle-turn',
      );
      near(m.turn90Radius, v / ((rate * Math.PI) / 180), v / hz, `${what}, turn90Radius`);
    });
  });

  it('diagonals are even, or the root of two faster', () => {
    expect(measured({}, 'eight-directions').diagonalRatio).toBeCloseTo(1, 6);
    expect(measured({ 'input.normaliseDiagonals': false }, 'eight-directions').diagonalRatio).toBeCloseTo(Math.SQRT2, 6);
    expect(measured({ 'input.directions': '4' }, 'eight-directions').diagonalRatio).toBeUndefined();
  });

  it('faces all eight directions, unless an axis is turned', () => {
    for (const directions of ['4', '8', '16', 'free'])
      expect(measured({ 'facing.directions': directions }, 'eight-directions').facingErrors).toBe(0);
    // Right and left, and the four diagonals.
    expect(measured({ 'facing.flip': 'x' }, 'eight-directions').facingErrors).toBe(6);
    expect(measured({ 'facing.flip': 'both' }, 'eight-directions').facingErrors).toBe(8);
  });

  it('stamina: how long a bar lasts, how far, when it is back, and the share of a long run', () => {
    each(18, 41, (next, hz, what) => {
      const [max, drain, regain] = [within(next, 60, 200), within(next, 15, 60), within(next, 8, 40)];
      const [delay, startAt] = [within(next, 0, 1.5), within(next, 1, 20)];
      const recoverTo = startAt + within(next, 1, 30);
      const values = {
        'stamina.enabled': true,
        'stamina.max': max,
        'stamina.drain': drain,
        'stamina.regain': regain,
        'stamina.regainDelay': delay,
        'stamina.startAt': startAt,
        'stamina.recoverTo': recoverTo,
        'stamina.regainMovingFactor': 1,
        'ramp.model': 'instant',
        'clock.hz': hz,
      };
      const m = measured(values, 'sprint-to-empty', 'long-sprint-cycle');
      near(m.sprintTime, max / drain, 1 / hz, `${what}, sprintTime`);
      near(m.sprintDistance, (245 * max) / drain, 245 / hz, `${what}, sprintDistance`);
      // The wait begins with the last tick that drained, which may end up to a tick before or after the line meets 0.
      near(m.recoverTime, delay + recoverTo / regain, 1 / hz, `${what}, recoverTime`);
      const [sprinted, waited] = [recoverTo / drain, delay + recoverTo / regain];
      const share = sprinted / (sprinted + waited);
      expect(Math.abs((m.sprintShare as number) - share), `${what}, sprintShare ${m.sprintShare}, ${share}`).toBeLessThan(
        0.005 * share + 1 / (hz * sprinted),
      );
      near(m.meanSpeed, 140 + (245 - 140) * (m.sprintShare as number), 8, `${what}, meanSpeed`);
    });
  });

  it('slides along walls at every angle by the cosine, less friction', () => {
    each(9, 61, (next, hz, what) => {
      const friction = next() < 0.3 ? 0 : within(next, 0, 0.6);
      const m = measured({ 'ramp.model': 'instant', 'contact.wallFriction': friction, 'clock.hz': hz }, 'wall-graze');
      for (const degrees of [5, 15, 25, 35, 45, 55, 65, 75, 85]) {
        const angle = (degrees * Math.PI) / 180;
        const kept = Math.max(0, Math.cos(angle) - friction * Math.sin(angle));
        expect(Math.abs((m[`slideKept(${degrees})`] as number) - kept), `${what}, at ${degrees}°`).toBeLessThan(0.005);
      }
    });
    expect(measured({ 'contact.keepSpeed': true }, 'wall-graze')['slideKept(65)']).toBeCloseTo(1, 2);
    expect(measured({ 'contact.response': 'stop' }, 'wall-graze')['slideKept(25)']).toBeCloseTo(0, 6);
  });

  it('comes through gaps hardly wider than the body, of either shape, wherever its origin is', () => {
    each(9, 77, (next, hz, what) => {
      const isBox = next() < 0.5;
      const [radius, width, height] = [within(next, 4, 30), within(next, 8, 50), within(next, 8, 50)];
      const body = isBox ? { 'body.shape': 'box', 'body.width': width, 'body.height': height } : { 'body.radius': radius };
      const m = measured({ ...body, 'body.originX': next(), 'body.originY': next(), 'clock.hz': hz }, 'gap-series');
      const across = isBox ? height : 2 * radius;
      expect(m.tightestGap, what).toBeGreaterThanOrEqual(across);
      expect(m.tightestGap, what).toBeLessThanOrEqual(across * 1.0101);
    });
  });

  it('does not catch on seams, unless they are felt', () => {
    expect(measured({}, 'seam-run').seamCatches).toBe(0);
    expect(measured({ 'contact.seams': true }, 'seam-run').seamCatches).toBeGreaterThan(0);
  });

  it('hangs over the edge by what is held: nothing, or half the body', () => {
    each(6, 3, (next, hz, what) => {
      const radius = within(next, 5, 40);
      near(measured({ 'body.radius': radius, 'clock.hz': hz }, 'edge-press').edgeOvershoot, 0, 1e-6, what);
      near(measured({ 'body.radius': radius, 'bounds.measure': 'centre', 'clock.hz': hz }, 'edge-press').edgeOvershoot, radius, 1e-6, what);
    });
    expect(measured({ 'bounds.policy': 'push', 'bounds.push': 12 }, 'edge-press').edgeTremble).toBeGreaterThan(1);
  });

  it('turns its facing at its rate, and flips on a border without stickiness', () => {
    each(9, 31, (next, hz, what) => {
      const rate = within(next, 180, 1200);
      const values = { 'facing.turn': 'rate', 'facing.rate': rate, 'facing.from': 'input', 'facing.directions': 'free', 'clock.hz': hz };
      near(measured(values, 'facing-turn').facingLag, 81 / rate, 1 / hz, `${what}, facingLag`);
    });
    const border = { 'facing.from': 'input' };
    expect(measured({ ...border, 'facing.stickiness': 10 }, 'facing-turn').facingFlips).toBe(0);
    expect(measured({ ...border, 'facing.stickiness': 0 }, 'facing-turn').facingFlips).toBeGreaterThan(10);
    expect(measured({ 'facing.from': 'input', 'ramp.model': 'instant' }, 'facing-turn').facingLag).toBe(0);
  });

  it('clicks: on the point, by the shortest path, and in the expected time', () => {
    const m = measured({ 'route.enabled': true, 'ramp.model': 'instant', 'facing.directions': 'free' }, 'click-tour', 're-click', 'plant');
    expect(m.arriveError).toBeLessThan(0.01);
    expect(m.arriveOvershoot).toBe(0);
    expect(m.stuckCount).toBe(0);
    near(m.pathRatio, 1, 0.02, 'pathRatio');
    near(m.arriveTime, (Math.hypot(14, 9) * 24) / 140 + 140 / 2400 - 0.05, 1 / 60, 'arriveTime');
    expect(m.reclickKept).toBeCloseTo(1, 6);
    expect(m.plantDrift).toBe(0);
    expect(
      measured({ 'route.enabled': true, 'route.arrival': 'radiusOnly', 'route.arriveRadius': 0.2, 'pace.walkSpeed': 400 }, 'click-tour')
        .arriveError,
    ).toBeGreaterThan(0.2);
  });

  it('steps take their time at every rate, and end on the cell', () => {
    each(12, 91, (next, hz, what) => {
      const [time, turn] = [within(next, 0.08, 0.3), next() < 0.5 ? 0 : within(next, 0.01, 0.1)];
      const ease = next() < 0.5 ? 'linear' : 'smooth';
      const m = measured({ scheme: 'step', 'step.time': time, 'step.turnTime': turn, 'step.ease': ease, 'clock.hz': hz }, 'grid-walk');
      near(m.stepTime, time, 0.1 / hz, `${what}, stepTime`);
      expect(m.stepDrift, what).toBeLessThan(1e-6);
      // It begins with the tick that sees the press.
      near(m.stepLatency, turn, 1 / hz, `${what}, stepLatency`);
    });
  });

  it('a worn stick drifts where there is no dead zone, and only there', () => {
    expect(measured({}, 'dead-zone-drift').deadZoneDrift).toBe(0);
    expect(measured({ 'input.deadZone': 0 }, 'dead-zone-drift').deadZoneDrift).toBeGreaterThan(5);
  });

  it('the view lags by the speed and its half-life', () => {
    each(9, 17, (next, hz, what) => {
      const [v, h] = [within(next, 60, 300), within(next, 0.05, 0.4)];
      const m = measured({ 'pace.walkSpeed': v, 'camera.halfLife': h, 'camera.keepInGround': false, 'clock.hz': hz }, 'view-lag');
      near(m.cameraLag, (v * h) / Math.LN2, v / hz, `${what}, cameraLag`);
    });
  });

  it('swipes lead a body that goes on by itself, and auto-run ends by the opposite direction', () => {
    expect(measured({ scheme: 'latch' }, 'swipe-sequence').swipesTaken).toBe(4);
    expect(measured({ 'pace.autoRun': 'walk' }, 'auto-run').autoRunEnds).toBe(0);
  });

  it('what is free of the rate changes little with it, what is written per tick much', () => {
    const free = {
      'ramp.model': 'smooth',
      'facing.turn': 'smooth',
      'facing.from': 'input',
      'facing.directions': 'free',
      'clock.integration': 'exact',
    };
    expect(measured(free, 'tick-rates').rateSensitivity).toBeLessThan(0.1);
    expect(measured({ ...free, 'camera.follow': 'perTick' }, 'tick-rates').rateSensitivity).toBeGreaterThan(0.5);
    expect(measured({ ...free, 'facing.turn': 'perTick' }, 'tick-rates').rateSensitivity).toBeGreaterThan(0.3);
  });
});

describe('drills of any tuning', () => {
  const extremes: Record<string, Record<string, FileValue>> = {
    'that cannot move': { 'pace.walkSpeed': 0, 'pace.sprintSpeed': 0 },
    'a million fast': { 'pace.walkSpeed': 1e6, 'pace.sprintSpeed': 1e6 },
    'that hardly gets going': { 'ramp.accelerate': 0.001 },
    'as small as can be': { 'body.radius': 0.1 },
    'larger than its cell': { scheme: 'step', 'body.radius': 60 },
    'a thousand times a second': { 'clock.hz': 1000, 'stamina.enabled': true, 'stamina.drain': 0.5 },
    'once a second': { 'clock.hz': 1 },
    'without feeling': { 'contact.response': 'none', 'bounds.policy': 'none', 'route.enabled': true },
  };
  it.each(Object.entries(extremes))(
    '%s say what they can',
    (_, values) => {
      const results = [...runDrills(parametersWith(values))];
      expect(results).toHaveLength(drills.length);
      for (const { drill, not, metrics } of results) {
        if (not !== null) expect(not.startsWith('it failed'), `${drill.name}: ${not}`).toBe(false);
        for (const [key, value] of Object.entries(metrics)) {
          expect(Number.isFinite(value), `${drill.name}, ${key}`).toBe(true);
          expect(metricSpecOf(key).words).not.toBe('');
        }
      }
    },
    30_000,
  );

  it('give nothing that does not apply', () => {
    const m = measured({ 'stamina.enabled': false, 'route.enabled': false }, ...drills.map(({ name }) => name));
    for (const key of ['sprintTime', 'recoverTime', 'pathRatio', 'arriveError', 'stepTime', 'swipesTaken'] as const)
      expect(key in m, key).toBe(false);
  });

  it('take less than half a second, all of them', () => {
    const parameters = parametersWith({ 'stamina.enabled': true, 'route.enabled': true });
    for (const _ of runDrills(parameters));
    const begun = performance.now();
    for (const _ of runDrills(parameters));
    process.stdout.write(`all drills of a tuning: ${(performance.now() - begun).toFixed(0)} ms\n`);
    // Half a second on a core that does nothing else; three times that holds on one that is shared.
    expect(performance.now() - begun).toBeLessThan(1500);
  });
});

describe('the lap', () => {
  const ground = groundWith({
    name: 'Course',
    size: { width: 800, height: 400 },
    start: { x: 60, y: 200 },
    course: {
      laps: 1,
      gates: [
        { from: [300, 150], to: [300, 250] },
        { from: [600, 150], to: [600, 250] },
      ],
    },
  });
  const lapOf = (values: Record<string, FileValue>, on: Ground | null) =>
    [...runDrills(parametersWith(values), { drills: byName('lap'), ground: on })][0];

  it('is driven where the ground has a course, at the speed of the tuning', () => {
    const result = lapOf({ 'pace.walkSpeed': 150, 'pace.sprintSpeed': 150, 'ramp.model': 'instant' }, ground);
    expect(result?.not).toBeNull();
    // Straight on: 540 px at 150 px/s, and the splits add up to it.
    expect(result?.metrics.lapTime).toBeCloseTo(540 / 150, 1);
    expect((result?.metrics['lapSplit(1)'] ?? 0) + (result?.metrics['lapSplit(2)'] ?? 0)).toBeCloseTo(result?.metrics.lapTime as number, 9);
    expect(result?.metrics).toMatchObject({ lapTouches: 0, lapContactTime: 0 });
    expect(result?.metrics.lapPath).toBeCloseTo(1, 1);
  });

  it('does not apply without a course, and says why it was not finished', () => {
    expect(lapOf({}, null)?.not).toBe('needs a ground with a course');
    const far = { ...ground, course: { laps: 1, gates: [{ from: [900, 0] as [number, number], to: [900, 400] as [number, number] }] } };
    const result = lapOf({}, far);
    expect(result?.absent['lapTime']).toEqual({ why: 'not finished: gate 1: the body does not fit on it anywhere', applies: true });
  });
});
