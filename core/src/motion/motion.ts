/**
 * The body under way: what the moving stages hand on to each other within a tick. Velocity sets `vx … dy`, contact
 * turns the displacement into a new place, bounds correct place and velocity. Every other state is a stage's own.
 */
export interface Motion {
  /** Position of the body's origin, in the ground's unit. */
  x: number;
  y: number;
  /** Velocity, unit/s. */
  vx: number;
  vy: number;
  /** Displacement wanted for this tick, unit. */
  dx: number;
  dy: number;
}

export function createMotion(): Motion {
  return { x: 0, y: 0, vx: 0, vy: 0, dx: 0, dy: 0 };
}
