import type { Course, Gate, Ground } from '../ground/ground.ts';

/** A gate of a course, prepared for tests of crossing; lengths in the ground's unit. */
export interface GateLine {
  /** Its ends. */
  ax: number;
  ay: number;
  bx: number;
  by: number;
  length: number;
  /** Unit normal in the direction of crossing. */
  nx: number;
  ny: number;
}

const middleOf = ({ from, to }: Gate): [number, number] => [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];

/** The unit vector from one place to another; 0, 0 if they are the same. */
function unit([x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): [number, number] {
  const size = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
  return size > 0 ? [(x1 - x0) / size, (y1 - y0) / size] : [0, 0];
}

/**
 * The gates of a course in the order of crossing. The order gives the direction: a gate is crossed towards the bisector of the direction from the
 * place before it (the start, or the middle of the previous gate) and the direction to the middle of the next one; the last gate of a single lap
 * has no next one. If both lie along the gate, it is crossed from the left of `from` → `to` on the screen to its right.
 */
export function gateLines({ course, start }: Pick<Ground, 'course' | 'start'>): GateLine[] {
  if (!course) return [];
  const { gates, laps } = course;
  const middles = gates.map(middleOf);
  return gates.map(({ from, to }, i) => {
    const middle = middles[i] as [number, number];
    const before = middles[i - 1] ?? [start.x, start.y];
    const after = middles[i + 1] ?? (laps > 1 ? (middles[0] as [number, number]) : middle);
    const [inX, inY] = unit(before, middle);
    const [outX, outY] = unit(middle, after);
    const [alongX, alongY] = unit(from, to);
    const isForward = (inX + outX) * -alongY + (inY + outY) * alongX >= 0;
    return {
      ax: from[0],
      ay: from[1],
      bx: to[0],
      by: to[1],
      length: Math.sqrt((to[0] - from[0]) ** 2 + (to[1] - from[1]) ** 2),
      nx: isForward ? -alongY : alongY,
      ny: isForward ? alongX : -alongX,
    };
  });
}

/** Number of crossings from the start to the finish. */
export const crossingsOf = ({ gates, laps }: Course): number => gates.length * laps;

/** Distance of a place from a gate's line, unit; negative before it, in the direction of crossing. */
export const beyondGate = (gate: GateLine, x: number, y: number): number => (x - gate.ax) * gate.nx + (y - gate.ay) * gate.ny;

/** The position of a place's foot on a gate: 0 at `from`, 1 at `to`. */
export const alongGate = ({ ax, ay, bx, by, length }: GateLine, x: number, y: number): number =>
  length > 0 ? ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / (length * length) : 0;

/** Tolerance for the ends of a gate, as a fraction of its length, against rounding. */
const END = 1e-9;

/**
 * The fraction, in (0, 1], of a straight move from (x0, y0) to (x1, y1) at which it crosses a gate in its direction; −1 if it doesn't. A move that
 * ends on the gate has crossed it, one that begins there has not.
 */
export function crossingTime(gate: GateLine, x0: number, y0: number, x1: number, y1: number): number {
  const before = beyondGate(gate, x0, y0);
  const after = beyondGate(gate, x1, y1);
  if (!(before < 0 && after >= 0)) return -1;
  const time = before / (before - after);
  const along = alongGate(gate, x0 + (x1 - x0) * time, y0 + (y1 - y0) * time);
  return along >= -END && along <= 1 + END ? time : -1;
}
