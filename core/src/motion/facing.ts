import { atan2, clamp, DEGREE, exp2, length, PI, TAU, wrapAngle } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** Speed (unit/s) or input under which there is no direction to face. */
const STILL = 1e-3;

export interface FacingParameters {
  /** Width of a sector in radians; 0 when any angle may be faced. */
  sector: number;
  from: Parameters['facing']['from'];
  turn: Parameters['facing']['turn'];
  rate: number;
  halfLife: number;
  perTick: number;
  stickiness: number;
}

export interface FacingState {
  /** Where the body faces, radians. */
  angle: number;
  /** Where it should face once it has turned, radians. */
  goal: number;
}

export function createFacing(): FacingState {
  return { angle: 0, goal: 0 };
}

export function prepareFacing({ facing }: Parameters): FacingParameters {
  return {
    sector: facing.directions === 'free' ? 0 : TAU / Number(facing.directions),
    from: facing.from,
    turn: facing.turn,
    rate: facing.rate * DEGREE,
    halfLife: facing.halfLife,
    perTick: facing.perTick,
    stickiness: facing.stickiness * DEGREE,
  };
}

/** The sector that holds `angle`, unless it is still within `stickiness` of the border of the sector around `current`. */
export function stickySector(angle: number, current: number, sector: number, stickiness: number): number {
  const away = wrapAngle(angle - current);
  if ((away < 0 ? -away : away) <= sector / 2 + stickiness) return current;
  return wrapAngle(Math.floor(angle / sector + 0.5) * sector);
}

/** Faces along (x, y), the source's direction; the null vector keeps what was. */
export function stepFacing(state: FacingState, p: FacingParameters, x: number, y: number, dt: number): void {
  if (length(x, y) > STILL) {
    const angle = atan2(y, x);
    state.goal = p.sector === 0 ? angle : stickySector(angle, state.goal, p.sector, p.stickiness);
  }
  const away = wrapAngle(state.goal - state.angle);
  const turn = turned(p, away, dt);
  state.angle = turn === away ? state.goal : wrapAngle(state.angle + turn);
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

/** An angle in radians as files give it: degrees in (−180, 180]. */
export function inDegrees(angle: number): number {
  return angle === PI ? 180 : angle / DEGREE;
}
