import { World } from '../../motion/world.ts';
import type { Control } from '../../tape/controls.ts';
import { Recorder } from '../../tape/recorder.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { plainGround } from './plainGround.ts';

/** Speed over time: [s, unit/s]. */
export type PaceCurve = [number, number][];

/** The pace in one run: press, sprint, back to walk, release, and, apart, a turn against the motion. */
interface PaceProfile {
  curve: PaceCurve;
  /** The distance travelled at each point of the curve, unit. */
  travelled: number[];
  /** The same end with the opposite key instead of none. */
  braking: PaceCurve;
  /** Moments at which a phase begins or its speed is reached. */
  marks: {
    walkAt: number;
    sprintFrom: number;
    sprintAt: number;
    easeFrom: number;
    easeAt: number;
    stopFrom: number;
    stopAt: number;
    brakeAt: number;
  };
  stopDistance: number;
}

const plain = plainGround({ size: { width: 1, height: 1 }, start: { x: 0, y: 0, facing: 0 } });

/** Longest phase (s) that is waited for. */
const PATIENCE = 4;
/** A phase is over when 99 % of its change of speed is done. */
const DONE = 0.01;
const EVENT = 0.12;

/** Runs the core on an empty plain, so that the drawing shows the real motion, ticks and all. */
export function paceProfile(parameters: Parameters): PaceProfile {
  const free: Parameters = {
    ...parameters,
    scheme: 'steer',
    stamina: { ...parameters.stamina, enabled: false },
    bounds: { ...parameters.bounds, policy: 'none' },
    input: { ...parameters.input, axes: 'both', directions: 'free', relativeTo: 'screen', conflict: 'newest' },
    pace: {
      ...parameters.pace,
      sprintKey: 'hold',
      sprintMinStick: 0,
      autoRun: 'off',
      sprintEndsOn: [],
      backwardFactor: 1,
      sidewaysFactor: 1,
    },
    clock: { ...parameters.clock, stepping: 'fixed' },
  };
  const { walkSpeed, sprintSpeed, restoredSpeed } = parameters.pace;
  const world = new World(free, plain, Math.ceil(parameters.clock.hz * (PATIENCE * 5 + 1)));
  const recorder = new Recorder();
  const curve: PaceCurve = [[0, 0]];
  const travelled = [0];

  const step = () => {
    world.tick(recorder.next());
    curve.push([world.body.clockTime, world.body.vx]);
    travelled.push(world.body.x);
  };
  /** Ticks until the speed has reached `goal`, or patience ends; the moment of that. */
  const until = (goal: number): number => {
    const from = world.body.vx;
    const end = world.body.clockTime + PATIENCE;
    const near = Math.max(1e-6, Math.abs(from - goal) * DONE);
    while (Math.abs(world.body.vx - goal) > near && world.body.clockTime < end) step();
    return arrival(curve, goal, near);
  };
  const hold = (seconds: number) => {
    const end = world.body.clockTime + seconds;
    while (world.body.clockTime < end - 1e-9) step();
    return world.body.clockTime;
  };
  const press = (control: Control) => recorder.push({ press: control });
  const release = (control: Control) => recorder.push({ release: control });

  press('right');
  const walkAt = until(walkSpeed);
  const pause = Math.max(EVENT, walkAt * 0.5);
  const sprintFrom = hold(pause);
  press('sprint');
  const sprintAt = until(sprintSpeed);
  const easeFrom = hold(pause);
  release('sprint');
  const easeAt = until(restoredSpeed);
  const stopFrom = hold(pause);

  // The other ending: the opposite key from the same state.
  const other = new World(free, plain, Math.ceil(parameters.clock.hz * PATIENCE) + 1);
  other.restore(world.save());
  const braking: PaceCurve = [[stopFrom, world.body.vx]];
  const against = new Recorder();
  against.push({ press: 'left' });
  while (other.body.vx > 1e-6 && other.body.clockTime < stopFrom + PATIENCE) {
    other.tick(against.next());
    braking.push([other.body.clockTime, Math.max(0, other.body.vx)]);
  }

  release('right');
  const from = world.body.x;
  const stopAt = until(0);
  return {
    curve,
    travelled,
    braking,
    marks: { walkAt, sprintFrom, sprintAt, easeFrom, easeAt, stopFrom, stopAt, brakeAt: braking.at(-1)?.[0] ?? stopFrom },
    stopDistance: world.body.x - from,
  };
}

/** The time at which the last tick of a curve reached `goal`: inside the tick, on the line of the tick before if it was met exactly. */
function arrival(curve: PaceCurve, goal: number, near: number): number {
  const [before, previous, last] = [curve.at(-3), curve.at(-2), curve.at(-1)];
  if (!previous || !last) return last?.[0] ?? 0;
  const met = Math.abs(last[1] - goal) < 1e-9;
  const line = met && before && before[1] !== previous[1] ? [before, previous] : [previous, last];
  const [[t0, v0], [t1, v1]] = line as [[number, number], [number, number]];
  const level = met ? goal : goal + Math.sign(v0 - goal) * near;
  return v1 === v0 ? last[0] : Math.min(last[0], Math.max(previous[0], t0 + ((level - v0) / (v1 - v0)) * (t1 - t0)));
}
