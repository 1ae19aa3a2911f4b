import type { Ground } from '@zygopod/core';
import type { Inks } from '../chart/theme.ts';
import type { View } from '../chart/view.ts';
import type { Preview } from './stroke.ts';

type Canvas = CanvasRenderingContext2D;

/** The editor's additions to the chart: the selected wall with its grips, the current stroke, the frame's grips. */
export function drawEditing(
  ctx: Canvas,
  ground: Ground,
  view: View,
  inks: Inks,
  parts: {
    selected: number | null;
    gate: number | null;
    selecting: boolean;
    preview: Preview | null;
    pending: readonly [number, number][];
    pointer: { x: number; y: number } | null;
    closing: boolean;
  },
): void {
  const at = (x: number, y: number) => [(x - view.x) * view.scale, (y - view.y) * view.scale] as const;
  const wall = parts.selected === null ? undefined : ground.walls[parts.selected];
  if (wall) {
    ctx.beginPath();
    for (const [x, y] of wall.points) ctx.lineTo(...at(x, y));
    if (wall.closed) ctx.closePath();
    ctx.strokeStyle = inks.now;
    ctx.lineWidth = 2;
    ctx.stroke();
    if (parts.selecting) drawGrips(ctx, wall, at, inks);
  }
  if (parts.selecting)
    ground.course?.gates.forEach(({ from, to }, i) => {
      for (const end of [from, to]) grip(ctx, ...at(...end), inks, parts.gate === i ? 5 : 3.5);
    });
  if (parts.selecting && ground.frame) {
    const { x, y, width, height } = ground.frame;
    for (const [gx, gy] of [
      [x, y],
      [x + width, y + height],
    ] as const)
      grip(ctx, ...at(gx, gy), inks, 4);
  }
  if (parts.preview) drawPreview(ctx, parts.preview, at, inks);
  if (parts.pending.length > 0) {
    const { pointer } = parts;
    const points = pointer ? [...parts.pending, [pointer.x, pointer.y] as [number, number]] : parts.pending;
    drawPreview(ctx, { kind: 'path', points, closed: parts.closing }, at, inks);
    for (const [x, y] of parts.pending) grip(ctx, ...at(x, y), inks, 4);
  }
}

type At = (x: number, y: number) => readonly [number, number];

function drawGrips(ctx: Canvas, wall: Ground['walls'][number], at: At, inks: Inks): void {
  const { points, closed } = wall;
  points.forEach(([x, y], i) => {
    grip(ctx, ...at(x, y), inks, 5);
    const next = points[i + 1] ?? (closed ? points[0] : undefined);
    if (next) grip(ctx, ...at((x + next[0]) / 2, (y + next[1]) / 2), inks, 2.5);
  });
}

function grip(ctx: Canvas, px: number, py: number, inks: Inks, size: number): void {
  ctx.beginPath();
  ctx.arc(px, py, size, 0, 2 * Math.PI);
  ctx.fillStyle = inks.sheet;
  ctx.fill();
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 2;
  ctx.stroke();
}

function drawPreview(ctx: Canvas, preview: Preview, at: At, inks: Inks): void {
  ctx.beginPath();
  let words = '';
  let [wx, wy] = [0, 0];
  if (preview.kind === 'rectangle') {
    const [ax, ay] = at(preview.x0, preview.y0);
    const [bx, by] = at(preview.x1, preview.y1);
    ctx.rect(ax, ay, bx - ax, by - ay);
    words = `${Math.abs(preview.x1 - preview.x0)} × ${Math.abs(preview.y1 - preview.y0)}`;
    [wx, wy] = [Math.max(ax, bx) + 6, Math.max(ay, by) + 4];
  } else {
    for (const [x, y] of preview.points) ctx.lineTo(...at(x, y));
    if (preview.closed) ctx.closePath();
    const [a, b] = [preview.points.at(-2), preview.points.at(-1)];
    if (a && b) {
      words = Math.hypot(b[0] - a[0], b[1] - a[1]).toFixed(1);
      const [px, py] = at(b[0], b[1]);
      [wx, wy] = [px + 8, py - 8];
    }
  }
  ctx.fillStyle = inks.now;
  ctx.globalAlpha = 0.1;
  ctx.fill();
  ctx.globalAlpha = 1;
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 1.5;
  ctx.setLineDash([5, 3]);
  ctx.stroke();
  ctx.setLineDash([]);
  ctx.font = '500 10.5px "Spline Sans Mono", monospace';
  ctx.textAlign = 'left';
  ctx.textBaseline = 'alphabetic';
  ctx.lineWidth = 3;
  ctx.strokeStyle = inks.sheet;
  ctx.strokeText(words, wx, wy);
  ctx.fillStyle = inks.now;
  ctx.fillText(words, wx, wy);
}
