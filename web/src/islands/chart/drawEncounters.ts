import { eventBit, type LoggedContact, type Parameters, type Trace, throwPebble, viewCorners, type WallIndex } from '@zygopod/core';
import { drawArrow } from './drawMotion.ts';
import type { Inks } from './theme.ts';
import type { View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** A contact: the point, the wall's normal, the angle at which it was met, and where the body would have gone. */
export function drawContact(ctx: Canvas, contact: LoggedContact, body: Parameters['body'], view: View, inks: Inks): void {
  const { scale } = view;
  const [px, py] = [(contact.pointX - view.x) * scale, (contact.pointY - view.y) * scale];
  const [fx, fy] = [(contact.freeX - view.x) * scale, (contact.freeY - view.y) * scale];
  ctx.setLineDash([2, 3]);
  ctx.strokeStyle = inks.inkSoft;
  ctx.lineWidth = 1;
  ctx.beginPath();
  if (body.shape === 'circle') {
    const [cx, cy] = [fx + (1 - 2 * body.originX) * body.radius * scale, fy + (1 - 2 * body.originY) * body.radius * scale];
    ctx.arc(cx, cy, body.radius * scale, 0, 2 * Math.PI);
  } else ctx.rect(fx - body.originX * body.width * scale, fy - body.originY * body.height * scale, body.width * scale, body.height * scale);
  ctx.stroke();
  ctx.setLineDash([]);
  drawArrow(ctx, px, py, px + contact.normalX * 26, py + contact.normalY * 26, inks.ink);
  ctx.beginPath();
  ctx.arc(px, py, 3.5, 0, 2 * Math.PI);
  ctx.fillStyle = inks.now;
  ctx.fill();
  ctx.font = '500 10.5px "Spline Sans Mono", monospace';
  ctx.textAlign = contact.normalX < -0.3 ? 'right' : 'left';
  ctx.textBaseline = 'middle';
  ctx.lineWidth = 3;
  ctx.strokeStyle = inks.sheet;
  const words = `${Math.round((contact.angle * 180) / Math.PI)}°`;
  const [tx, ty] = [px + contact.normalX * 34 + (contact.normalX < -0.3 ? -2 : 4), py + contact.normalY * 34];
  ctx.strokeText(words, tx, ty);
  ctx.fillStyle = inks.ink;
  ctx.fillText(words, tx, ty);
}

/** Draws the camera's view as a dashed outline with its size. */
export function drawScreen(
  ctx: Canvas,
  camera: Parameters['camera'],
  x: number,
  y: number,
  view: View,
  inks: Inks,
  /** Where the numbers along the lower margin begin. */
  bottom: number,
): void {
  const corners = viewCorners(camera, x, y).map(([wx, wy]) => [(wx - view.x) * view.scale, (wy - view.y) * view.scale] as const);
  ctx.beginPath();
  for (const [px, py] of corners) ctx.lineTo(px, py);
  ctx.closePath();
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 1;
  ctx.globalAlpha = 0.8;
  ctx.setLineDash([7, 5]);
  ctx.stroke();
  ctx.setLineDash([]);
  ctx.globalAlpha = 1;
  const [lx, ly] = corners[3] as readonly [number, number];
  ctx.fillStyle = inks.now;
  ctx.font = '10.5px "Spline Sans Mono", monospace';
  ctx.textAlign = 'left';
  ctx.textBaseline = 'alphabetic';
  ctx.fillText(`screen ${camera.viewWidth} × ${camera.viewHeight}`, lx + 6, Math.min(ly - 6, bottom));
}

/** How long (s) a pebble is to be seen once it has landed. */
const LINGERS = 2.5;

/** The pebbles thrown up to a row: each flies along the facing at the launch speed, and leaves its line behind. */
export function drawPebbles(ctx: Canvas, trace: Trace, row: number, speed: number, walls: WallIndex, view: View, inks: Inks): void {
  const now = trace.at('time', row);
  for (let at = trace.rowAt(now - 6); at <= row; at++) {
    if (!(trace.at('events', at) & eventBit.launched)) continue;
    const flight = throwPebble(walls, trace.at('x', at), trace.at('y', at), trace.at('facing', at));
    const age = now - trace.at('time', at);
    const flown = Math.min(flight.length, age * speed);
    if (age - flight.length / Math.max(speed, 1e-9) > LINGERS) continue;
    const [x0, y0] = [(flight.x - view.x) * view.scale, (flight.y - view.y) * view.scale];
    const [x1, y1] = [x0 + flight.dx * flown * view.scale, y0 + flight.dy * flown * view.scale];
    ctx.setLineDash([1.5, 4]);
    ctx.strokeStyle = inks.now;
    ctx.lineWidth = 1.2;
    ctx.beginPath();
    ctx.moveTo(x0, y0);
    ctx.lineTo(x1, y1);
    ctx.stroke();
    ctx.setLineDash([]);
    ctx.fillStyle = inks.now;
    ctx.beginPath();
    if (flight.hits && flown === flight.length) ctx.rect(x1 - 3, y1 - 3, 6, 6);
    else ctx.arc(x1, y1, 3.5, 0, 2 * Math.PI);
    ctx.fill();
  }
}
