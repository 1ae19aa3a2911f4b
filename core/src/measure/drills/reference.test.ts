import { describe, expect, it } from 'vitest';
import { agrees, each, measured } from '../../testing/measuring.ts';
import { sequence } from '../../testing/sequence.ts';
import type { FileValue } from '../../tuning/schema.ts';

/** Metrics are compared with motions computed here, in steps of a thousandth of a tick. */
const FINE = 1000;

interface Ramp {
  model: 'instant' | 'linear' | 'smooth' | 'curve';
  integration: 'semiImplicit' | 'trapezoid' | 'exact';
  hz: number;
  walk: number;
  up: number;
  down: number;
  brake: number;
  halfLife: number;
  /** Factors of the curve at rest and at full speed. */
  curve: [number, number];
}

/** The rate of change of a speed towards an aim, by the model: unit/s², signed. */
function rateOf(ramp: Ramp, v: number, aim: number): number {
  if (ramp.model === 'smooth') return ((aim - v) * Math.LN2) / ramp.halfLife;
  const sign = Math.sign(aim - v);
  if (aim === 0) return sign * ramp.down;
  if (v * aim < 0) return sign * ramp.brake;
  const [low, high] = ramp.model === 'curve' ? ramp.curve : [1, 1];
  return sign * ramp.up * Math.max(0.01, low + ((high - low) * v) / aim);
}

/** A moment inside a motion. */
interface Moment {
  time: number;
  x: number;
  v: number;
  /** The place by the integral of the speed inside the tick, from where the tick began. */
  inner: number;
}

/** A speed that goes from `v` towards an aim, tick by tick, with what is inside of each. */
function* motion(ramp: Ramp, from: number, aim: number): Generator<Moment> {
  const dt = 1 / ramp.hz;
  let [v, x] = [from, 0];
  for (let tick = 0; ; tick++) {
    const v0 = v;
    const speeds = [v0];
    const held = rateOf(ramp, v0, aim);
    if (ramp.model === 'instant') speeds.push(...Array.from({ length: FINE }, () => aim));
    else if (ramp.model === 'smooth')
      for (let i = 1; i <= FINE; i++) speeds.push(aim + (v0 - aim) * 2 ** (-((i / FINE) * dt) / ramp.halfLife));
    else
      for (let i = 1; i <= FINE; i++) {
        const before = speeds.at(-1) as number;
        const step = ((ramp.integration === 'exact' ? rateOf(ramp, before, aim) : held) * dt) / FINE;
        speeds.push(Math.abs(aim - before) <= Math.abs(step) ? aim : before + step);
      }
    v = speeds.at(-1) as number;
    const whole = (ramp.integration === 'semiImplicit' ? v : (v0 + v) / 2) * dt;
    let inside = 0;
    if (ramp.model === 'instant') yield { time: tick * dt, x, inner: x, v: ramp.integration === 'trapezoid' && aim === 0 ? v0 : aim };
    for (let i = 1; i <= FINE; i++) {
      inside += (((speeds[i - 1] as number) + (speeds[i] as number)) / 2 / FINE) * dt;
      const exact = ramp.integration === 'exact' ? (ramp.model === 'instant' ? (aim * dt * i) / FINE : inside) : (whole * i) / FINE;
      yield { time: (tick + i / FINE) * dt, x: x + exact, inner: x + inside, v: speeds[i] as number };
    }
    x += ramp.integration === 'exact' ? (ramp.model === 'instant' ? aim * dt : inside) : whole;
  }
}

/** The first moment of a motion of which something holds. */
function first(moments: Generator<Moment>, holds: (moment: Moment) => boolean): Moment {
  for (const moment of moments) if (holds(moment)) return moment;
  throw new Error('it never ends');
}

function randomRamp(next: () => number): Ramp {
  const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
  const rate = () => 250 * 200 ** next();
  return {
    model: pick('instant', 'linear', 'smooth', 'curve'),
    integration: pick('semiImplicit', 'trapezoid', 'exact'),
    hz: Math.round(20 + next() * 220),
    walk: 40 + next() * 360,
    up: rate(),
    down: rate(),
    brake: rate(),
    halfLife: 0.001 * 200 ** next(),
    curve: [0.3 + next(), 0.3 + next()],
  };
}

const valuesOf = (ramp: Ramp): Record<string, FileValue> => ({
  'pace.walkSpeed': ramp.walk,
  'ramp.model': ramp.model,
  'ramp.accelerate': ramp.up,
  'ramp.decelerate': ramp.down,
  'ramp.brake': ramp.brake,
  'ramp.halfLife': ramp.halfLife,
  'ramp.points': [
    [0, ramp.curve[0]],
    [1, ramp.curve[1]],
  ],
  'clock.hz': ramp.hz,
  'clock.integration': ramp.integration,
});

