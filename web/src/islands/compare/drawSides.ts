import { type Along, bodySize, type Trace, traceAt } from '@zygopod/core';
import type { Inks } from '../chart/theme.ts';
import type { View } from '../chart/view.ts';
import { markCorners, markOfSide, type SideMark } from './marks.ts';
import type { ComparedSide } from './sides.ts';

type Canvas = CanvasRenderingContext2D;

/** Seconds between two prints; prints of a side at most. */
const STRIDE = 0.1;
const MOST = 600;
/** Seconds before and after the moment shown in which prints are strong. */
const NEAR = 1.5;

/** Corners of a print of each shape about (0, 0), looking right; a circle's is two crossed toes. */
const prints: Readonly<Record<SideMark['shape'], readonly (readonly [number, number])[]>> = {
  circle: [
    [-4.5, -2.5],
    [4.5, 0],
    [-4.5, 2.5],
    [-2, 0],
  ],
  square: [
    [-3.5, -2],
    [3.5, -2],
    [3.5, 2],
    [-3.5, 2],
  ],
  triangle: [
    [-3.5, -2.6],
    [3.5, 0],
    [-3.5, 2.6],
  ],
  diamond: [
    [-4, 0],
    [0, -2.3],
    [4, 0],
    [0, 2.3],
  ],
};

function addShape(path: Path2D, corners: readonly (readonly [number, number])[], x: number, y: number, turn: number): void {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  for (const [i, [along, across]] of corners.entries()) {
    const [px, py] = [x + c * along - s * across, y + s * along + c * across];
    if (i === 0) path.moveTo(px, py);
    else path.lineTo(px, py);
  }
  path.closePath();
}

/** The path of a side as prints, those about the moment `time` (of its trace, s) stronger. */
export function drawSidePrints(ctx: Canvas, trace: Trace, index: number, time: number, view: View, inks: Inks): void {
  const { shape, ink } = markOfSide(index);
  const [from, to] = [trace.at('time', trace.first), trace.at('time', trace.end - 1)];
  const stride = Math.max(STRIDE, (to - from) / MOST);
  const near = new Path2D();
  const far = new Path2D();
  let [lastX, lastY] = [Number.NaN, Number.NaN];
  for (let k = Math.ceil(from / stride); k * stride <= to; k++) {
    const at = k * stride;
    const row = Math.min(trace.rowAt(at - 1e-9), trace.end - 1);
    const [x, y] = [(trace.at('x', row) - view.x) * view.scale, (trace.at('y', row) - view.y) * view.scale];
    if (Math.abs(x - lastX) < 0.5 && Math.abs(y - lastY) < 0.5) continue;
    [lastX, lastY] = [x, y];
    const facing = (trace.at('facing', row) * Math.PI) / 180;
    addShape(Math.abs(at - time) < NEAR ? near : far, prints[shape], x, y, facing);
  }
  ctx.lineWidth = 1.1;
  for (const [path, alpha] of [
    [far, 0.5],
    [near, 1],
  ] as const) {
    ctx.globalAlpha = alpha;
    ctx.strokeStyle = inks[ink];
    ctx.stroke(path);
    if (shape !== 'circle') continue;
    ctx.fillStyle = inks[ink];
    ctx.fill(path);
  }
  ctx.globalAlpha = 1;
}

/** Where a side's body is at a time of its trace. */
export function placeOfSide({ again }: ComparedSide, time: number): { x: number; y: number; facing: number } {
  const { trace } = again.world;
  const row = Math.max(trace.first, Math.min(trace.rowAt(time - 1e-9), trace.end - 1));
  return { x: traceAt(trace, 'x', time), y: traceAt(trace, 'y', time), facing: (trace.at('facing', row) * Math.PI) / 180 };
}

