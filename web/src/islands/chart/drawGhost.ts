import type { Parameters, Trace } from '@zygopod/core';
import type { Inks } from './theme.ts';
import type { View } from './view.ts';

/** Seconds between two prints. */
const STRIDE = 0.1;
/** Prints at most: those of a longer tape are further apart. */
const MOST = 600;

/** Draws another tuning with the same hands: its path as small boxes, and the body as a dashed outline at a time of the trace. */
export function drawGhost(
  ctx: CanvasRenderingContext2D,
  trace: Trace,
  time: number,
  body: Parameters['body'],
  view: View,
  inks: Inks,
  name: string,
): void {
  const at = (row: number) => [(trace.at('x', row) - view.x) * view.scale, (trace.at('y', row) - view.y) * view.scale] as const;
  const [from, to] = [trace.at('time', trace.first), trace.at('time', trace.end - 1)];
  const stride = Math.max(STRIDE, (to - from) / MOST);
  ctx.save();
  ctx.strokeStyle = inks.other;
  ctx.lineWidth = 1;
  ctx.globalAlpha = 0.75;
  ctx.beginPath();
  let [lastX, lastY] = [Number.NaN, Number.NaN];
  for (let k = Math.ceil(from / stride); k * stride <= to; k++) {
    const row = Math.min(trace.rowAt(k * stride - 1e-9), trace.end - 1);
    const [x, y] = at(row);
    if (Math.abs(x - lastX) < 0.5 && Math.abs(y - lastY) < 0.5) continue;
    [lastX, lastY] = [x, y];
    const facing = (trace.at('facing', row) * Math.PI) / 180;
    const corner = (along: number, across: number) =>
      [x + Math.cos(facing) * along - Math.sin(facing) * across, y + Math.sin(facing) * along + Math.cos(facing) * across] as const;
    ctx.moveTo(...corner(-3.5, -2));
    for (const [along, across] of [
      [3.5, -2],
      [3.5, 2],
      [-3.5, 2],
      [-3.5, -2],
    ] as const)
      ctx.lineTo(...corner(along, across));
  }
  ctx.stroke();
  const [x, y] = at(Math.min(trace.rowAt(time - 1e-9), trace.end - 1));
  const width = (body.shape === 'circle' ? 2 * body.radius : body.width) * view.scale;
  const height = (body.shape === 'circle' ? 2 * body.radius : body.height) * view.scale;
  ctx.globalAlpha = 1;
  ctx.lineWidth = 2;
  ctx.setLineDash([4, 3]);
  ctx.beginPath();
  if (body.shape === 'circle') ctx.arc(x + (0.5 - body.originX) * width, y + (0.5 - body.originY) * height, width / 2, 0, 2 * Math.PI);
  else ctx.rect(x - body.originX * width, y - body.originY * height, width, height);
  ctx.stroke();
  ctx.fillStyle = inks.other;
  ctx.font = '11px "Spline Sans Mono", monospace';
  ctx.textAlign = 'center';
  ctx.textBaseline = 'alphabetic';
  ctx.fillText(name, x, y - body.originY * height - 7);
  ctx.restore();
}
