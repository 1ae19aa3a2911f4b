import { exp2, LN2 } from '../../math/functions.ts';

/** The numbers of a mover: speeds in unit/s, rates in unit/s², a half-life in s. */
export interface Mover {
  model: 'instant' | 'linear' | 'smooth';
  walk: number;
  /** 0: it never sprints. */
  sprint: number;
  accelerate: number;
  decelerate: number;
  brake: number;
  ease: number;
  halfLife: number;
  /** The length of the game’s tick, s. */
  tick: number;
}

/** Place, velocity, and the seconds for which a braking tick goes on after it has stopped the motion: x, y, vx, vy, s. */
export type State = [number, number, number, number, number];

/** Differences of speed that are none, as a share of the speed. */
const NONE = 1e-9;

/**
 * Moves a state for `dt` seconds towards a velocity, exactly: at once (instant), by v* + (v − v*)·2^(−t/halfLife) (smooth), or straight towards it
 * at the rate of the phase (linear): to rest, against the motion, down from a higher speed, or up. The model of the core’s velocity stage, in
 * continuous time; a game’s tick keeps its rate to its end, so that braking lasts half a tick longer on average.
 */
export function advance(state: State, tx: number, ty: number, mover: Mover, dt: number): void {
  if (mover.model === 'instant') {
    state[0] += tx * dt;
    state[1] += ty * dt;
    state[2] = tx;
    state[3] = ty;
    return;
  }
  if (mover.model === 'smooth') {
    const keep = exp2(-dt / mover.halfLife);
    const weight = ((1 - keep) * mover.halfLife) / LN2;
    const [ex, ey] = [state[2] - tx, state[3] - ty];
    state[0] += tx * dt + ex * weight;
    state[1] += ty * dt + ey * weight;
    state[2] = tx + ex * keep;
    state[3] = ty + ey * keep;
    return;
  }
  for (let left = dt; left > 0; ) {
    const [vx, vy] = [state[2], state[3]];
    const [ex, ey] = [tx - vx, ty - vy];
    const gap = Math.sqrt(ex * ex + ey * ey);
    if (gap <= NONE * (1 + Math.abs(tx) + Math.abs(ty))) {
      state[2] = tx;
      state[3] = ty;
      state[0] += tx * left;
      state[1] += ty * left;
      return;
    }
    const along = vx * tx + vy * ty;
    const isBraking = along < -NONE * gap;
    const isLate = !isBraking && state[4] > 0 && (tx !== 0 || ty !== 0);
    const rate =
      tx === 0 && ty === 0
        ? mover.decelerate
        : isBraking || isLate
          ? mover.brake
          : vx * vx + vy * vy > (tx * tx + ty * ty) * (1 + 1e-6)
            ? mover.ease
            : mover.accelerate;
    const [ux, uy] = [ex / gap, ey / gap];
    let step = Math.min(left, gap / rate);
    const turning = ux * tx + uy * ty;
    // The phase of braking ends where nothing of the motion is against the wish any more.
    if (isBraking && turning > 0) step = Math.min(step, Math.max(1e-9, -along / (rate * turning)));
    if (isLate) step = Math.min(step, state[4]);
    // A short phase is braked on for as short a time: else the place would jump with the direction of a turn.
    state[4] = isBraking ? Math.min(mover.tick / 2, state[4] + step) : Math.max(0, state[4] - step);
    const [nx, ny] = step >= gap / rate ? [tx, ty] : [vx + ux * rate * step, vy + uy * rate * step];
    state[0] += 0.5 * (vx + nx) * step;
    state[1] += 0.5 * (vy + ny) * step;
    state[2] = nx;
    state[3] = ny;
    left -= step;
  }
}
