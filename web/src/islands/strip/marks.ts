import { measureSpan, type Trace } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import type { Inks } from '../chart/theme.ts';
import type { Span } from '../tuning/context.ts';

type Canvas = CanvasRenderingContext2D;

/** A dotted level across the lanes. */
export function drawDotted(ctx: Canvas, from: number, to: number, y: number, ink: string): void {
  ctx.setLineDash([1.5, 3]);
  ctx.beginPath();
  ctx.moveTo(from, y);
  ctx.lineTo(to, y);
  ctx.strokeStyle = ink;
  ctx.lineWidth = 1;
  ctx.stroke();
  ctx.setLineDash([]);
}

/** Small words on a lane, with a rim of paper so that curves do not cross them. */
export function drawWords(ctx: Canvas, inks: Inks, text: string, x: number, y: number, ink: string, align: CanvasTextAlign = 'left'): void {
  ctx.font = '10.5px "Spline Sans Mono", monospace';
  ctx.textAlign = align;
  ctx.textBaseline = 'alphabetic';
  ctx.lineWidth = 3;
  ctx.lineJoin = 'round';
  ctx.strokeStyle = inks.paper;
  ctx.strokeText(text, x, y);
  ctx.fillStyle = ink;
  ctx.fillText(text, x, y);
}

interface Axis {
  from: number;
  to: number;
  x(place: number): number;
  left: number;
  right: number;
  y: number;
  /** Unit of its places; seconds by default. */
  unit?: string;
}

/** The axis under the lanes, of time or of distance. */
export function drawAxis(ctx: Canvas, inks: Inks, { from, to, x, left, right, y, unit = 's' }: Axis): void {
  ctx.font = '10.5px "Spline Sans Mono", monospace';
  ctx.textAlign = 'center';
  ctx.textBaseline = 'alphabetic';
  const marks = scaleLinear([from, to], [left, right]).ticks(Math.max(2, Math.floor((right - left) / 130)));
  const step = (marks[1] ?? 1) - (marks[0] ?? 0);
  const decimals = step >= 1 ? 0 : step >= 0.1 ? 1 : step >= 0.01 ? 2 : 3;
  for (const place of marks) {
    const px = Math.round(x(place)) + 0.5;
    ctx.strokeStyle = inks.rule;
    ctx.lineWidth = 1;
    ctx.beginPath();
    ctx.moveTo(px, y - 2);
    ctx.lineTo(px, y + 2);
    ctx.stroke();
    ctx.fillStyle = inks.inkSoft;
    if (place >= 0) ctx.fillText(`${place.toFixed(decimals)} ${unit}`, px, y + 13);
  }
}

/** Where the tuning was changed while it was driven: a stroke with a small wedge at its foot. */
export function drawChanges(ctx: Canvas, inks: Inks, places: readonly number[], bottom: number): void {
  ctx.strokeStyle = inks.now;
  ctx.fillStyle = inks.now;
  ctx.lineWidth = 1;
  for (const px of places) {
    ctx.globalAlpha = 0.45;
    ctx.beginPath();
    ctx.moveTo(px, 13);
    ctx.lineTo(px, bottom);
    ctx.stroke();
    ctx.globalAlpha = 1;
    ctx.beginPath();
    ctx.moveTo(px, bottom - 6);
    ctx.lineTo(px + 4, bottom);
    ctx.lineTo(px - 4, bottom);
    ctx.fill();
  }
}

/** The moment shown on the yard. */
export function drawCursor(ctx: Canvas, inks: Inks, px: number, bottom: number, left: number, right: number): void {
  if (px < left - 1 || px > right + 1) return;
  ctx.strokeStyle = inks.now;
  ctx.lineWidth = 1.5;
  ctx.beginPath();
  ctx.moveTo(px, 2);
  ctx.lineTo(px, bottom);
  ctx.stroke();
}

/** The measured span with its readings. */
export function drawCalipers(
  ctx: Canvas,
  inks: Inks,
  trace: Trace,
  span: Span,
  x: (time: number) => number,
  left: number,
  right: number,
  bottom: number,
): void {
  const x0 = Math.max(left, x(Math.min(span.from, span.to)));
  const x1 = Math.min(right, x(Math.max(span.from, span.to)));
  if (x1 < x0) return;
  ctx.fillStyle = inks.route;
  ctx.globalAlpha = 0.16;
  ctx.fillRect(x0, 2, x1 - x0, bottom - 2);
  ctx.globalAlpha = 1;
  ctx.strokeStyle = inks.route;
  ctx.lineWidth = 1.5;
  for (const px of [x0, x1]) {
    ctx.beginPath();
    ctx.moveTo(px, 2);
    ctx.lineTo(px, bottom);
    ctx.stroke();
  }
  const { seconds, travelled } = measureSpan(trace, span.from, span.to);
  const words = `${seconds.toFixed(2)} s  ${travelled.toFixed(1)}`;
  ctx.font = '500 10.5px "Spline Sans Mono", monospace';
  ctx.textBaseline = 'alphabetic';
  ctx.textAlign = 'left';
  ctx.lineWidth = 4;
  ctx.strokeStyle = inks.paper;
  ctx.strokeText(words, x0 + 4, 14);
  ctx.fillStyle = inks.route;
  ctx.fillText(words, x0 + 4, 14);
}
