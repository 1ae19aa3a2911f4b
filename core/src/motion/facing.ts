import type { Ground } from '../ground/ground.ts';
import { atan2, clamp, DEGREE, exp2, length, TAU, wrapAngle } from '../math/functions.ts';
import { LAUNCH } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { LAUNCHED } from './events.ts';
import type { ClockState, FacingState, Motion, VelocityState, Wish } from './slices.ts';

/** Speed (unit/s) or input under which there is no direction to face. */
const STILL = 1e-3;

export interface FacingParameters {
  /** Width of a sector in radians; 0 when any angle may be faced. */
  sector: number;
  /** Scheme turn: the heading is faced. */
  turns: boolean;
  /** Scheme step: the way of the step is faced. */
  steps: boolean;
  /** Signs of the axes: −1 where one is flipped. */
  signX: number;
  signY: number;
  /** Whether a body without a direction turns back to `still`, radians, instead of keeping what it faced. */
  returns: boolean;
  still: number;
  fromMovement: boolean;
  fromInput: boolean;
  turn: Parameters['facing']['turn'];
  rate: number;
  halfLife: number;
  perTick: number;
  stickiness: number;
}

/** Works the direction out anew at the next tick: what it is turned into has changed. */
export function forgetDirection(state: FacingState): void {
  state.alongX = 0;
  state.alongY = 0;
}

export function prepareFacing({ facing, scheme }: Parameters, ground: Ground): FacingParameters {
  return {
    sector: facing.directions === 'free' ? 0 : TAU / Number(facing.directions),
    turns: scheme === 'turn',
    steps: scheme === 'step',
    signX: facing.flip === 'x' || facing.flip === 'both' ? -1 : 1,
    signY: facing.flip === 'y' || facing.flip === 'both' ? -1 : 1,
    returns: facing.whenStill === 'start',
    still: (ground.start.facing ?? facing.start) * DEGREE,
    fromMovement: facing.from === 'movement',
    fromInput: facing.from === 'input',
    turn: facing.turn,
    rate: facing.rate * DEGREE,
    halfLife: facing.halfLife,
    perTick: facing.perTick,
    stickiness: facing.stickiness * DEGREE,
  };
}

/** The middle of the sector that holds `angle`. */
function sectorAt(angle: number, sector: number): number {
  return wrapAngle(Math.floor(angle / sector + 0.5) * sector);
}

/**
 * The sector that holds `angle`, unless it is still within `stickiness` of the border of the sector around `current`. A
 * `current` that is no sector's middle (a start between two) holds nothing back.
 */
export function stickySector(angle: number, current: number, sector: number, stickiness: number): number {
  const away = wrapAngle(angle - current);
  const near = (away < 0 ? -away : away) <= sector / 2 + stickiness;
  return near && current === sectorAt(current, sector) ? current : sectorAt(angle, sector);
}

/** Faces along the motion, the hands' way or the pointer; where the source has no direction, what was faced is kept. */
export function stepFacing(
  state: FacingState,
  p: FacingParameters,
  motion: Motion,
  velocity: VelocityState,
  wish: Wish,
  planted: boolean,
  hands: Hands,
  clock: ClockState,
): void {
  state.happened = hands.pressed & (1 << LAUNCH) ? LAUNCHED : 0;
  if (p.steps) {
    if (wish.x !== 0 || wish.y !== 0) aim(state, p, atan2(wish.y * p.signY, wish.x * p.signX));
  } else if (p.turns && !planted) aim(state, p, velocity.heading);
  else {
    // Feet that are planted leave the facing to the pointer.
    const x = planted ? hands.pointX - motion.x : p.fromMovement ? motion.vx : p.fromInput ? wish.x : hands.pointX - motion.x;
    const y = planted ? hands.pointY - motion.y : p.fromMovement ? motion.vy : p.fromInput ? wish.y : hands.pointY - motion.y;
    if ((x !== state.alongX || y !== state.alongY) && length(x, y) > STILL) {
      state.alongX = x;
      state.alongY = y;
      aim(state, p, atan2(y * p.signY, x * p.signX));
    } else if (p.returns && length(x, y) <= STILL) {
      state.alongX = 0;
      state.alongY = 0;
      state.goal = wrapAngle(p.still);
    }
  }
  if (state.angle !== state.goal) turn(state, p, clock.dt);
}

function aim(state: FacingState, p: FacingParameters, angle: number): void {
  state.goal = p.sector === 0 ? angle : stickySector(angle, state.goal, p.sector, p.stickiness);
}

/** Turns towards the goal, the shorter way round. */
function turn(state: FacingState, p: FacingParameters, dt: number): void {
  const away = wrapAngle(state.goal - state.angle);
  const part = turned(p, away, dt);
  state.angle = part === away ? state.goal : wrapAngle(state.angle + part);
}

/** The part of `away` that is turned in this tick; half a turn goes clockwise. */
function turned(p: FacingParameters, away: number, dt: number): number {
  switch (p.turn) {
    case 'instant':
      return away;
    case 'rate':
      return clamp(away, -p.rate * dt, p.rate * dt);
    case 'smooth':
      return away * (1 - exp2(-dt / p.halfLife));
    case 'perTick':
      return away * p.perTick;
  }
}

const compass = ['E', 'ESE', 'SE', 'SSE', 'S', 'SSW', 'SW', 'WSW', 'W', 'WNW', 'NW', 'NNW', 'N', 'NNE', 'NE', 'ENE'] as const;

/** The compass name of an angle in radians among 2, 4, 8 or 16 ways (8 for `free`): E is 0, angles grow clockwise. */
export function compassName(angle: number, directions: Parameters['facing']['directions']): string {
  const ways = directions === 'free' ? 8 : Number(directions);
  const index = Math.floor((angle / TAU) * ways + 0.5);
  return compass[(((index % ways) + ways) % ways) * (16 / ways)] ?? 'E';
}

/** 180/π, by which every sector's angle comes out as a whole or half degree exactly. */
const IN_DEGREES = 57.29577951308232;

/** An angle in radians as files give it: degrees in (−180, 180]. */
export function inDegrees(angle: number): number {
  return angle * IN_DEGREES;
}
