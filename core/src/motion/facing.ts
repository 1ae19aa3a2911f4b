import type { Ground } from '../ground/ground.ts';
import { atan2, clamp, cos, DEGREE, exp2, length, sin, TAU, wrapAngle } from '../math/functions.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';
import { facelessSpeed } from './still.ts';

/** Input below which there is no direction to face. */
const STILL = 1e-3;

/** Settings of the facing stage. */
export interface FacingPlan {
  /** Unit vectors to the middles of the sectors, x then y, clockwise from east; empty if any angle can be faced. */
  sectors: Float64Array;
  /** Angles of the middles, radians in (−π, π]. */
  middles: Float64Array;
  /** Cosine of the angle from its middle within which the faced sector is kept. */
  keeps: number;
  /** Scheme turn: the heading is faced. Scheme step: the direction of the step. */
  turns: boolean;
  steps: boolean;
  /** Signs of the axes: −1 where one is flipped. */
  signX: number;
  signY: number;
  /** True if a body without a direction turns back to `still`, radians, instead of keeping its facing. */
  returns: boolean;
  still: number;
  fromMovement: boolean;
  fromInput: boolean;
  /** The simplest case: facing follows the movement in each tick. */
  plain: boolean;
  /** Speed (unit/s; a distance, unit) below which there is no direction to face. */
  faceless: number;
  turn: Parameters['facing']['turn'];
  rate: number;
  halfLife: number;
  perTick: number;
}

/** Unit vectors and angles of the middles of sectors, by their number. */
interface Sectors {
  units: Float64Array;
  middles: Float64Array;
}

/** Sectors that were computed before: they depend on their number alone. */
const known = new Map<number, Sectors>();

function sectorsOf(count: number): Sectors {
  const before = known.get(count);
  if (before) return before;
  const sectors = {
    units: Float64Array.from({ length: 2 * count }, (_, i) => unit(i >> 1, count, (i & 1) === 1)),
    middles: Float64Array.from({ length: count }, (_, i) => (i * 2 > count ? i - count : i) * (360 / count) * DEGREE),
  };
  known.set(count, sectors);
  return sectors;
}

export function prepareFacing({ body, facing, scheme }: Parameters, ground: Ground): FacingPlan {
  const count = facing.directions === 'free' ? 0 : Number(facing.directions);
  const { units, middles } = sectorsOf(count);
  const turns = scheme === 'turn';
  const steps = scheme === 'step';
  const returns = facing.whenStill === 'start';
  return {
    sectors: units,
    middles,
    keeps: count === 0 ? 2 : cos(Math.min(TAU / 2, TAU / count / 2 + facing.stickiness * DEGREE)),
    turns,
    steps,
    signX: facing.flip === 'x' || facing.flip === 'both' ? -1 : 1,
    signY: facing.flip === 'y' || facing.flip === 'both' ? -1 : 1,
    returns,
    still: wrapAngle((ground.start.facing ?? facing.start) * DEGREE),
    fromMovement: facing.from === 'movement',
    fromInput: facing.from === 'input',
    plain: facing.from === 'movement' && !turns && !steps && !returns,
    faceless: facelessSpeed(body),
    turn: facing.turn,
    rate: facing.rate * DEGREE,
    halfLife: facing.halfLife,
    perTick: facing.perTick,
  };
}

/** Cosine or sine of the middle of sector i of `count`; the axes exactly. */
function unit(i: number, count: number, isSine: boolean): number {
  const quarter = (i * 4) / count;
  if (Number.isInteger(quarter)) return ([1, 0, -1, 0][(quarter + (isSine ? 3 : 0)) % 4] ?? 0) + 0;
  return isSine ? sin((i * TAU) / count) : cos((i * TAU) / count);
}

/** The sector whose middle is nearest to the recorded direction, the first of equals. */
function nearestSector(body: Own<'facing'>, p: FacingPlan): number {
  const x = body.facingAlongX * p.signX;
  const y = body.facingAlongY * p.signY;
  let nearest = 0;
  let most = -Infinity;
  for (let i = 0; i < p.sectors.length; i += 2) {
    const along = x * (p.sectors[i] as number) + y * (p.sectors[i + 1] as number);
    // Slightly more, so that rounding does not choose between two equally near ones.
    if (along > most * (1 + 1e-12) + 1e-300) {
      most = along;
      nearest = i >> 1;
    }
  }
  return nearest;
}

/** Faces an angle at the start of a run; its sector is kept from there only if the angle is its middle. */
export function faceAtStart(body: Own<'facing'>, angle: number): void {
  body.facingAngle = wrapAngle(angle);
  body.facingGoal = body.facingAngle;
  forgetDirection(body);
}

/** Recomputes the goal at the next tick: the settings for it have changed. */
export function forgetDirection(body: Own<'facing'>): void {
  body.facingAlongX = 0;
  body.facingAlongY = 0;
  body.facingSector = UNKNOWN;
}

/** Sentinels: the goal isn't at a sector's middle; the sector isn't known yet. */
const NONE = -1;
const UNKNOWN = -2;

/**
 * Faces along the motion, the hands' direction or the pointer; without a direction, the facing is kept. With 2 to 16 directions the facing is the
 * sector's; a new sector is taken only past its border by `stickiness`. The angle turns there at once, at a rate, with a half-life, or by a fraction
 * per tick.
 */
