import { type AccelerationCurve, type Flow, factorAt, followCurve, prepareCurve } from '../motion/accelerationCurve.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** Where a speed meets a goal inside a tick: seconds and distance (unit, with the sign of the speed) from the tick's beginning. */
interface Meeting {
  seconds: number;
  distance: number;
}

/** How a tuning's ramp changes a speed on one line during a tick (docs/model.md, “Velocity”). */
export interface SpeedLaw {
  /** The speed after `dt` seconds, from `v0` towards `aim` (unit/s, signed). */
  after(v0: number, aim: number, dt: number): number;
  /**
   * The moment inside of `dt` seconds at which the speed crosses a goal between `v0` and its value after them; null if it does not. The distance is
   * the integral of the speed, as with exact integration.
   */
  meets(v0: number, aim: number, goal: number, dt: number): Meeting | null;
}

/** A steady piece of a linear ramp: to a speed, at a rate (unit/s²). */
interface Piece {
  to: number;
  rate: number;
}

type Ramp = Parameters['ramp'];

/** The pieces from a speed towards another: to rest, back to zero and up, down from a higher speed, or up. */
function piecesOf(v0: number, aim: number, { accelerate, decelerate, brake, ease }: Ramp, isExact: boolean): Piece[] {
  if (aim === 0) return [{ to: 0, rate: decelerate }];
  const along = v0 * Math.sign(aim);
  // Without exact integration the rate of a tick's beginning holds for all of it.
  if (along < 0)
    return isExact
      ? [
          { to: 0, rate: brake },
          { to: aim, rate: accelerate },
        ]
      : [{ to: aim, rate: brake }];
  return [{ to: aim, rate: along > Math.abs(aim) ? ease : accelerate }];
}

/** The law of linear pieces, each ½·rate·t² inside. */
function linearLaw(ramp: Ramp, isExact: boolean): SpeedLaw {
  return {
    after(v0, aim, dt) {
      let [v, left] = [v0, dt];
      for (const { to, rate } of piecesOf(v0, aim, ramp, isExact)) {
        const needed = Math.abs(to - v) / rate;
        if (needed > left) return v + Math.sign(to - v) * rate * left;
        [v, left] = [to, left - needed];
      }
      return v;
    },
    meets(v0, aim, goal, dt) {
      let [v, seconds, distance] = [v0, 0, 0];
      for (const { to, rate } of piecesOf(v0, aim, ramp, isExact)) {
        const isHere = (goal - v) * (goal - to) <= 0;
        const end = isHere ? goal : to;
        const needed = Math.abs(end - v) / rate;
        seconds += needed;
        distance += 0.5 * (v + end) * needed;
        if (isHere) return seconds <= dt ? { seconds, distance } : null;
        v = to;
      }
      return null;
    },
  };
}

/** The law of a half-life: v* + (v − v*)·2^(−t/halfLife), and its integral. */
function smoothLaw({ halfLife }: { halfLife: number }): SpeedLaw {
  return {
    after: (v0, aim, dt) => aim + (v0 - aim) * 2 ** (-dt / halfLife),
    meets(v0, aim, goal, dt) {
      const seconds = halfLife * Math.log2((v0 - aim) / (goal - aim));
      return seconds >= 0 && seconds <= dt ? { seconds, distance: aim * seconds + ((v0 - goal) * halfLife) / Math.LN2 } : null;
    },
  };
}

/** The law of one rate in both directions. */
const steadyLaw = (rate: number): SpeedLaw => ({
  after: (v0, aim, dt) => v0 + Math.sign(aim - v0) * Math.min(Math.abs(aim - v0), rate * dt),
  meets: (v0, _, goal, dt) => {
    const seconds = Math.abs(goal - v0) / rate;
    return seconds <= dt ? { seconds, distance: 0.5 * (v0 + goal) * seconds } : null;
  },
});

const jumps: SpeedLaw = {
  after: (_, aim) => aim,
  meets: (v0, aim, goal) => ((goal - v0) * (goal - aim) <= 0 ? { seconds: 0, distance: 0 } : null),
};

