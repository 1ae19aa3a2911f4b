/**
 * A disc (of the body's origin) in which it meets no wall and passes no edge, computed now and then: within it a tick need not search. It saves time
 * and changes no result.
 */
export interface Calm {
  x: number;
  y: number;
  /** Square of its radius; below 0 when nothing is known. */
  square: number;
  /** True if the surroundings have been examined since the body was placed. */
  settled: boolean;
}

export function newCalm(): Calm {
  return { x: 0.5, y: 0.5, square: -0.5, settled: false };
}

/** Discards the known surroundings: the body was placed, not moved. */
export function unsettle(calm: Calm): void {
  calm.square = -1;
  calm.settled = false;
}
