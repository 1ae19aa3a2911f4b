import { bodySize, type Parameters, type Trace } from '@zygopod/core';
import type { Inks } from '../chart/theme.ts';
import type { View } from '../chart/view.ts';

type Canvas = CanvasRenderingContext2D;

/** Seconds between two prints of the model, and seconds of the paths that are drawn before the moment shown. */
const STRIDE = 0.1;
const SHOWN = 12;

/** Half of the length and of the width of a print, px. */
const TOE = 3.5;
const SIDE = 2;

/** Prints of the model up to a row, as small boxes along its facing. */
export function drawModelPrints(ctx: Canvas, trace: Trace, row: number, hz: number, view: View, inks: Inks): void {
  const every = Math.max(1, Math.round(STRIDE * hz));
  const first = Math.max(trace.first, row - SHOWN * hz);
  ctx.beginPath();
  for (let at = Math.ceil(first / every) * every; at <= row; at += every) {
    const [x, y] = [(trace.at('x', at) - view.x) * view.scale, (trace.at('y', at) - view.y) * view.scale];
    const facing = (trace.at('facing', at) * Math.PI) / 180;
    const [c, s] = [Math.cos(facing), Math.sin(facing)];
    for (const [i, [along, across]] of [
      [-TOE, -SIDE],
      [TOE, -SIDE],
      [TOE, SIDE],
      [-TOE, SIDE],
    ].entries() as ArrayIterator<[number, [number, number]]>) {
      const [px, py] = [x + c * along - s * across, y + s * along + c * across];
      if (i === 0) ctx.moveTo(px, py);
      else ctx.lineTo(px, py);
    }
    ctx.closePath();
  }
  ctx.strokeStyle = inks.inkSoft;
  ctx.lineWidth = 1;
  ctx.stroke();
}

/** The game's path up to a row. */
export function drawGamePath(ctx: Canvas, trace: Trace, row: number, hz: number, view: View, inks: Inks): void {
  ctx.beginPath();
  const every = Math.max(1, Math.floor(hz / 30));
  for (let at = Math.max(trace.first, row - SHOWN * hz); at <= row; at += every)
    ctx.lineTo((trace.at('x', at) - view.x) * view.scale, (trace.at('y', at) - view.y) * view.scale);
  ctx.lineTo((trace.at('x', row) - view.x) * view.scale, (trace.at('y', row) - view.y) * view.scale);
  ctx.strokeStyle = inks.route;
  ctx.lineWidth = 2;
  ctx.lineJoin = 'round';
  ctx.stroke();
}

/** The bodies of both in a row: the model dashed, the game with its diamond; and how far they are apart. */
export function drawBodies(
  ctx: Canvas,
  model: Trace,
  game: Trace,
  row: number,
  body: Parameters['body'],
  unit: string,
  view: View,
  inks: Inks,
): void {
  const { width, height } = bodySize(body);
  const [w, h] = [width * view.scale, height * view.scale];
  const at = (trace: Trace) =>
    [
      (trace.at('x', row) - view.x) * view.scale + (0.5 - body.originX) * w,
      (trace.at('y', row) - view.y) * view.scale + (0.5 - body.originY) * h,
      (trace.at('facing', row) * Math.PI) / 180,
    ] as const;
  const outline = (x: number, y: number) => {
    ctx.beginPath();
    if (body.shape === 'circle') ctx.arc(x, y, w / 2, 0, 2 * Math.PI);
    else ctx.rect(x - w / 2, y - h / 2, w, h);
  };
  const heading = (x: number, y: number, facing: number, ink: string) => {
    const reach = Math.max(w, h) / 2;
    ctx.beginPath();
    ctx.moveTo(x + Math.cos(facing) * (reach - 1), y + Math.sin(facing) * (reach - 1));
    ctx.lineTo(x + Math.cos(facing) * (reach + 7), y + Math.sin(facing) * (reach + 7));
    ctx.strokeStyle = ink;
    ctx.stroke();
  };
  const [mx, my, turned] = at(model);
  const [gx, gy, faced] = at(game);
  ctx.lineWidth = 2;
  outline(mx, my);
  ctx.setLineDash([4, 3]);
  ctx.strokeStyle = inks.ink;
  ctx.stroke();
  ctx.setLineDash([]);
  heading(mx, my, turned, inks.ink);
  outline(gx, gy);
  ctx.fillStyle = inks.sheet;
  ctx.globalAlpha = 0.8;
  ctx.fill();
  ctx.globalAlpha = 1;
  ctx.strokeStyle = inks.route;
  ctx.stroke();
  heading(gx, gy, faced, inks.route);
  const size = Math.max(3.5, Math.min(6, Math.max(w, h) * 0.22));
  ctx.beginPath();
  ctx.moveTo(gx - size, gy);
  ctx.lineTo(gx, gy - size);
  ctx.lineTo(gx + size, gy);
  ctx.lineTo(gx, gy + size);
  ctx.closePath();
  ctx.fillStyle = inks.route;
  ctx.fill();
  const apart = Math.hypot(model.at('x', row) - game.at('x', row), model.at('y', row) - game.at('y', row));
  if (apart < width / 24) return;
  ctx.font = '12px "Spline Sans Mono", monospace';
  ctx.textAlign = 'left';
  ctx.textBaseline = 'middle';
  ctx.lineWidth = 4;
  ctx.lineJoin = 'round';
  ctx.strokeStyle = inks.sheet;
  const words = `${apart < 10 ? apart.toFixed(1) : Math.round(apart)} ${unit} apart`;
  const [x, y] = [Math.max(gx, mx) + w / 2 + 10, gy + h / 2 + 10];
  ctx.strokeText(words, x, y);
  ctx.fillStyle = inks.now;
  ctx.fillText(words, x, y);
}
