import type { Ground } from '../ground/ground.ts';
import { groundWith } from '../ground/ground.ts';
import { atan2, LN2, wrapAngle } from '../math/functions.ts';
import { World } from '../motion/world.ts';
import type { Control } from '../tape/controls.ts';
import { Recorder } from '../tape/recorder.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** A set of held direction keys, and the steady velocity (unit/s) that it gives. */
export interface KeySkill {
  keys: readonly Control[];
  /** The stick in the same direction. */
  stick: readonly [number, number];
  vx: number;
  vy: number;
}

/** The knowledge of a tuning that a player gains by playing: measured on open ground. Speeds in unit/s, times in s, angles in radians. */
export interface Skills {
  keys: readonly KeySkill[];
  walk: number;
  sprint: number;
  /** The control that makes it sprint: held, or pressed once; null if none does. */
  sprintControl: { control: Control; isHeld: boolean } | null;
  /** Time constant with which the velocity follows the hands: stopping distance ÷ speed. */
  lag: number;
  /** Turning: rate of the direction of motion, and of the facing in scheme turn. Infinite where it turns at once. */
  turnRate: number;
  /** Fraction of full speed by the stick's travel, at `STICK_TRAVELS`. */
  stick: readonly number[];
  /** Scheme turn: time by which the facing lags behind the heading. */
  facingLag: number;
  /** Larger side of the body. */
  width: number;
}

/** Travels of the stick at which its response is learned. */
const STICK_TRAVELS: readonly number[] = [0.15, 0.3, 0.45, 0.6, 0.75, 0.9, 1];

const DIAGONAL = Math.SQRT1_2;

/** The eight directions of the keys, clockwise from the right. */
const compass: readonly { keys: readonly Control[]; stick: readonly [number, number] }[] = [
  { keys: ['right'], stick: [1, 0] },
  { keys: ['right', 'down'], stick: [DIAGONAL, DIAGONAL] },
  { keys: ['down'], stick: [0, 1] },
  { keys: ['down', 'left'], stick: [-DIAGONAL, DIAGONAL] },
  { keys: ['left'], stick: [-1, 0] },
  { keys: ['left', 'up'], stick: [-DIAGONAL, -DIAGONAL] },
  { keys: ['up'], stick: [0, -1] },
  { keys: ['up', 'right'], stick: [DIAGONAL, -DIAGONAL] },
];

/** Seconds of a trial at most, and the seconds after which a steady speed ends it. */
const TRIAL = 6;
const STEADY = 0.25;
/** Relative change of speed over `STEADY` seconds that counts as none. */
const EVEN = 0.005;

/** Trials on open ground, where nothing holds the body. */
class Trials {
  readonly #world: World;
  readonly #hz: number;

  constructor(parameters: Parameters, ground: Ground) {
    this.#hz = parameters.clock.hz;
    const bare: Parameters = {
      ...parameters,
      bounds: { ...parameters.bounds, policy: 'none' },
      contact: { ...parameters.contact, response: 'none' },
      clock: { ...parameters.clock, stepping: 'fixed' },
    };
    const open = groundWith({ name: 'Open', size: { width: 1e6, height: 1e6 }, start: { x: 5e5, y: 5e5, ...facingOf(ground) } });
    this.#world = new World(bare, open, Math.ceil(2 * TRIAL * this.#hz));
  }

  /** Starts again at rest, with new hands. */
  begin(): Recorder {
    this.#world.restart();
    return new Recorder(0);
  }

  get body() {
    return this.#world.body;
  }

  get speed(): number {
    const { vx, vy } = this.#world.body;
    return Math.sqrt(vx * vx + vy * vy);
  }