describe('metrics of the ramps are those of the motion itself', () => {
  it('start, stop and turn-round, for every ramp, integration and tick rate', () => {
    each(120, 1500, (seed) => {
      const ramp = randomRamp(sequence(seed * 7919));
      const m = measured(valuesOf(ramp), 'standing-start', 'hard-stop', 'turn-round');
      const [tick, perTick] = [1 / ramp.hz, ramp.walk / ramp.hz];
      const what = `seed ${seed}, ${JSON.stringify(ramp)}`;
      const up = first(motion(ramp, 0, ramp.walk), ({ v }) => v >= 0.99 * ramp.walk);
      agrees(m.riseTime, up.time, tick, `${what}: riseTime`);
      agrees(m.riseDistance, up.x, perTick, `${what}: riseDistance`);
      const rest = ramp.model === 'smooth' ? 0.01 * ramp.walk : 0;
      const stop = first(motion(ramp, ramp.walk, 0), ({ v }) => v <= rest + 1e-9);
      agrees(m.stopTime, ramp.model === 'instant' ? 0 : stop.time, tick, `${what}: stopTime`);
      // A stop is over with the last tick that still moves.
      const ticks = Math.ceil(stop.time / tick - 1e-9) * tick;
      const last = first(motion(ramp, ramp.walk, 0), ({ time }) => time >= (rest > 0 ? stop.time : ticks) - 1e-9);
      agrees(m.stopDistance, last.x, perTick, `${what}: stopDistance`);
      const back = first(motion(ramp, -ramp.walk, ramp.walk), ({ v }) => v >= 0.99 * ramp.walk);
      agrees(m.reverseTime, back.time, tick, `${what}: reverseTime`);
      let over = 0;
      for (const { x, inner, time } of motion(ramp, -ramp.walk, ramp.walk)) {
        over = Math.max(over, ramp.integration === 'semiImplicit' ? -x : -inner);
        if (time > back.time + 2 * tick) break;
      }
      agrees(m.reverseOvershoot, over, perTick, `${what}: reverseOvershoot`);
    });
  });
});

describe('metrics of facing are those of the turn itself', () => {
  it('at once, at a rate, with a half-life and by a share a tick, at every rate', () => {
    each(60, 800, (seed) => {
      const next = sequence(seed * 104_729);
      const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
      const turn = pick<'instant' | 'rate' | 'smooth' | 'perTick'>('instant', 'rate', 'smooth', 'perTick');
      const directions = pick('2', '4', '8', '16', 'free');
      const [hz, rate, halfLife, perTick] = [
        Math.round(20 + next() * 220),
        60 * 500 ** next(),
        0.001 * 300 ** next(),
        0.05 + 0.95 * next(),
      ];
      const angle = directions === '2' ? 180 : 90;
      const wanted = {
        instant: 0,
        rate: (0.9 * angle) / rate,
        smooth: halfLife * Math.log2(10),
        perTick: Math.log(0.1) / Math.log(1 - perTick) / hz,
      }[turn];
      // The drill watches for 1.2 s.
      if (wanted > 1.1) return;
      const values = { 'facing.turn': turn, 'facing.directions': directions, 'facing.from': 'input', 'facing.rate': rate };
      const m = measured(
        { ...values, 'facing.halfLife': halfLife, 'facing.perTick': perTick, 'clock.hz': hz, 'facing.stickiness': 0 },
        'facing-turn',
      );
      agrees(m.facingLag, wanted, 1 / hz, `seed ${seed}, ${turn} to ${directions}, ${hz} Hz`);
    });
  });
});

describe('metrics of steps are those of the steps', () => {
  it('of a hundredth of a tick to many, held or pressed, at every rate', () => {
    each(80, 800, (seed) => {
      const next = sequence(seed * 15_485_863);
      const [hz, isRepeat, ease] = [Math.round(20 + next() * 220), next() < 0.5, next() < 0.5 ? 'linear' : 'smooth'];
      const time = 0.0005 * 600 ** next();
      const turn = next() < 0.5 ? 0 : 0.1 * next();
      const m = measured(
        { scheme: 'step', 'step.time': time, 'step.turnTime': turn, 'step.repeat': isRepeat, 'step.ease': ease, 'clock.hz': hz },
        'grid-walk',
      );
      const what = `seed ${seed}: ${time} s at ${hz} Hz, turned in ${turn}, ${ease}, ${isRepeat ? 'held' : 'pressed'}`;
      agrees(m.stepTime, time, 1 / hz, `${what}: stepTime`);
      agrees(m.stepLatency, turn, 1 / hz, `${what}: stepLatency`);
      expect(m.stepDrift, what).toBeLessThan(1e-6);
    });
  });
});

describe('metrics of stamina are those of the bar', () => {
  it('from full to empty and back, at every rate', () => {
    each(40, 400, (seed) => {
      const next = sequence(seed * 32_452_843);
      const [hz, max, drain, regain] = [Math.round(20 + next() * 220), 40 + next() * 160, 15 + next() * 60, 5 + next() * 200];
      const [delay, startAt, recoverTo] = [next() < 0.3 ? 0.04 * next() : next() * 1.5, next() * 39, next() * 39];
      const m = measured(
        {
          'stamina.enabled': true,
          'stamina.max': max,
          'stamina.drain': drain,
          'stamina.regain': regain,
          'stamina.regainDelay': delay,
          'stamina.startAt': startAt,
          'stamina.recoverTo': recoverTo,
          'ramp.model': 'instant',
          'clock.hz': hz,
        },
        'sprint-to-empty',
      );
      const what = `seed ${seed}, ${hz} Hz`;
      agrees(m.sprintTime, max / drain, 1 / hz, `${what}: sprintTime`);
      agrees(m.sprintDistance, (245 * max) / drain, 245 / hz, `${what}: sprintDistance`);
      agrees(m.recoverTime, delay + Math.max(startAt, recoverTo) / regain, 1 / hz, `${what}: recoverTime`);
    });
  });

  it('emptied in lumps, on a multiple of their interval', () => {
    each(20, 200, (seed) => {
      const next = sequence(seed * 49_979_687);
      const [hz, max, drain, interval] = [Math.round(20 + next() * 220), 40 + next() * 160, 15 + next() * 60, 0.1 + next()];
      const values = { 'stamina.enabled': true, 'stamina.max': max, 'stamina.drain': drain, 'stamina.interval': interval };
      const m = measured({ ...values, 'ramp.model': 'instant', 'clock.hz': hz }, 'sprint-to-empty');
      agrees(m.sprintTime, Math.ceil(max / (drain * interval)) * interval, 1 / hz, `seed ${seed}, ${hz} Hz, lumps of ${interval} s`);
    });
  });
});