/** Halvings that find where a curve meets a goal: to the last digit. */
const HALVINGS = 50;

/** Along a curve while it speeds up; everything else is linear. */
function curveLaw(ramp: Ramp, curve: AccelerationCurve, isExact: boolean): SpeedLaw {
  const linear = linearLaw(ramp, isExact);
  const speedsUp = (v0: number, aim: number) => aim !== 0 && v0 * Math.sign(aim) >= 0 && Math.abs(v0) < Math.abs(aim);
  if (!isExact) {
    /** A tick is driven at the rate of its beginning. */
    const within = (v0: number, aim: number) =>
      linearLaw({ ...ramp, accelerate: ramp.accelerate * factorAt(curve, Math.abs(v0 / aim)) }, false);
    return {
      after: (v0, aim, dt) => (speedsUp(v0, aim) ? within(v0, aim) : linear).after(v0, aim, dt),
      meets: (v0, aim, goal, dt) => (speedsUp(v0, aim) ? within(v0, aim) : linear).meets(v0, aim, goal, dt),
    };
  }
  /** Up along the curve, from a speed of the same sign. */
  const follow = (v0: number, aim: number, dt: number): Flow => {
    const flow = { s: v0 / aim, integral: 0, time: 0 };
    followCurve(curve, ramp.accelerate / Math.abs(aim), dt, flow);
    return flow;
  };
  const up: SpeedLaw = {
    after: (v0, aim, dt) => follow(v0, aim, dt).s * aim,
    meets(v0, aim, goal, dt) {
      let [low, high] = [0, dt];
      if (follow(v0, aim, high).s < goal / aim) return null;
      for (let i = 0; i < HALVINGS; i++) {
        const middle = (low + high) / 2;
        if (follow(v0, aim, middle).s < goal / aim) low = middle;
        else high = middle;
      }
      return { seconds: high, distance: follow(v0, aim, high).integral * aim };
    },
  };
  return {
    after(v0, aim, dt) {
      if (speedsUp(v0, aim)) return up.after(v0, aim, dt);
      const turned = v0 * aim < 0 ? -v0 / (Math.sign(aim) * ramp.brake) : Infinity;
      return turned < dt ? up.after(0, aim, dt - turned) : linear.after(v0, aim, dt);
    },
    meets(v0, aim, goal, dt) {
      if (speedsUp(v0, aim)) return up.meets(v0, aim, goal, dt);
      if (v0 * aim >= 0 || goal * aim <= 0) return linear.meets(v0, aim, goal, dt);
      const zero = linear.meets(v0, aim, 0, dt);
      const rest = zero && up.meets(0, aim, goal, dt - zero.seconds);
      return zero && rest && { seconds: zero.seconds + rest.seconds, distance: zero.distance + rest.distance };
    },
  };
}

/** The law of a tuning's ramp. */
export function speedLaw({ ramp, clock }: Pick<Parameters, 'ramp' | 'clock'>): SpeedLaw {
  const isExact = clock.integration === 'exact';
  switch (ramp.model) {
    case 'instant':
      return jumps;
    case 'smooth':
      return smoothLaw(ramp);
    case 'curve':
      return curveLaw(ramp, prepareCurve(ramp.points), isExact);
    case 'linear':
      return linearLaw(ramp, isExact);
  }
}

/** The law by which the facing (degrees turned) nears its goal: at once, at a rate, with a half-life, or by a share of the rest in each tick. */
export function turnLaw({ facing, clock }: Pick<Parameters, 'facing' | 'clock'>): SpeedLaw {
  switch (facing.turn) {
    case 'instant':
      return jumps;
    case 'rate':
      return steadyLaw(facing.rate);
    case 'smooth':
      return smoothLaw(facing);
    case 'perTick':
      return facing.perTick >= 1 ? jumps : smoothLaw({ halfLife: -1 / (clock.hz * Math.log2(1 - facing.perTick)) });
  }
}
