import { atan2, clamp, cos, DEGREE, exp2, length, PI, sin, wrapAngle } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { prepareCurve } from './accelerationCurve.ts';
import type { Own } from './body.ts';
import { brakeInTick } from './brakeInTick.ts';
import { BY_DRIVE, BY_HANDS, BY_HEADING, BY_VECTOR, LANDS_AT_REST, PASSES, WAS_SENT } from './codes.ts';
import { type RampPlan, stepRamp } from './ramp.ts';
import { arrivedSpeed, restSpeed } from './still.ts';

/** Settings of the velocity stage. */
export interface VelocityPlan {
  /** Grid steps set the place directly. */
  steps: boolean;
  turns: boolean;
  heading: boolean;
  /** The wanted velocity is the wish times the speed, without any steering. */
  plain: boolean;
  /** Backwards and sideways are as fast as forwards. */
  evenFactors: boolean;
  backwardFactor: number;
  sidewaysFactor: number;
  turnRate: number;
  /** Speed below which a body has no direction of travel of its own, unit/s. */
  rest: number;
  /** True if positions are exact integrals of the velocity. */
  exact: boolean;
  ramp: RampPlan;
  /** The ramp of a body turned against its motion: it stops at its braking rate. */
  braking: RampPlan;
}

export function prepareVelocity({ scheme, body, ramp, pace, clock }: Parameters): VelocityPlan {
  const { accelerate, decelerate, brake, ease, model, halfLife } = ramp;
  const dt = 1 / clock.hz;
  const rates: RampPlan = {
    model,
    integration: clock.integration,
    accelerate,
    decelerate,
    brake,
    ease,
    halfLife,
    arrived: arrivedSpeed(body),
    dt,
    kept: exp2(-dt / halfLife),
    curve: model === 'curve' ? prepareCurve(ramp.points) : null,
    flow: { s: 0.5, integral: 0.5, time: 0.5 },
  };
  const turns = scheme === 'turn';
  const steps = scheme === 'step';
  const heading = ramp.turning === 'heading';
  const evenFactors = pace.backwardFactor === 1 && pace.sidewaysFactor === 1;
  return {
    steps,
    turns,
    heading,
    plain: !steps && !turns && !heading && evenFactors,
    evenFactors,
    backwardFactor: pace.backwardFactor,
    sidewaysFactor: pace.sidewaysFactor,
    turnRate: ramp.turnRate * DEGREE,
    rest: restSpeed(body),
    exact: clock.integration === 'exact',
    ramp: rates,
    braking: { ...rates, decelerate: brake, curve: null },
  };
}

/**
 * Sets velocity and displacement of this tick: towards v* = direction × gait speed × surface × facing factor, by the ramp. With vector turning the
 * ramp starts at the actual velocity, with heading turning and in scheme turn at a speed along a heading, which walls and edges do not change (unless
 * they stop the body). On a route the speed is limited, and a tick that would pass its end ends on it.
 */
export function stepVelocity(body: Own<'velocity'>, p: VelocityPlan): void {
  const speed = body.gaitSpeed * body.contactSurface;
  const x = body.routeWishX * speed;
  const y = body.routeWishY * speed;
  if (p.plain && body.vx === x && body.vy === y && body.routeActive === BY_HANDS) {
    // A steady motion is the same under every ramp and integration.
    const dx = x * body.clockDt;
    const dy = y * body.clockDt;
    body.velocityX = x;
    body.velocityY = y;
    body.velocityDx = dx;
    body.velocityDy = dy;
    body.velocityToX = body.x + dx;
    body.velocityToY = body.y + dy;
    body.velocityTarget = body.routeWishAmount * speed;
  } else drive(body, p);
}

function drive(body: Own<'velocity'>, p: VelocityPlan): void {
  if (p.steps) {
    followSteps(body);
    return;
  }
  const led = body.routeActive !== BY_HANDS && body.routePlanted === 0;
  const mode = p.turns ? BY_DRIVE : p.heading ? BY_HEADING : BY_VECTOR;
  if (mode !== body.velocityMode) changeMode(body, p, mode);
  if (mode === BY_DRIVE && !led && body.routePlanted === 0) turnAndDrive(body, p);
  else {
    aim(body, p);
    if (mode === BY_VECTOR) followVector(body, p, led);
    else followHeading(body, p, led);
  }
  if (led) keepToPath(body, p);
  body.velocityToX = body.x + body.velocityDx;
  body.velocityToY = body.y + body.velocityDy;
  if (led && body.routeLands !== PASSES) land(body);
}

