import type { DrilledPart } from '../../workers/drills.ts';

const WIDTH = 190;
const HEIGHT = 72;
const ROOM = 6;
/** Room round a way, so that what it meets is seen. */
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

/** A drill as a small drawing of its own runs: ways over the ground, or a value over time; what it was, dashed behind. */
export function Picture({
  part,
  was,
  isWay,
  width = WIDTH,
  height = HEIGHT,
}: {
  part: DrilledPart;
  was: DrilledPart | null;
  isWay: boolean;
  width?: number;
  height?: number;
}) {
  const box = boxOf([part, was]);
  if (!Number.isFinite(box.left)) return <div style={{ height }} />;
  const [wide, tall] = [Math.max(box.right - box.left, 1e-6), Math.max(box.bottom - box.top, 1e-6)];
  const room = isWay ? AROUND : ROOM;
  const [sx, sy] = [(width - 2 * room) / wide, (height - 2 * room) / tall];
  // A way keeps its shape; a value over time fills the drawing, growing upwards.
  const scale = Math.min(sx, sy);
  const x = (value: number) => (isWay ? width / 2 + (value - (box.left + box.right) / 2) * scale : ROOM + (value - box.left) * sx);
  const y = (value: number) => (isWay ? height / 2 + (value - (box.top + box.bottom) / 2) * scale : height - ROOM - (value - box.top) * sy);
  const line = (points: readonly [number, number][]) => points.map(([px, py]) => `${x(px).toFixed(1)},${y(py).toFixed(1)}`).join(' ');
  const hasChanged = was !== null && JSON.stringify(was.runs) !== JSON.stringify(part.runs);
  return (
    <svg aria-hidden="true" width={width} height={height} viewBox={`0 0 ${width} ${height}`} className="block overflow-hidden">
      {part.walls.map(({ points, isSolid }, i) => (
        <polyline key={i} points={line(points)} fill={isSolid ? 'var(--solid)' : 'none'} stroke="var(--hatch)" strokeWidth="1.5" />
      ))}
      {!isWay && <line x1={ROOM} x2={width - ROOM} y1={height - ROOM} y2={height - ROOM} stroke="var(--rule)" />}
      {hasChanged &&
        was.runs.map(({ points }, i) => (
          <polyline key={i} points={line(points)} fill="none" stroke="var(--other)" strokeWidth="1.2" strokeDasharray="4 3" />
        ))}
      {part.runs.map(({ points, gaits }, i) =>
        stretches(points, gaits).map(({ from, gait, points: piece }) => (
          <polyline
            key={`${i} ${from}`}
            points={line(piece)}
            fill="none"
            stroke={inks[gait] ?? inks[1]}
            strokeWidth="1.6"
            strokeLinejoin="round"
          />
        )),
      )}
      {isWay && <circle cx={x(0)} cy={y(0)} r="2.5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.2" />}
    </svg>
  );
}

/** A run's points in stretches of one gait, each with the first point of the next, so that nothing is left open. */
function stretches(
  points: readonly [number, number][],
  gaits: readonly number[],
): { from: number; gait: number; points: [number, number][] }[] {
  const found: { from: number; gait: number; points: [number, number][] }[] = [];
  for (const [i, point] of points.entries()) {
    const last = found.at(-1);
    if (last) last.points.push(point);
    if (!last || gaits[i] !== last.gait) found.push({ from: i, gait: gaits[i] ?? 1, points: [point] });
  }
  return found;
}
