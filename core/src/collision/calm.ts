/**
 * A disc (of the body's origin) in which it meets no wall and passes no edge, worked out now and then: within it a tick need not look for any.
 * What is known of it changes no result, only the time that it takes.
 */
export interface Calm {
  x: number;
  y: number;
  /** Square of its radius; below 0 when nothing is known. */
  square: number;
  /** Whether the place where the body is has been looked at since it was put there. */
  settled: boolean;
}

export function newCalm(): Calm {
  return { x: 0.5, y: 0.5, square: -0.5, settled: false };
}

/** Has the place where the body is looked at anew: it was put there, not moved. */
export function unsettle(calm: Calm): void {
  calm.square = -1;
  calm.settled = false;
}