/** Velocity and displacement of a body that steps from cell to cell. */
function followSteps(body: Own<'velocity'>): void {
  body.velocityMode = BY_VECTOR;
  body.velocityToX = body.stepX;
  body.velocityToY = body.stepY;
  body.velocityDx = body.stepX - body.x;
  body.velocityDy = body.stepY - body.y;
  body.velocityX = body.velocityDx / body.clockDt;
  body.velocityY = body.velocityDy / body.clockDt;
  body.velocityTarget = body.routeWishAmount * body.gaitSpeed;
}

/** On a mode change, takes heading and speed from the current velocity. */
function changeMode(body: Own<'velocity'>, p: VelocityPlan, mode: number): void {
  const speed = length(body.vx, body.vy);
  // At rest, a body under turn and drive sets out along its facing.
  const heading = speed > p.rest ? atan2(body.vy, body.vx) : body.facingGoal;
  body.velocityMode = mode;
  body.velocityHeading = heading;
  body.velocitySpeed = speed;
}

/** The velocity aimed at. */
function aim(body: Own<'velocity'>, p: VelocityPlan): void {
  const steady = body.gaitSpeed * body.contactSurface;
  const even = p.evenFactors || body.routeWishAmount === 0 ? steady : steady * facingFactor(body, p);
  const speed = body.routeActive === BY_HANDS ? even : Math.min(even, body.routeCap, body.routePace);
  body.velocityAimX = body.routeWishX * speed;
  body.velocityAimY = body.routeWishY * speed;
  body.velocityTarget = body.routeWishAmount * speed;
}

/** Radius, in the direction of travel, of the ellipse whose half-axes are 1 forwards, `backward` and `sideways`. */
function facingFactor(body: Own<'velocity'>, p: VelocityPlan): number {
  const { routeWishX: x, routeWishY: y, facingAngle: facing } = body;
  const size = length(x, y);
  const forward = (x * cos(facing) + y * sin(facing)) / size;
  const side = Math.sqrt(Math.max(0, 1 - forward * forward));
  const lengthwise = forward < 0 ? p.backwardFactor : 1;
  const across = p.sidewaysFactor;
  const low = length(forward * across, side * lengthwise);
  return low === 0 ? 0 : (lengthwise * across) / low;
}

/** Vector turning: the velocity moves straight to the one aimed at; along a route it is first carried round the bends. */
function followVector(body: Own<'velocity'>, p: VelocityPlan, led: boolean): void {
  // A wall with `keepSpeed` only turned the velocity: the ramp goes on with the earlier speed.
  let x = body.contactKeeps === 1 ? body.velocityX : body.vx;
  let y = body.contactKeeps === 1 ? body.velocityY : body.vy;
  if (led && body.routeCarries === 1) {
    const speed = length(x, y);
    x = speed * body.routeWishX;
    y = speed * body.routeWishY;
  }
  const drops = led && body.routeRestarts === 1;
  body.velocityFromX = drops ? 0 : x;
  body.velocityFromY = drops ? 0 : y;
  stepRamp(body, p.ramp, body.clockDt);
}

/** The speed along the heading at the start of the tick: 0 after a wall, an edge or a new click that stopped the body. */
function speedAlong(body: Own<'velocity'>, led: boolean): number {
  const stopped = body.contactStops === 1 || body.boundsJump === WAS_SENT || (led && body.routeRestarts === 1);
  return stopped ? 0 : body.velocitySpeed;
}

/**
 * Heading turning: the speed follows its ramp, the direction turns at `turnRate`; turned against the motion by more than 90° the body brakes. Scheme
 * turn follows a route's direction.
 */
function followHeading(body: Own<'velocity'>, p: VelocityPlan, led: boolean): void {
  const speed = speedAlong(body, led);
  const target = length(body.velocityAimX, body.velocityAimY);
  const goal = target > 0 ? atan2(body.velocityAimY, body.velocityAimX) : body.velocityHeading;
  const atOnce = speed <= p.rest || (led && (body.routeCarries === 1 || p.turns));
  const before = atOnce ? goal : body.velocityHeading;
  const away = wrapAngle(goal - before);
  const against = away > PI / 2 || away < -PI / 2;
  if (against && target > 0 && p.exact) turnRound(body, p, speed, target, before, goal);
  else {
    const after = target > 0 ? turnedTo(before, away, p.turnRate * body.clockDt) : before;
    followSpeed(body, against && target > 0 ? p.braking : p.ramp, speed, against ? 0 : target, body.clockDt);
    layAlong(body, p, before, after);
  }
}

