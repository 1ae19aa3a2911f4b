import { type CoursePath, type Ground, gateLines } from '@zygopod/core';
import type { Inks } from './theme.ts';
import type { View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** Radius of a gate's number, and length of its mark of direction, screen pixels. */
const NUMBER = 8.5;
const MARK = 7;

/** Draws the gates of a course: a line from end to end, its number in the middle, and the direction of crossing; the finish is solid. */
export function drawGates(ctx: Canvas, ground: Pick<Ground, 'course' | 'start'>, view: View, inks: Inks): void {
  const lines = gateLines(ground);
  for (const [i, { ax, ay, bx, by, nx, ny }] of lines.entries()) {
    const isFinish = i === lines.length - 1;
    const [x0, y0] = [(ax - view.x) * view.scale, (ay - view.y) * view.scale];
    const [x1, y1] = [(bx - view.x) * view.scale, (by - view.y) * view.scale];
    const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
    const ink = isFinish ? inks.now : inks.route;
    ctx.strokeStyle = ink;
    ctx.lineWidth = isFinish ? 3 : 2;
    ctx.setLineDash(isFinish ? [] : [7, 4]);
    ctx.beginPath();
    ctx.moveTo(x0, y0);
    ctx.lineTo(x1, y1);
    ctx.stroke();
    ctx.setLineDash([]);
    ctx.fillStyle = ink;
    for (const [x, y] of [
      [x0, y0],
      [x1, y1],
    ] as const) {
      ctx.beginPath();
      ctx.arc(x, y, Math.min(3, 12 * view.scale), 0, 2 * Math.PI);
      ctx.fill();
    }
    // Too short for a number, as in the map of the ground.
    if (Math.hypot(x1 - x0, y1 - y0) < 3 * NUMBER) continue;
    // A tick towards the side that it is crossed to.
    ctx.beginPath();
    ctx.moveTo(mx + nx * NUMBER, my + ny * NUMBER);
    ctx.lineTo(mx + nx * (NUMBER + MARK), my + ny * (NUMBER + MARK));
    ctx.lineWidth = 2;
    ctx.stroke();
    ctx.beginPath();
    ctx.arc(mx, my, NUMBER, 0, 2 * Math.PI);
    ctx.fillStyle = inks.sheet;
    ctx.fill();
    ctx.lineWidth = 1.5;
    ctx.stroke();
    ctx.font = '600 11px "Spline Sans Mono", monospace';
    ctx.textAlign = 'center';
    ctx.textBaseline = 'middle';
    ctx.fillStyle = ink;
    ctx.fillText(String(i + 1), mx, my + 0.5);
  }
}

/** Draws the planned path of a course as a fine line. */
export function drawCoursePath(ctx: Canvas, { points }: CoursePath, view: View, inks: Inks): void {
  ctx.beginPath();
  for (const [x, y] of points) ctx.lineTo((x - view.x) * view.scale, (y - view.y) * view.scale);
  ctx.strokeStyle = inks.route;
  ctx.lineWidth = 1.25;
  ctx.globalAlpha = 0.75;
  ctx.stroke();
  ctx.globalAlpha = 1;
}
