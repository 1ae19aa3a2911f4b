/** The clock of a world, and whether its last tick got anywhere. */
export interface ClockState {
  /** Number of the last tick; −1 at the start. */
  tick: number;
  /** Time after it, s. */
  time: number;
  /** Length of the tick under way, s. */
  dt: number;
  /** 1 when a wall or an edge took nearly all of the last tick's way. */
  blocked: number;
}

export function createClock(): ClockState {
  return { tick: -1, time: 0, dt: 0, blocked: 0 };
}
