import type { Parameters, Trace } from '@zygopod/core';
import type { Inks } from './theme.ts';
import type { View } from './view.ts';

type Canvas = CanvasRenderingContext2D;

/** Seconds between prints, and how many seconds of them are shown. */
const STRIDE = 0.1;
const SHOWN = 30;
const FRESH = 6;

/** Ink of a print by gait: stand, walk, sprint, spent. */
export function gaitInk(gait: number, inks: Inks): string {
  return gait === 2 ? inks.now : gait === 3 ? inks.stamina : inks.inkSoft;
}

/** A print: two crossed toes in the direction of the facing, twice as long ahead as across. */
function addPrint(path: Path2D, px: number, py: number, facing: number, size: number): void {
  for (const spread of [0.5, -0.5]) {
    const c = Math.cos(facing + spread) * size;
    const s = Math.sin(facing + spread) * size;
    path.moveTo(px - c, py - s);
    path.lineTo(px + c, py + s);
  }
}

/** The footprints of the trace up to `row`: one every 0.1 s, where the body was; none while it stood. */
export function drawPrints(ctx: Canvas, trace: Trace, row: number, view: View, inks: Inks): void {
  if (row < trace.first) return;
  const end = trace.at('time', row);
  const size = Math.max(3, Math.min(7, 6 * view.scale));
  const paths = new Map<string, Path2D>();
  let lastX = Number.NaN;
  let lastY = Number.NaN;
  for (let k = Math.ceil(Math.max(0, end - SHOWN) / STRIDE); k * STRIDE <= end; k++) {
    const at = trace.rowAt(k * STRIDE - 1e-9);
    if (at > row) break;
    const x = trace.at('x', at);
    const y = trace.at('y', at);
    if (Math.abs(x - lastX) < 0.3 && Math.abs(y - lastY) < 0.3) continue;
    lastX = x;
    lastY = y;
    const key = `${trace.at('gait', at)} ${end - k * STRIDE < FRESH ? 1 : 0.4}`;
    const path = paths.get(key) ?? new Path2D();
    paths.set(key, path);
    addPrint(path, (x - view.x) * view.scale, (y - view.y) * view.scale, (trace.at('facing', at) * Math.PI) / 180, size);
  }
  ctx.lineWidth = 1.6;
  ctx.lineCap = 'round';
  for (const [key, path] of paths) {
    const [gait, alpha] = key.split(' ') as [string, string];
    ctx.globalAlpha = Number(alpha);
    ctx.strokeStyle = gaitInk(Number(gait), inks);
    ctx.stroke(path);
  }
  ctx.globalAlpha = 1;
  ctx.lineCap = 'butt';
}

/** A body as it stands at one moment, in world units. */
export interface Pose {
  x: number;
  y: number;
  vx: number;
  vy: number;
  /** Radians. */
  facing: number;
}

/** How far ahead (s) the velocity arrow reaches. */
const AHEAD = 0.25;

/** The body's outline with its heading wedge, and the velocity as an arrow that ends where it would be in a quarter second. */
export function drawBody(
  ctx: Canvas,
  pose: Pose,
  body: Parameters['body'],
  view: View,
  inks: Inks,
  layers: { wedge: boolean; velocity: boolean },
): void {
  const { scale } = view;
  const px = (pose.x - view.x) * scale;
  const py = (pose.y - view.y) * scale;
  const width = (body.shape === 'circle' ? 2 * body.radius : body.width) * scale;
  const height = (body.shape === 'circle' ? 2 * body.radius : body.height) * scale;
  const cx = px + (0.5 - body.originX) * width;
  const cy = py + (0.5 - body.originY) * height;
  const reach = Math.max(width, height) * 0.5;

  if (layers.wedge) {
    ctx.beginPath();
    ctx.moveTo(cx, cy);
    ctx.arc(cx, cy, reach + 34, pose.facing - 0.35, pose.facing + 0.35);
    ctx.closePath();
    ctx.globalAlpha = 0.18;
    ctx.fillStyle = inks.now;
    ctx.fill();
    ctx.globalAlpha = 1;
  }
  ctx.beginPath();
  if (body.shape === 'circle') ctx.arc(cx, cy, reach, 0, 2 * Math.PI);
  else ctx.rect(cx - width / 2, cy - height / 2, width, height);
  ctx.fillStyle = inks.sheet;
  ctx.fill();
  ctx.lineWidth = 2;
  ctx.strokeStyle = inks.ink;
  ctx.stroke();
  drawBeak(ctx, cx, cy, pose.facing, Math.max(3.5, Math.min(width, height) * 0.3), inks.ink);
  if (layers.velocity) drawArrow(ctx, cx, cy, cx + pose.vx * AHEAD * scale, cy + pose.vy * AHEAD * scale, inks.now);
}

/** A notched triangle that points along the facing. */
function drawBeak(ctx: Canvas, cx: number, cy: number, facing: number, size: number, ink: string): void {
  const at = (angle: number, distance: number): [number, number] => [
    cx + Math.cos(facing + angle) * distance,
    cy + Math.sin(facing + angle) * distance,
  ];
  ctx.beginPath();
  ctx.moveTo(...at(0, size));
  ctx.lineTo(...at(2.5, size));
  ctx.lineTo(...at(Math.PI, size * 0.35));
  ctx.lineTo(...at(-2.5, size));
  ctx.closePath();
  ctx.fillStyle = ink;
  ctx.fill();
}

export function drawArrow(ctx: Canvas, x0: number, y0: number, x1: number, y1: number, ink: string): void {
  const length = Math.hypot(x1 - x0, y1 - y0);
  if (length < 3) return;
  const ux = (x1 - x0) / length;
  const uy = (y1 - y0) / length;
  ctx.strokeStyle = ink;
  ctx.fillStyle = ink;
  ctx.lineWidth = 2;
  ctx.beginPath();
  ctx.moveTo(x0, y0);
  ctx.lineTo(x1 - ux * 5, y1 - uy * 5);
  ctx.stroke();
  ctx.beginPath();
  ctx.moveTo(x1, y1);
  ctx.lineTo(x1 - ux * 8 + uy * 3.5, y1 - uy * 8 - ux * 3.5);
  ctx.lineTo(x1 - ux * 8 - uy * 3.5, y1 - uy * 8 + ux * 3.5);
  ctx.closePath();
  ctx.fill();
}
