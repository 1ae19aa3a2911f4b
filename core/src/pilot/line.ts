import { isClear, type PlacedBody } from '../collision/placedBody.ts';
import type { GateLine } from '../course/gates.ts';
import { alongGate, beyondGate } from '../course/gates.ts';
import { atan2, cos, PI, sin, wrapAngle } from '../math/functions.ts';
import type { PilotLine } from './options.ts';
import type { Skills } from './skills.ts';

/** The line that the pilot drives: evenly spaced samples of a path, kept off walls, with the speed that each allows. */
export interface Line {
  count: number;
  /** Distance between samples, unit. */
  spacing: number;
  x: Float64Array;
  y: Float64Array;
  /** Room beside the line for drifting, unit. */
  room: Float64Array;
  /** Highest speed at a sample, unit/s. */
  limit: Float64Array;
}

/** Samples per body width, and maximum number of them. */
export const PER_WIDTH = 4;
const MOST = 40_000;
/** Room to keep from walls, and farthest look for them, in body widths. */
const COMFORT = 0.3;
const REACH = 1.25;
/** Allowed drift beside the line where there is no wall, in body widths. */
const SLACK = 0.35;
/** Time lost per change of keys, s: half of the least time between two changes, and a tick. */
const FUMBLE = 0.06;

/** Distance that a body can move from (x, y) along a unit vector before it meets a wall, at most `reach`. */
function roomAlong(body: PlacedBody, x: number, y: number, ux: number, uy: number, reach: number): number {
  return isClear(body, x, y, x + ux * reach, y + uy * reach) ? reach : reach * body.probe.time;
}

/** The samples of a polyline, evenly spaced. */
function sampled(points: readonly (readonly [number, number])[], width: number): Line {
  let length = 0;
  for (let i = 1; i < points.length; i++) {
    const [[x0, y0], [x1, y1]] = [points[i - 1] as readonly [number, number], points[i] as readonly [number, number]];
    length += Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
  }
  const count = Math.max(2, Math.min(MOST, Math.ceil((length / width) * PER_WIDTH) + 1));
  const spacing = Math.max(length / (count - 1), 1e-9);
  const line: Line = {
    count,
    spacing,
    x: new Float64Array(count),
    y: new Float64Array(count),
    room: new Float64Array(count),
    limit: new Float64Array(count),
  };
  let [leg, before] = [1, 0];
  for (let i = 0; i < count; i++) {
    const s = Math.min(length, i * spacing);
    for (;;) {
      const [[x0, y0], [x1, y1]] = [
        points[leg - 1] as readonly [number, number],
        (points[leg] ?? points[leg - 1]) as readonly [number, number],
      ];
      const size = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
      if (s <= before + size || leg >= points.length - 1) {
        const share = size > 0 ? Math.min(1, (s - before) / size) : 0;
        line.x[i] = x0 + (x1 - x0) * share;
        line.y[i] = y0 + (y1 - y0) * share;
        break;
      }
      before += size;
      leg++;
    }
  }
  return line;
}

