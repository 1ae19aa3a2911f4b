import { atan2, clamp, cos, DEGREE, length, PI, sin, wrapAngle } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { prepareCurve } from './accelerationCurve.ts';
import { type Integration, moveWith } from './integration.ts';
import { linearRamp, type Rates, smoothRamp, type Target } from './ramp.ts';
import {
  type ClockState,
  type ContactState,
  createMotion,
  type FacingState,
  type GaitState,
  type IntentState,
  type Motion,
  type VelocityState,
  type Wish,
} from './slices.ts';

export interface VelocityParameters {
  turns: boolean;
  /** Backwards and sideways are as fast as forwards. */
  evenFactors: boolean;
  model: Parameters['ramp']['model'];
  rates: Rates;
  /** The rates of a body that is turned against its motion: it stops as fast as it brakes. */
  braking: Rates;
  halfLife: number;
  heading: boolean;
  turnRate: number;
  backwardFactor: number;
  sidewaysFactor: number;
  integration: Integration;
}

export function prepareVelocity({ scheme, ramp, pace, clock }: Parameters): VelocityParameters {
  const { accelerate, decelerate, brake, ease } = ramp;
  return {
    turns: scheme === 'turn',
    evenFactors: pace.backwardFactor === 1 && pace.sidewaysFactor === 1,
    model: ramp.model,
    rates: { accelerate, decelerate, brake, ease, curve: ramp.model === 'curve' ? prepareCurve(ramp.points) : null },
    braking: { accelerate, decelerate: brake, brake, ease, curve: null },
    halfLife: ramp.halfLife,
    heading: ramp.turning === 'heading',
    turnRate: ramp.turnRate * DEGREE,
    backwardFactor: pace.backwardFactor,
    sidewaysFactor: pace.sidewaysFactor,
    integration: clock.integration,
  };
}

/** Speed below which a body has no direction of travel of its own. */
const STILL = 1e-6;

/** The velocity aimed at in this tick; written before each use. */
const aim: Target = { x: 0, y: 0 };

/** Speed and distance along the heading, as a motion on one axis. */
const along: Motion = createMotion();

/** Sets the velocity and the displacement of this tick: towards direction × gait speed × factor, as the ramp says. */
export function stepVelocity(
  state: VelocityState,
  p: VelocityParameters,
  motion: Motion,
  intent: IntentState,
  wish: Wish,
  gait: GaitState,
  contact: ContactState,
  facing: FacingState,
  clock: ClockState,
): void {
  if (p.turns && wish.amount === intent.amount) {
    turnAndDrive(state, p, motion, intent, gait.speed * contact.surface, clock.dt);
    return;
  }
  const steady = gait.speed * contact.surface;
  const speed = p.evenFactors || wish.amount === 0 ? steady : steady * facingFactor(p, wish.x, wish.y, facing.angle);
  aim.x = wish.x * speed;
  aim.y = wish.y * speed;
  state.target = wish.amount * speed;
  // Led by a route, a body that turns and drives faces where it goes.
  if (p.turns && wish.amount > 0) state.heading = atan2(wish.y, wish.x);
  if (p.heading) turnHeading(state, p, motion, clock.dt);
  else if (motion.vx === aim.x && motion.vy === aim.y) {
    // A steady motion is the same under every ramp and integration.
    motion.dx = aim.x * clock.dt;
    motion.dy = aim.y * clock.dt;
  } else follow(p, motion, aim, clock.dt);
}

/** Brings the velocity towards the target as the ramp says. */
function follow(p: VelocityParameters, motion: Motion, target: Target, dt: number): void {
  switch (p.model) {
    case 'instant':
      moveWith(motion, target.x, target.y, dt, p.integration === 'trapezoid' ? 'trapezoid' : 'semiImplicit');
      return;
    case 'smooth':
      smoothRamp(motion, target, p.halfLife, dt, p.integration);
      return;
    case 'linear':
    case 'curve':
      linearRamp(motion, target, p.rates, dt, p.integration);
  }
}

/** Radius, in the direction of travel, of the ellipse whose half-axes are 1 forwards, `backward` and `sideways`. */
function facingFactor(p: VelocityParameters, x: number, y: number, facing: number): number {
  const size = length(x, y);
  const forward = (x * cos(facing) + y * sin(facing)) / size;
  const side = Math.sqrt(Math.max(0, 1 - forward * forward));
  const lengthwise = forward < 0 ? p.backwardFactor : 1;
  const across = p.sidewaysFactor;
  const low = length(forward * across, side * lengthwise);
  return low === 0 ? 0 : (lengthwise * across) / low;
}

/** Heading turning: the speed follows its ramp, the direction turns at `turnRate`; against the motion the body brakes. */
function turnHeading(state: VelocityState, p: VelocityParameters, motion: Motion, dt: number): void {
  const speed = length(motion.vx, motion.vy);
  const target = length(aim.x, aim.y);
  const goal = target > 0 ? atan2(aim.y, aim.x) : state.heading;
  if (speed > STILL) state.heading = atan2(motion.vy, motion.vx);
  else state.heading = goal;
  const before = state.heading;
  const away = wrapAngle(goal - before);
  const against = away > PI / 2 || away < -PI / 2;
  if (target > 0) state.heading = wrapAngle(before + clamp(away, -p.turnRate * dt, p.turnRate * dt));
  along.vx = speed;
  along.vy = 0;
  if (against && target > 0) brakeAlong(p, dt);
  else {
    aim.x = target;
    aim.y = 0;
    follow(p, along, aim, dt);
  }
  carryAlong(motion, p, before, state.heading);
}

/** Brakes the motion along the heading to a stop, at the braking rate or with the half-life. */
function brakeAlong(p: VelocityParameters, dt: number): void {
  aim.x = 0;
  aim.y = 0;
  if (p.model === 'linear' || p.model === 'curve') linearRamp(along, aim, p.braking, dt, p.integration);
  else follow(p, along, aim, dt);
}

/** Scheme turn: the heading turns with the hands, the drive is a signed speed along it. */
function turnAndDrive(state: VelocityState, p: VelocityParameters, motion: Motion, intent: IntentState, speed: number, dt: number): void {
  const before = state.heading;
  const target = intent.drive * speed * (intent.drive < 0 ? p.backwardFactor : 1);
  along.vx = motion.vx * cos(before) + motion.vy * sin(before);
  along.vy = 0;
  state.heading = wrapAngle(before + intent.turn * p.turnRate * dt);
  state.target = target < 0 ? -target : target;
  aim.x = target;
  aim.y = 0;
  follow(p, along, aim, dt);
  carryAlong(motion, p, before, state.heading);
}

/** Lays speed and distance along the heading: the new one (semi-implicit), else the mean of old and new. */
function carryAlong(motion: Motion, p: VelocityParameters, before: number, after: number): void {
  const way = p.integration === 'semiImplicit' ? after : before + wrapAngle(after - before) / 2;
  motion.vx = along.vx * cos(after);
  motion.vy = along.vx * sin(after);
  motion.dx = along.dx * cos(way);
  motion.dy = along.dx * sin(way);
}
