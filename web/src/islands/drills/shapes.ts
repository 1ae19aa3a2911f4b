import type { DrilledPart } from '../../workers/drills.ts';

/** A shape of a drill's drawing, in inks of the theme (`var(--ink)`). */
export type Shape =
  | { is: 'line'; points: string; fill: string; ink: string; wide: number; isDashed?: boolean }
  | { is: 'dot'; x: number; y: number; radius: number; fill: string; ink: string; wide: number };

const ROOM = 6;
/** Margin around a path, so that what it meets is visible. */
const AROUND = 14;

/** Inks of the gaits: stand, walk, sprint, spent. */
const inks = ['var(--ink-soft)', 'var(--ink)', 'var(--now)', 'var(--stamina)'] as const;

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

function boxOf(parts: readonly (DrilledPart | null)[]): Box {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (const part of parts)
    for (const { points } of part?.runs ?? [])
      for (const [x, y] of points) {
        box.left = Math.min(box.left, x);
        box.right = Math.max(box.right, x);
        box.top = Math.min(box.top, y);
        box.bottom = Math.max(box.bottom, y);
      }
  return box;
}

/** The drawn content of a drill. */
export interface Drawn {
  part: DrilledPart;
  was: DrilledPart | null;
  /** Paths over the ground, or a value over time. */
  isPath: boolean;
}

/** A drill as a small drawing of its own runs, px: paths over the ground, or a value over time, with the earlier run dashed behind. Empty if nothing was run. */
export function shapesOf({ part, was, isPath }: Drawn, width: number, height: number): Shape[] {
  const box = boxOf([part, was]);
  if (!Number.isFinite(box.left)) return [];
  const [wide, tall] = [Math.max(box.right - box.left, 1e-6), Math.max(box.bottom - box.top, 1e-6)];
  const room = isPath ? AROUND : ROOM;
  const [sx, sy] = [(width - 2 * room) / wide, (height - 2 * room) / tall];
  // A path keeps its shape; a value over time fills the drawing, growing upwards.
  const scale = Math.min(sx, sy);
  const x = (value: number) => (isPath ? width / 2 + (value - (box.left + box.right) / 2) * scale : ROOM + (value - box.left) * sx);
  const y = (value: number) =>
    isPath ? height / 2 + (value - (box.top + box.bottom) / 2) * scale : height - ROOM - (value - box.top) * sy;
  const line = (points: readonly [number, number][]) => points.map(([px, py]) => `${x(px).toFixed(1)},${y(py).toFixed(1)}`).join(' ');
  const hasChanged = was !== null && JSON.stringify(was.runs) !== JSON.stringify(part.runs);
  const ground = height - ROOM;
  return [
    ...part.walls.map(
      ({ points, isSolid }): Shape => ({
        is: 'line',
        points: line(points),
        fill: isSolid ? 'var(--solid)' : 'none',
        ink: 'var(--hatch)',
        wide: 1.5,
      }),
    ),
    ...(isPath
      ? []
      : [{ is: 'line', points: `${ROOM},${ground} ${width - ROOM},${ground}`, fill: 'none', ink: 'var(--rule)', wide: 1 } as const]),
    ...(hasChanged
      ? was.runs.map(
          ({ points }): Shape => ({ is: 'line', points: line(points), fill: 'none', ink: 'var(--other)', wide: 1.2, isDashed: true }),
        )
      : []),
    ...part.runs.flatMap(({ points, gaits }) =>
      stretches(points, gaits).map(
        ({ gait, points: piece }): Shape => ({ is: 'line', points: line(piece), fill: 'none', ink: inks[gait] ?? inks[1], wide: 1.6 }),
      ),
    ),
    ...(isPath ? [{ is: 'dot', x: x(0), y: y(0), radius: 2.5, fill: 'var(--sheet)', ink: 'var(--ink)', wide: 1.2 } as const] : []),
  ];
}

/** A run's points in stretches of one gait, each with the first point of the next, so that nothing is left open. */
function stretches(points: readonly [number, number][], gaits: readonly number[]): { gait: number; points: [number, number][] }[] {
  const found: { gait: number; points: [number, number][] }[] = [];
  for (const [i, point] of points.entries()) {
    const last = found.at(-1);
    if (last) last.points.push(point);
    if (!last || gaits[i] !== last.gait) found.push({ gait: gaits[i] ?? 1, points: [point] });
  }
  return found;
}

/** A shape as SVG, in inks as they are given. */
export function shapeMarkup(shape: Shape, inked: (ink: string) => string): string {
  const paint = `fill="${inked(shape.fill)}" stroke="${inked(shape.ink)}" stroke-width="${shape.wide}"`;
  if (shape.is === 'dot') return `<circle cx="${shape.x.toFixed(1)}" cy="${shape.y.toFixed(1)}" r="${shape.radius}" ${paint}/>`;
  return `<polyline points="${shape.points}" ${paint} stroke-linejoin="round"${shape.isDashed ? ' stroke-dasharray="4 3"' : ''}/>`;
}