/** Shifts the line into the middle of narrow passages, and away from single walls, where every piece of it stays clear. */
function keepOff(line: Line, body: PlacedBody, width: number, lines: readonly GateLine[]): void {
  const { count, x, y, room } = line;
  const [reach, comfort] = [REACH * width, COMFORT * width];
  const shift = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const [a, b] = [Math.max(0, i - 1), Math.min(count - 1, i + 1)];
    const [dx, dy] = [(x[b] as number) - (x[a] as number), (y[b] as number) - (y[a] as number)];
    const size = Math.sqrt(dx * dx + dy * dy) || 1;
    const [rx, ry] = [-dy / size, dx / size];
    const right = roomAlong(body, x[i] as number, y[i] as number, rx, ry, reach);
    const left = roomAlong(body, x[i] as number, y[i] as number, -rx, -ry, reach);
    const isNarrow = left + right < 2 * comfort;
    shift[i] = isNarrow ? (right - left) / 2 : left < comfort ? comfort - left : right < comfort ? right - comfort : 0;
    // What lies outside of a turn: that is where the body drifts.
    const [px, py] = [
      (x[Math.max(0, i - PER_WIDTH)] as number) - (x[i] as number),
      (y[Math.max(0, i - PER_WIDTH)] as number) - (y[i] as number),
    ];
    const k = Math.min(count - 1, i + PER_WIDTH);
    const turnsRight = px * ((y[k] as number) - (y[i] as number)) - py * ((x[k] as number) - (x[i] as number)) < 0;
    room[i] = turnsRight ? left + (shift[i] as number) : right - (shift[i] as number);
  }
  const half = Math.round(PER_WIDTH / 2);
  const nx = new Float64Array(x);
  const ny = new Float64Array(y);
  for (let i = 1; i < count - 1; i++) {
    let [sum, many] = [0, 0];
    for (let k = Math.max(0, i - half); k <= Math.min(count - 1, i + half); k++, many++) sum += shift[k] as number;
    const [dx, dy] = [(x[i + 1] as number) - (x[i - 1] as number), (y[i + 1] as number) - (y[i - 1] as number)];
    const size = Math.sqrt(dx * dx + dy * dy) || 1;
    nx[i] = (x[i] as number) + (-dy / size) * (sum / many);
    ny[i] = (y[i] as number) + (dx / size) * (sum / many);
  }
  const isNearGate = (i: number) =>
    lines.some((gate) => {
      const away = Math.abs(beyondGate(gate, x[i] as number, y[i] as number));
      const along = alongGate(gate, nx[i] as number, ny[i] as number) * gate.length;
      return away < width && (along < width / 2 || along > gate.length - width / 2) && along > -width && along < gate.length + width;
    });
  for (let i = 1; i < count - 1; i++) {
    const isSound =
      !isNearGate(i) &&
      isClear(body, x[i - 1] as number, y[i - 1] as number, nx[i] as number, ny[i] as number) &&
      isClear(body, nx[i] as number, ny[i] as number, x[i + 1] as number, y[i + 1] as number);
    if (isSound) {
      x[i] = nx[i] as number;
      y[i] = ny[i] as number;
    }
  }
}

/** Sets the speed that each sample allows: by the turn there and the room beside it, and so that the body can slow down in time. */
function setLimits(line: Line, { lag, turnRate, width, walk, sprint }: Skills): void {
  const { count, spacing, x, y, room, limit } = line;
  const top = Math.max(walk, sprint, 1e-9) * 2;
  const span = Math.max(1, Math.round(PER_WIDTH * 0.75));
  const heading = (from: number, to: number) => atan2((y[to] as number) - (y[from] as number), (x[to] as number) - (x[from] as number));
  for (let i = 0; i < count; i++) {
    const [a, b] = [Math.max(0, i - span), Math.min(count - 1, i + span)];
    const turn = a < i && b > i ? Math.abs(wrapAngle(heading(i, b) - heading(a, i))) : 0;
    const allowed = Math.max(0.05 * width, Math.min(room[i] as number, SLACK * width));
    const drift = lag * (1 - cos(turn)) + FUMBLE * sin(Math.min(turn, PI / 2));
    let speed = drift > 1e-9 ? allowed / drift : top;
    if (turnRate < 1e6 && turn > 0.05) {
      const cut = 1 / cos(Math.min(turn, 2.8) / 2) - 1;
      speed = Math.min(speed, turnRate * Math.max(allowed / Math.max(cut, 1e-6), 0.05 * width));
    }
    limit[i] = Math.min(top, Math.max(speed, 0.1 * walk));
  }
  // Slowing down: a first-order lag loses speed at 1/lag per unit of distance, a steady rate at least half of that.
  const slope = spacing / (2 * Math.max(lag, 1e-6));
  for (let i = count - 2; i >= 0; i--) limit[i] = Math.min(limit[i] as number, (limit[i + 1] as number) + slope);
}

/** Prepares the line along a path: samples, distance from walls if it is to keep off them, speed limits. */
export function lineAlong(
  points: readonly (readonly [number, number])[],
  body: PlacedBody,
  skills: Skills,
  gates: readonly GateLine[],
  kind: PilotLine,
): Line {
  const line = sampled(points, skills.width);
  if (kind === 'middle') keepOff(line, body, skills.width, gates);
  setLimits(line, skills);
  return line;
}
