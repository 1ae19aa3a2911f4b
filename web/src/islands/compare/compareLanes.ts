import type { Column, Trace } from '@zygopod/core';
import { gaitInk } from '../chart/drawMotion.ts';
import type { Inks } from '../chart/theme.ts';
import { eachColumn, eachRun } from '../strip/lanes.ts';
import { drawDotted, drawWords } from '../strip/marks.ts';
import type { StripAxis } from './axis.ts';
import { markOfSide } from './marks.ts';
import type { ComparedSide } from './sides.ts';

/** A side as lanes draw it: its rows in sight, and its trace's time at the tape's beginning. */
interface LaneSide {
  side: ComparedSide;
  index: number;
  trace: Trace;
  from: number;
  to: number;
  x(time: number): number;
}

/** Inputs of a lane's drawing. `x` is of places on the axis: seconds since the tape's beginning, or distances along a course. */
export interface CompareView {
  ctx: CanvasRenderingContext2D;
  inks: Inks;
  sides: readonly LaneSide[];
  top: number;
  height: number;
  left: number;
  width: number;
  /** The part of the axis in sight. */
  span: readonly [number, number];
  x(place: number): number;
  /** How far a side is from the first shown one, unit. */
  apart(side: ComparedSide, time: number): number;
  /** Width of the first body, unit. */
  body: number;
}

export interface CompareLane {
  name: string;
  share: number;
  draw(view: CompareView): void;
}

/** The sides in sight of a part of the axis. */
export function laneSides(
  shown: readonly { side: ComparedSide; index: number; begins: number; axis: Pick<StripAxis, 'placeAt' | 'timeAt'> }[],
  [from, to]: readonly [number, number],
  x: (place: number) => number,
): LaneSide[] {
  return shown.map(({ side, index, begins, axis: { placeAt, timeAt } }) => {
    const { trace } = side.again.world;
    return {
      side,
      index,
      trace,
      from: Math.max(trace.first, trace.rowAt(begins + timeAt(from)) - 1),
      to: Math.min(trace.end - 1, trace.rowAt(begins + timeAt(to))),
      x: (time) => x(placeAt(time - begins)),
    };
  });
}

/** The largest value of a column in sight. */
function highest(view: CompareView, column: Column): number {
  let most = 0;
  for (const side of view.sides) eachColumn(side, column, (_x, _value, _low, high) => (most = Math.max(most, high)));
  return most;
}

/** Each side's curve over [0, ceiling] in its own ink and dashes; between the first two the difference is shaded. */
function drawCurves(view: CompareView, column: Column, ceiling: number): void {
  const { ctx, inks, top, height } = view;
  const y = (value: number) => top + height - (Math.min(value, ceiling) / ceiling) * (height - 2);
  const curves = view.sides.map((side) => {
    const points: [number, number][] = [];
    eachColumn(side, column, (x, value) => points.push([x, y(value)]));
    return points;
  });
  const [first, second] = curves;
  if (first && second && first.length > 0 && second.length > 0) {
    ctx.beginPath();
    for (const [x, at] of first) ctx.lineTo(x, at);
    for (const [x, at] of second.toReversed()) ctx.lineTo(x, at);
    ctx.closePath();
    ctx.globalAlpha = 0.09;
    ctx.fillStyle = inks.ink;
    ctx.fill();
    ctx.globalAlpha = 1;
  }
  for (const [i, points] of curves.entries()) {
    const { ink, dash } = markOfSide(view.sides[i]?.index ?? 0);
    ctx.beginPath();
    for (const [x, at] of points) ctx.lineTo(x, at);
    ctx.strokeStyle = inks[ink];
    ctx.lineWidth = 1.5;
    ctx.lineJoin = 'round';
    ctx.setLineDash([...dash]);
    ctx.stroke();
  }
  ctx.setLineDash([]);
}

export const speed: CompareLane = {
  name: 'Speed',
  share: 1,
  draw(view) {
    const ceiling = Math.max(highest(view, 'speed'), ...view.sides.map(({ side }) => side.parameters.pace.walkSpeed), 1e-6) * 1.12;
    drawCurves(view, 'speed', ceiling);
    const peaks = view.sides.map(({ index, ...side }) => {
      let peak = 0;
      eachColumn(side, 'speed', (_x, _value, _low, high) => (peak = Math.max(peak, high)));
      return { index, peak };
    });
    for (const [i, { index, peak }] of peaks.entries()) {
      const ink = view.inks[markOfSide(index).ink];
      drawDotted(view.ctx, view.left, view.left + view.width, view.top + view.height - (peak / ceiling) * (view.height - 2), ink);
      const label = `${view.sides[i]?.side.short.slice(0, 24)} peak ${Math.round(peak * 10) / 10}`;
      drawWords(view.ctx, view.inks, label, view.left + view.width - 2, view.top + 9 + 13 * i, ink, 'right');
    }
  },
};

const stamina: CompareLane = {
  name: 'Stamina',
  share: 0.4,
  draw(view) {
    const most = Math.max(1e-6, ...view.sides.map(({ side }) => side.parameters.stamina.max));
    drawCurves(view, 'stamina', most * 1.08);
  },
};

const gait: CompareLane = {
  name: 'Gait',
  share: 0.3,
  draw(view) {
    const { ctx, inks, top, height, sides } = view;
    const each = height / Math.max(1, sides.length);
    for (const [i, side] of sides.entries())
      eachRun(side, 'gait', (x0, x1, value) => {
        ctx.fillStyle = value === 0 ? inks.rule : gaitInk(value, inks);
        ctx.globalAlpha = value === 0 ? 0.4 : value === 1 ? 0.7 : 1;
        // Height shows the gait, too: standing is the lowest.
        const tall = (each - 1.5) * (value === 0 ? 0.35 : value === 1 ? 0.75 : 1);
        ctx.fillRect(x0, top + each * (i + 1) - 1.5 - tall, Math.max(1, x1 - x0), tall);
      });
    ctx.globalAlpha = 1;
  },
};

const apart: CompareLane = {
  name: 'Apart',
  share: 0.45,
  draw(view) {
    const { ctx, inks, top, height, left, width, span, sides } = view;
    const others = sides.slice(1);
    if (others.length === 0) return;
    const steps = Math.max(2, Math.round(width / 2));
    const curves = others.map(({ side }) =>
      Array.from({ length: steps + 1 }, (_, i) => view.apart(side, span[0] + ((span[1] - span[0]) * i) / steps)),
    );
    const ceiling = Math.max(view.body * 1.5, ...curves.flat()) * 1.08;
    const y = (value: number) => top + height - (value / ceiling) * (height - 2);
    for (const [i, values] of curves.entries()) {
      ctx.beginPath();
      for (const [k, value] of values.entries()) ctx.lineTo(left + (width * k) / steps, y(value));
      ctx.strokeStyle = inks.now;
      ctx.lineWidth = 1.3;
      ctx.setLineDash(i === 0 ? [] : [...markOfSide(others[i]?.index ?? 0).dash]);
      ctx.stroke();
      ctx.setLineDash([]);
      if (i > 0) continue;
      ctx.lineTo(left + width, top + height);
      ctx.lineTo(left, top + height);
      ctx.globalAlpha = 0.1;
      ctx.fillStyle = inks.now;
      ctx.fill();
      ctx.globalAlpha = 1;
    }
    drawDotted(ctx, left, left + width, y(view.body), inks.now);
    drawWords(ctx, inks, '1 body', left + 3, y(view.body) - 3, inks.now);
  },
};

export const compareLanes: readonly CompareLane[] = [speed, stamina, gait, apart];
