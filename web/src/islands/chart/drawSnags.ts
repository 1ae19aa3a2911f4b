import { type Severity, type Snag, snagWords, type Trace } from '@zygopod/core';
import type { Inks } from './theme.ts';
import type { View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** Marks closer together than this (pixels) stand for each other. */
const CLOSE = 14;

const rank: readonly Severity[] = ['fault', 'risk', 'hint'];

/** A snag as it is marked: where on the canvas, how bad, and its name. */
export interface SnagMark {
  x: number;
  y: number;
  severity: Severity;
  name: string;
}

/** Where snags are marked on a view: at their places, or where the body was at their moments; of those that lie together the worst one. */
export function snagMarks(snags: readonly Snag[], trace: Trace | null, view: View): SnagMark[] {
  const marks: SnagMark[] = [];
  for (const { id, severity, place, time } of snags.toSorted((a, b) => rank.indexOf(a.severity) - rank.indexOf(b.severity))) {
    const row = time !== undefined && trace ? Math.min(trace.end - 1, Math.max(trace.first, trace.rowAt(time))) : null;
    const at = place ?? (row === null || !trace ? null : { x: trace.at('x', row), y: trace.at('y', row) });
    if (!at) continue;
    const [x, y] = [(at.x - view.x) * view.scale, (at.y - view.y) * view.scale];
    if (marks.every((other) => Math.hypot(other.x - x, other.y - y) >= CLOSE)) marks.push({ x, y, severity, name: snagWords[id][0] });
  }
  return marks;
}

/** The outline of a severity's mark: a wedge, a lozenge, a ring. */
function outline(ctx: Canvas, { x, y, severity }: SnagMark): void {
  ctx.beginPath();
  if (severity === 'hint') ctx.arc(x, y, 5, 0, 2 * Math.PI);
  else if (severity === 'risk')
    for (const [dx, dy] of [
      [0, -7],
      [6, 0],
      [0, 7],
      [-6, 0],
    ] as const)
      ctx.lineTo(x + dx, y + dy);
  else
    for (const [dx, dy] of [
      [0, -7],
      [7, 5],
      [-7, 5],
    ] as const)
      ctx.lineTo(x + dx, y + dy);
  ctx.closePath();
}

/** Where snags are, on the yard. */
export function drawSnags(ctx: Canvas, marks: readonly SnagMark[], inks: Inks): void {
  for (const mark of marks) {
    outline(ctx, mark);
    ctx.fillStyle = inks.sheet;
    ctx.fill();
    ctx.lineWidth = 2;
    ctx.strokeStyle = mark.severity === 'fault' ? inks.now : mark.severity === 'risk' ? inks.stamina : inks.inkSoft;
    ctx.stroke();
  }
}
