import type { Along } from '@zygopod/core';
import type { Inks } from '../../chart/theme.ts';
import { drawDotted, drawWords } from '../../strip/marks.ts';
import { type CompareLane, type CompareView, speed } from '../compareLanes.ts';
import { markCorners, markOfSide } from '../marks.ts';

/** A lap as its lanes draw it: its side's place and name, and its progress. */
interface DrawnLap {
  index: number;
  short: string;
  along: Along;
}

/** `+0.31 s`, `−0.08 s` */
export const signed = (seconds: number): string =>
  `${seconds < -0.005 ? '−' : seconds >= 0.005 ? '+' : '±'}${Math.abs(seconds).toFixed(2)} s`;

/** Seconds that a lap is behind another one at a distance; NaN where one of them has not come so far. */
export const behindAt = (first: Along, other: Along, distance: number): number => other.timeAt(distance) - first.timeAt(distance);

/** Seconds behind the first lap: lower is later. */
const behind = (laps: readonly DrawnLap[]): CompareLane => ({
  name: 'Behind',
  share: 0.7,
  draw({ ctx, inks, top, height, left, width, span: [from, to] }: CompareView) {
    const [first, ...others] = laps;
    if (!first || others.length === 0) return;
    const steps = Math.max(2, Math.round(width / 2));
    const curves = others.map(({ along }) =>
      Array.from({ length: steps + 1 }, (_, i) => behindAt(first.along, along, from + ((to - from) * i) / steps)),
    );
    const known = curves.flat().filter(Number.isFinite);
    const [least, most] = [Math.min(0, ...known), Math.max(0, ...known)];
    const room = Math.max(most - least, 0.1) * 1.15;
    const y = (seconds: number) => top + 3 + ((seconds - least) / room) * (height - 6);
    drawDotted(ctx, left, left + width, y(0), inks[markOfSide(first.index).ink]);
    drawWords(ctx, inks, first.short.slice(0, 24), left + 3, y(0) + (y(0) - top > 14 ? -3 : 10), inks[markOfSide(first.index).ink]);
    for (const [i, values] of curves.entries()) {
      const { ink, dash } = markOfSide(others[i]?.index ?? 0);
      ctx.beginPath();
      for (const [k, value] of values.entries()) if (Number.isFinite(value)) ctx.lineTo(left + (width * k) / steps, y(value));
      ctx.strokeStyle = inks[ink];
      ctx.lineWidth = 1.5;
      ctx.setLineDash([...dash]);
      ctx.stroke();
      ctx.setLineDash([]);
      const last = values.findLastIndex(Number.isFinite);
      if (last >= 0)
        drawWords(
          ctx,
          inks,
          signed(values[last] as number),
          left + (width * last) / steps - 3,
          y(values[last] as number) - 4,
          inks[ink],
          'right',
        );
    }
  },
});

/** Where each lap touched walls or edges, a row of marks for each. */
const touches = (laps: readonly DrawnLap[]): CompareLane => ({
  name: 'Touches',
  share: 0.4,
  draw({ ctx, inks, top, height, x }: CompareView) {
    const each = height / Math.max(1, laps.length);
    for (const [i, { index, along }] of laps.entries())
      for (const time of along.touches) drawMark(ctx, inks, index, x(along.distanceAt(time)), top + each * (i + 0.5), 3.4);
  },
});

/** The mark of a side, open as in the list, or full. */
export function drawMark(
  ctx: CanvasRenderingContext2D,
  inks: Inks,
  index: number,
  x: number,
  y: number,
  size: number,
  { isFull = false } = {},
): void {
  const { shape, ink } = markOfSide(index);
  ctx.beginPath();
  if (shape === 'circle') ctx.arc(x, y, size, 0, 2 * Math.PI);
  else for (const [dx, dy] of markCorners(shape, size)) ctx.lineTo(x + dx, y + dy);
  ctx.closePath();
  ctx.fillStyle = isFull ? inks[ink] : inks.sheet;
  ctx.fill();
  ctx.lineWidth = 1.7;
  ctx.strokeStyle = inks[ink];
  ctx.stroke();
}

/** The lanes of laps over the distance along the course. */
export const lapLanes = (laps: readonly DrawnLap[]): CompareLane[] => [speed, behind(laps), touches(laps)];

/** The gates as lines across all lanes, each with its number. */
export function drawGateLines(
  ctx: CanvasRenderingContext2D,
  inks: Inks,
  { gates, perLap, x, top, bottom }: { gates: readonly number[]; perLap: number; x(place: number): number; top: number; bottom: number },
): void {
  let last = Number.NEGATIVE_INFINITY;
  for (const [crossing, distance] of gates.entries()) {
    const px = x(distance);
    const isFinish = crossing === gates.length - 1;
    const ink = isFinish ? inks.now : inks.route;
    ctx.strokeStyle = ink;
    ctx.lineWidth = isFinish ? 1.5 : 1;
    ctx.setLineDash(isFinish ? [] : [4, 3]);
    ctx.beginPath();
    ctx.moveTo(px, top);
    ctx.lineTo(px, bottom);
    ctx.stroke();
    ctx.setLineDash([]);
    // Numbers that would lie on one another are left out.
    if (px - last < 50) continue;
    drawWords(ctx, inks, isFinish ? 'finish' : `gate ${(crossing % perLap) + 1}`, px - 3, top + 9, ink, 'right');
    last = px;
  }
}