export function stepFacing(body: Own<'facing'>, p: FacingPlan, hands: Hands): void {
  if (!p.plain || body.routePlanted === 1) look(body, p, hands);
  else if (body.vx !== body.facingAlongX || body.vy !== body.facingAlongY) lookAlong(body, p);
  if (body.facingAngle !== body.facingGoal) turn(body, p);
}

/** Reads the direction from the tuning's source. */
function look(body: Own<'facing'>, p: FacingPlan, hands: Hands): void {
  // Planted feet leave the facing to the pointer.
  const planted = body.routePlanted === 1 && hands.pointed;
  if (p.steps && !planted) {
    if (body.stepWayX !== 0 || body.stepWayY !== 0) {
      body.facingAlongX = body.stepWayX;
      body.facingAlongY = body.stepWayY;
      aim(body, p);
    }
    return;
  }
  if (p.turns && !planted) {
    aimAt(body, p, body.velocityHeading);
    return;
  }
  const atPointer = planted || !(p.fromMovement || p.fromInput);
  // Before the first pointer event there is no direction to it.
  const unseen = atPointer && !hands.pointed;
  // A speed, an input or a distance too small for a direction.
  const none = p.fromInput && !atPointer ? STILL : p.faceless;
  const x = unseen ? 0 : atPointer ? hands.pointX - body.x : p.fromMovement ? body.vx : body.routeWishX;
  const y = unseen ? 0 : atPointer ? hands.pointY - body.y : p.fromMovement ? body.vy : body.routeWishY;
  if ((x !== body.facingAlongX || y !== body.facingAlongY) && length(x, y) > none) {
    body.facingAlongX = x;
    body.facingAlongY = y;
    aim(body, p);
  } else if (p.returns && length(x, y) <= none) {
    forgetDirection(body);
    body.facingGoal = p.still;
  }
}

/** Along the motion, in sectors: nothing to compute while it stays within the faced sector. */
function lookAlong(body: Own<'facing'>, p: FacingPlan): void {
  const x = body.vx;
  const y = body.vy;
  const square = x * x + y * y;
  if (square <= p.faceless * p.faceless) return;
  body.facingAlongX = x;
  body.facingAlongY = y;
  aim(body, p);
}

/** Aims along the recorded direction; with sectors, at the middle of its sector, unless the faced one is still kept. */
function aim(body: Own<'facing'>, p: FacingPlan): void {
  const fx = body.facingAlongX * p.signX;
  const fy = body.facingAlongY * p.signY;
  if (p.sectors.length === 0) {
    body.facingGoal = atan2(fy, fx);
    return;
  }
  if (body.facingSector === UNKNOWN) body.facingSector = sectorOf(p, body.facingGoal);
  const sector = body.facingSector;
  if (sector !== NONE) {
    const along = fx * (p.sectors[sector * 2] as number) + fy * (p.sectors[sector * 2 + 1] as number);
    if (along >= p.keeps * Math.sqrt(fx * fx + fy * fy)) return;
  }
  body.facingSector = nearestSector(body, p);
  body.facingGoal = p.middles[body.facingSector] as number;
}

/** The sector with an angle as its middle. */
function sectorOf(p: FacingPlan, angle: number): number {
  return p.middles.findIndex((middle) => Math.abs(wrapAngle(middle - angle)) < 1e-9);
}

/** Aims at an angle (radians). */
function aimAt(body: Own<'facing'>, p: FacingPlan, angle: number): void {
  if (p.sectors.length === 0 && p.signX === 1 && p.signY === 1) body.facingGoal = angle;
  else {
    body.facingAlongX = cos(angle);
    body.facingAlongY = sin(angle);
    aim(body, p);
  }
}

/** Turns towards the goal in the shorter direction; half a turn goes clockwise. */
function turn(body: Own<'facing'>, p: FacingPlan): void {
  if (p.turn === 'instant') {
    body.facingAngle = body.facingGoal;
    return;
  }
  const away = wrapAngle(body.facingGoal - body.facingAngle);
  const dt = body.clockDt;
  const part =
    p.turn === 'rate' ? clamp(away, -p.rate * dt, p.rate * dt) : away * (p.turn === 'smooth' ? 1 - exp2(-dt / p.halfLife) : p.perTick);
  body.facingAngle = part === away ? body.facingGoal : wrapAngle(body.facingAngle + part);
}

const compass = ['E', 'ESE', 'SE', 'SSE', 'S', 'SSW', 'SW', 'WSW', 'W', 'WNW', 'NW', 'NNW', 'N', 'NNE', 'NE', 'ENE'] as const;

/** The compass name of an angle in radians among 2, 4, 8 or 16 directions (8 for `free`): E is 0, angles grow clockwise. */
export function compassName(angle: number, directions: Parameters['facing']['directions']): string {
  const count = directions === 'free' ? 8 : Number(directions);
  const index = Math.floor((angle / TAU) * count + 0.5);
  return compass[(((index % count) + count) % count) * (16 / count)] ?? 'E';
}

/** 180/π, chosen so that every sector's angle is exactly a whole or half degree. */
const IN_DEGREES = 57.29577951308232;

/** An angle in radians as files give it: degrees in (−180, 180]. */
export function inDegrees(angle: number): number {
  return angle * IN_DEGREES;
}
