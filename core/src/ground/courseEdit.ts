import { shareAlong } from '../math/segment.ts';
import type { Course, Gate, Ground } from './ground.ts';

/** Changes to the course of a ground: each returns a new ground and leaves the old one as it was. */

const withGates = (ground: Ground, gates: Gate[]): Ground => {
  const { course, ...rest } = ground;
  return gates.length > 0 ? { ...rest, course: { laps: course?.laps ?? 1, gates } } : rest;
};

/** Adds a gate at the end: it becomes the finish. */
export const addGate = (ground: Ground, gate: Gate): Ground => withGates(ground, [...(ground.course?.gates ?? []), gate]);

/** Removes a gate; a course without gates is gone. */
export const removeGate = (ground: Ground, index: number): Ground =>
  withGates(
    ground,
    (ground.course?.gates ?? []).filter((_, i) => i !== index),
  );

/** Replaces a gate. */
export const changeGate = (ground: Ground, index: number, gate: Gate): Ground =>
  withGates(
    ground,
    (ground.course?.gates ?? []).map((one, i) => (i === index ? gate : one)),
  );

/** Moves a gate to another place in the order. */
export function reorderGate(ground: Ground, from: number, to: number): Ground {
  const gates = [...(ground.course?.gates ?? [])];
  const [gate] = gates.splice(from, 1);
  if (!gate) return ground;
  gates.splice(Math.min(gates.length, Math.max(0, to)), 0, gate);
  return withGates(ground, gates);
}

/** Sets the number of laps. */
export const setLaps = (ground: Ground, laps: number): Ground =>
  ground.course ? { ...ground, course: { ...ground.course, laps: Math.min(100, Math.max(1, Math.round(laps))) } } : ground;

/** The gate near a place, within `reach`: one of its ends first, then the line between them. */
export function gateNear(
  ground: { course?: Course | undefined },
  x: number,
  y: number,
  reach: number,
): { gate: number; part: 'from' | 'to' | 'line' } | null {
  const gates = ground.course?.gates ?? [];
  const distance = ([px, py]: readonly [number, number]) => Math.sqrt((px - x) ** 2 + (py - y) ** 2);
  for (let gate = gates.length - 1; gate >= 0; gate--)
    for (const part of ['from', 'to'] as const) if (distance((gates[gate] as Gate)[part]) <= reach) return { gate, part };
  for (let gate = gates.length - 1; gate >= 0; gate--) {
    const { from, to } = gates[gate] as Gate;
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const share = Math.min(1, Math.max(0, shareAlong(x - from[0], y - from[1], dx, dy)));
    if (distance([from[0] + dx * share, from[1] + dy * share]) <= reach) return { gate, part: 'line' };
  }
  return null;
}