/** Turns a heading (radians) towards another one by at most `most`. */
function turnedTo(before: number, away: number, most: number): number {
  return wrapAngle(before + clamp(away, -most, most));
}

/**
 * A tick that begins turned against the motion, with exact integration: the body brakes until it stands, which frees its direction, or has turned to
 * 90° off, and continues from there for the rest of the tick.
 */
function turnRound(body: Own<'velocity'>, p: VelocityPlan, speed: number, target: number, before: number, goal: number): void {
  const dt = body.clockDt;
  const away = wrapAngle(goal - before);
  const turned = ((away < 0 ? -away : away) - PI / 2) / p.turnRate;
  const stopped = p.braking.model === 'smooth' ? Infinity : p.braking.model === 'instant' ? 0 : speed / p.braking.decelerate;
  const first = stopped < turned ? stopped : turned;
  const braked = first < dt ? first : dt;
  const side = turnedTo(before, away, p.turnRate * braked);
  followSpeed(body, p.braking, speed, 0, braked);
  layAlong(body, p, before, side);
  if (braked === dt) return;
  const { velocityDx: dx, velocityDy: dy, velocitySpeed: kept } = body;
  const from = stopped <= turned ? goal : side;
  const after = turnedTo(from, wrapAngle(goal - from), p.turnRate * (dt - braked));
  followSpeed(body, p.ramp, stopped <= turned ? 0 : kept, target, dt - braked);
  layAlong(body, p, from, after);
  body.velocityDx += dx;
  body.velocityDy += dy;
}

/** Scheme turn: the heading turns with the hands, the drive is a signed speed along it. */
function turnAndDrive(body: Own<'velocity'>, p: VelocityPlan): void {
  const before = body.velocityHeading;
  const steady = body.gaitSpeed * body.contactSurface;
  const target = body.intentDrive * steady * (body.intentDrive < 0 ? p.backwardFactor : 1);
  body.velocityTarget = target < 0 ? -target : target;
  followSpeed(body, p.ramp, speedAlong(body, false), target, body.clockDt);
  layAlong(body, p, before, wrapAngle(before + body.intentTurn * p.turnRate * body.clockDt));
}

/** The ramp on one axis: from a speed towards another one. */
function followSpeed(body: Own<'velocity'>, ramp: RampPlan, from: number, target: number, dt: number): void {
  body.velocityFromX = from;
  body.velocityFromY = 0;
  body.velocityAimX = target;
  body.velocityAimY = 0;
  stepRamp(body, ramp, dt);
}

/** Sets speed and distance along the heading: the new one (semi-implicit), else the mean of old and new. */
function layAlong(body: Own<'velocity'>, p: VelocityPlan, before: number, after: number): void {
  const heading = p.ramp.integration === 'semiImplicit' ? after : before + wrapAngle(after - before) / 2;
  const speed = body.velocityX;
  const distance = body.velocityDx;
  body.velocityHeading = after;
  body.velocitySpeed = speed;
  body.velocityX = speed * cos(after);
  body.velocityY = speed * sin(after);
  body.velocityDx = distance * cos(heading);
  body.velocityDy = distance * sin(heading);
}

/** Limits the speed to the path's limit: with exact integration at each moment of the tick, else by the path left at its start. */
function keepToPath(body: Own<'velocity'>, p: VelocityPlan): void {
  const speed = length(body.velocityX, body.velocityY);
  if (p.exact && body.routeCarries === 1 && body.routeCap < Infinity) {
    brakeInTick(body, p.ramp.decelerate, speed);
    return;
  }
  if (speed <= body.routeCap) return;
  const share = body.routeCap / speed;
  body.velocityX *= share;
  body.velocityY *= share;
  body.velocityDx *= share;
  body.velocityDy *= share;
  body.velocitySpeed *= share;
}

/** Ends the tick that would pass the path's end or bend at that point: at its end at rest, at a bend with the speed kept. */
function land(body: Own<'velocity'>): void {
  const { velocityDx: dx, velocityDy: dy, routeDistance: distance } = body;
  const along = dx * body.routeWishX + dy * body.routeWishY;
  if (distance > 0 && (along <= 0 || dx * dx + dy * dy < distance * distance)) return;
  body.velocityToX = body.routeAimX;
  body.velocityToY = body.routeAimY;
  body.velocityDx = body.routeAimX - body.x;
  body.velocityDy = body.routeAimY - body.y;
  if (body.routeLands !== LANDS_AT_REST) return;
  body.velocityX = 0;
  body.velocityY = 0;
  body.velocitySpeed = 0;
}