/** A side's body at a time of its trace: its outline, its mark, and a stroke in its facing. */
export function drawSideBody(ctx: Canvas, side: ComparedSide, index: number, time: number, view: View, inks: Inks): void {
  const { shape, ink } = markOfSide(index);
  const { body } = side.parameters;
  const { x, y, facing } = placeOfSide(side, time);
  const { width, height } = bodySize(body);
  const [w, h] = [width * view.scale, height * view.scale];
  const cx = (x - view.x) * view.scale + (0.5 - body.originX) * w;
  const cy = (y - view.y) * view.scale + (0.5 - body.originY) * h;
  ctx.beginPath();
  if (body.shape === 'circle') ctx.arc(cx, cy, w / 2, 0, 2 * Math.PI);
  else ctx.rect(cx - w / 2, cy - h / 2, w, h);
  ctx.fillStyle = inks.sheet;
  ctx.globalAlpha = 0.85;
  ctx.fill();
  ctx.globalAlpha = 1;
  ctx.lineWidth = 2;
  ctx.strokeStyle = inks[ink];
  ctx.stroke();
  const reach = Math.max(w, h) / 2;
  ctx.beginPath();
  ctx.moveTo(cx + Math.cos(facing) * reach, cy + Math.sin(facing) * reach);
  ctx.lineTo(cx + Math.cos(facing) * (reach + 6), cy + Math.sin(facing) * (reach + 6));
  ctx.stroke();
  const size = Math.max(3, Math.min(5, reach * 0.42));
  const mark = new Path2D();
  if (shape === 'circle') mark.arc(cx, cy, size, 0, 2 * Math.PI);
  else addShape(mark, markCorners(shape, size), cx, cy, 0);
  ctx.fillStyle = inks[ink];
  ctx.fill(mark);
}

/** Where a side's lap touched walls or edges: rings about the body's place. */
export function drawTouches(ctx: Canvas, side: ComparedSide, index: number, along: Along | null, view: View, inks: Inks): void {
  if (!along || along.touches.length === 0) return;
  const { width, height } = bodySize(side.parameters.body);
  const radius = Math.max(5, (Math.max(width, height) * view.scale) / 2);
  ctx.strokeStyle = inks[markOfSide(index).ink];
  ctx.lineWidth = 1.2;
  ctx.setLineDash([2, 2]);
  for (const time of along.touches) {
    const { x, y } = placeOfSide(side, along.began + time);
    ctx.beginPath();
    ctx.arc((x - view.x) * view.scale, (y - view.y) * view.scale, radius, 0, 2 * Math.PI);
    ctx.stroke();
  }
  ctx.setLineDash([]);
}

/** A line between two bodies with how far they are apart, unless they are all but one. */
export function drawApart(
  ctx: Canvas,
  from: { x: number; y: number },
  to: { x: number; y: number },
  words: string,
  least: number,
  view: View,
  inks: Inks,
): void {
  const [x0, y0, x1, y1] = [from.x - view.x, from.y - view.y, to.x - view.x, to.y - view.y].map((n) => n * view.scale) as [
    number,
    number,
    number,
    number,
  ];
  if (Math.hypot(x1 - x0, y1 - y0) < least) return;
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 1.2;
  ctx.setLineDash([3, 3]);
  ctx.beginPath();
  ctx.moveTo(x0, y0);
  ctx.lineTo(x1, y1);
  ctx.stroke();
  ctx.setLineDash([]);
  label(ctx, words, (x0 + x1) / 2, (y0 + y1) / 2, inks);
}

/** Where two sides are one body apart for the first time. */
export function drawBodyApart(ctx: Canvas, at: { x: number; y: number }, size: number, view: View, inks: Inks): void {
  const [x, y] = [(at.x - view.x) * view.scale, (at.y - view.y) * view.scale];
  const radius = Math.max(8, (size * view.scale) / 2 + 3);
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 1.2;
  ctx.setLineDash([2, 3]);
  ctx.beginPath();
  ctx.arc(x, y, radius, 0, 2 * Math.PI);
  ctx.stroke();
  ctx.setLineDash([]);
  label(ctx, 'one body apart', x, y - radius - 9, inks);
}

function label(ctx: Canvas, words: string, x: number, y: number, inks: Inks): void {
  ctx.font = '11px "Spline Sans Mono", monospace';
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.lineWidth = 4;
  ctx.lineJoin = 'round';
  ctx.strokeStyle = inks.sheet;
  ctx.strokeText(words, x, y);
  ctx.fillStyle = inks.now;
  ctx.fillText(words, x, y);
}