  /** Runs until the speed is steady, or for `TRIAL` seconds. */
  untilSteady(hands: Recorder): void {
    const span = Math.max(2, Math.ceil(STEADY * this.#hz));
    let last = -1;
    for (let tick = 1; tick <= TRIAL * this.#hz; tick++) {
      this.#world.tick(hands.next());
      if (tick % span !== 0) continue;
      const now = this.speed;
      if (last >= 0 && Math.abs(now - last) <= EVEN * now && tick > 2 * span) return;
      last = now;
    }
  }

  /** Runs a number of seconds; calls `each` after every tick, and ends when that returns true. */
  run(hands: Recorder, seconds: number, each: () => boolean): number {
    const ticks = Math.ceil(seconds * this.#hz);
    for (let tick = 1; tick <= ticks; tick++) {
      this.#world.tick(hands.next());
      if (each()) return tick / this.#hz;
    }
    return Number.POSITIVE_INFINITY;
  }
}

const facingOf = ({ start }: Ground) => (start.facing === undefined ? {} : { facing: start.facing });

function press(hands: Recorder, keys: readonly Control[]): void {
  for (const key of keys) hands.push({ press: key });
}

function release(hands: Recorder, keys: readonly Control[]): void {
  for (const key of keys) hands.push({ release: key });
}

/** The control that sprints, and its speed: held, then pressed once. */
function sprintOf(trials: Trials, keys: readonly Control[], walk: number): Pick<Skills, 'sprint' | 'sprintControl'> {
  for (const [control, isHeld] of [
    ['sprint', true],
    ['sprintToggle', false],
  ] as const) {
    const hands = trials.begin();
    press(hands, keys);
    press(hands, [control]);
    let fastest = 0;
    trials.run(hands, 2, () => {
      fastest = Math.max(fastest, trials.speed);
      return false;
    });
    if (fastest > 1.02 * walk) return { sprint: fastest, sprintControl: { control, isHeld } };
  }
  return { sprint: walk, sprintControl: null };
}

/** Stopping distance from a steady walk, ÷ its speed. */
function lagOf(trials: Trials, keys: readonly Control[], isLatched: boolean): number {
  const hands = trials.begin();
  press(hands, keys);
  trials.untilSteady(hands);
  const { x, y } = trials.body;
  const speed = trials.speed;
  if (speed === 0) return 0;
  release(hands, keys);
  if (isLatched) press(hands, ['plant']);
  trials.run(hands, TRIAL, () => trials.speed <= 0.01 * speed);
  const far = Math.sqrt((trials.body.x - x) ** 2 + (trials.body.y - y) ** 2);
  return far / speed;
}

/** Rate at which the motion turns by a right angle after the keys do; infinite if it takes no time beyond the lag. */
function turnRateOf(trials: Trials, from: KeySkill, to: KeySkill, lag: number): number {
  const hands = trials.begin();
  press(hands, from.keys);
  trials.untilSteady(hands);
  release(hands, from.keys);
  press(hands, to.keys);
  const goal = atan2(to.vy, to.vx);
  const turn = Math.abs(wrapAngle(goal - atan2(trials.body.vy, trials.body.vx)));
  const time = trials.run(hands, TRIAL, () => {
    const { vx, vy } = trials.body;
    return trials.speed > 0 && Math.abs(wrapAngle(atan2(vy, vx) - goal)) < 0.1;
  });
  const rest = time - lag * (LN2 + 2);
  return rest > 0 && time < Number.POSITIVE_INFINITY ? turn / time : Number.POSITIVE_INFINITY;
}

/** The response to the stick: steady speed at each travel to the right, as a fraction of that at full travel. */
function stickOf(trials: Trials, [x, y]: readonly [number, number]): number[] {
  const speeds = STICK_TRAVELS.map((travel) => {
    const hands = trials.begin();
    hands.push({ stick: [x * travel, y * travel] });
    trials.untilSteady(hands);
    return trials.speed;
  });
  const full = speeds.at(-1) as number;
  return speeds.map((speed) => (full > 0 ? speed / full : 0));
}

/** The travel that gives a fraction of full speed, by the learned response. */
export function travelFor({ stick }: Pick<Skills, 'stick'>, share: number): number {
  for (let i = 0; i < STICK_TRAVELS.length; i++) {
    if ((stick[i] as number) < share) continue;
    const [low, high] = [i > 0 ? (stick[i - 1] as number) : 0, stick[i] as number];
    const [from, to] = [i > 0 ? (STICK_TRAVELS[i - 1] as number) : 0, STICK_TRAVELS[i] as number];
    return high > low ? from + ((to - from) * (share - low)) / (high - low) : to;
  }
  return 1;
}

/** Scheme turn: rate of the facing while a turn key is held, and the speed of the drive. */
function turnSkills(trials: Trials, width: number): Skills {
  const hands = trials.begin();
  press(hands, ['up']);
  trials.untilSteady(hands);
  const walk = trials.speed;
  const turning = trials.begin();
  press(turning, ['right']);
  let turned = 0;
  let last = trials.body.facingAngle;
  const turn = () => {
    turned += Math.abs(wrapAngle(trials.body.facingAngle - last));
    last = trials.body.facingAngle;
    return false;
  };
  trials.run(turning, 1, turn);
  const first = turned;
  trials.run(turning, 1, turn);
  const turnRate = turned - first;
  return {
    keys: [],
    stick: [],
    walk,
    ...sprintOf(trials, ['up'], walk),
    lag: lagOf(trials, ['up'], false),
    turnRate,
    facingLag: turnRate > 0 ? Math.max(0, 1 - first / turnRate) : 0,
    width,
  };
}

/** Learns a tuning by driving it on open ground; the ground gives the facing at the start. */
export function learn(parameters: Parameters, ground: Ground): Skills {
  const { width, height } = bodySize(parameters.body);
  const size = Math.max(width, height);
  const trials = new Trials(parameters, ground);
  if (parameters.scheme === 'turn') return turnSkills(trials, size);
  const keys = compass.map(({ keys: held, stick }) => {
    const hands = trials.begin();
    const { x, y } = trials.body;
    press(hands, held);
    if (parameters.scheme !== 'step') {
      trials.untilSteady(hands);
      return { keys: held, stick, vx: trials.body.vx, vy: trials.body.vy };
    }
    // A body between two steps may stand: its mean velocity over a few of them.
    const seconds = 2 * (parameters.step.time + parameters.step.turnTime) + 0.1;
    trials.run(hands, seconds, () => false);
    return { keys: held, stick, vx: (trials.body.x - x) / seconds, vy: (trials.body.y - y) / seconds };
  });
  const fastest = keys.reduce((best, one) => (one.vx ** 2 + one.vy ** 2 > best.vx ** 2 + best.vy ** 2 ? one : best));
  const walk = Math.sqrt(fastest.vx ** 2 + fastest.vy ** 2);
  const lag = lagOf(trials, fastest.keys, parameters.scheme === 'latch');
  const across = keys[(keys.indexOf(fastest) + 2) % keys.length] as KeySkill;
  return {
    keys,
    stick: parameters.scheme === 'step' ? [] : stickOf(trials, fastest.stick),
    walk,
    ...sprintOf(trials, fastest.keys, walk),
    lag,
    facingLag: 0,
    turnRate: across.vx === 0 && across.vy === 0 ? Number.POSITIVE_INFINITY : turnRateOf(trials, fastest, across, lag),
    width: size,
  };
}
