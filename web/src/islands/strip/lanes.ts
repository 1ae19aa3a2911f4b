import type { Column, Parameters, Trace } from '@zygopod/core';
import { gaitInk } from '../chart/drawMotion.ts';
import type { Inks } from '../chart/theme.ts';
import { drawDotted, drawWords } from './marks.ts';
import { eachPiece } from './pieces.ts';

type Canvas = CanvasRenderingContext2D;

/** Inputs of a lane's drawing: its place on the strip, and the visible rows and times. */
export interface LaneView {
  ctx: Canvas;
  inks: Inks;
  trace: Trace;
  /** The trace of the other tuning with the same hands, and its visible rows. */
  ghost: { trace: Trace; from: number; to: number } | null;
  parameters: Parameters;
  top: number;
  height: number;
  left: number;
  width: number;
  /** Rows in sight, the last one included. */
  from: number;
  to: number;
  x(time: number): number;
}

export interface Lane {
  name: string;
  /** Share of the strip's height. */
  share: number;
  /** True if a tuning makes use of it; without one every tuning does. */
  isUsed?(parameters: Parameters): boolean;
  /** Shown on request only. */
  isExtra?: true;
  draw(view: LaneView): void;
}

/** The rows and times in sight of a trace. */
type Sight = Pick<LaneView, 'trace' | 'from' | 'to' | 'x'>;

/** How many rows lie on a pixel column. */
export function rowsOnPixel({ trace, from, to, x }: Sight): number {
  const wide = x(trace.at('time', to)) - x(trace.at('time', from));
  return wide > 0 ? (to - from) / wide : to - from + 1;
}

/** The rows in sight, those that share a pixel column as one: its place, its last, lowest and highest value. */
export function eachColumn(view: Sight, column: Column, visit: (x: number, value: number, low: number, high: number) => void): void {
  const { trace, from, to } = view;
  if (to < from) return;
  let pixel = Number.NaN;
  let place = 0;
  let low = 0;
  let high = 0;
  let last = 0;
  eachPiece(trace, column, from, to, rowsOnPixel(view), (_first, row, least, most, value) => {
    const x = view.x(trace.at('time', row));
    if (Math.round(x) !== pixel) {
      if (!Number.isNaN(pixel)) visit(place, last, low, high);
      pixel = Math.round(x);
      low = least;
      high = most;
    }
    place = x;
    low = Math.min(low, least);
    high = Math.max(high, most);
    last = value;
  });
  if (!Number.isNaN(pixel)) visit(place, last, low, high);
}

/** The ghost's values of a column over [0, ceiling], dashed. */
function drawGhostCurve(view: LaneView, column: Column, ceiling: number): void {
  if (!view.ghost) return;
  const { ctx, top, height, inks, x } = view;
  const y = (value: number) => top + height - (Math.min(value, ceiling) / ceiling) * (height - 2);
  ctx.beginPath();
  eachColumn({ ...view.ghost, x }, column, (at, value) => ctx.lineTo(at, y(value)));
  ctx.strokeStyle = inks.other;
  ctx.lineWidth = 1.3;
  ctx.setLineDash([4, 3]);
  ctx.stroke();
  ctx.setLineDash([]);
}

/** A filled curve of a column over [0, top]. */
export function drawCurve(view: LaneView, column: Column, ceiling: number, stroke: string, fill: string, fillAlpha: number): void {
  drawGhostCurve(view, column, ceiling);
  const { ctx, top, height } = view;
  const y = (value: number) => top + height - (Math.min(value, ceiling) / ceiling) * (height - 2);
  ctx.beginPath();
  let first = true;
  let start = 0;
  let end = 0;
  eachColumn(view, column, (x, value, low, high) => {
    if (first) start = x;
    if (first) ctx.moveTo(x, y(value));
    else {
      if (high - low > ceiling / height) {
        ctx.lineTo(x, y(high));
        ctx.lineTo(x, y(low));
      }
      ctx.lineTo(x, y(value));
    }
    first = false;
    end = x;
  });
  if (first) return;
  ctx.strokeStyle = stroke;
  ctx.lineWidth = 1.6;
  ctx.lineJoin = 'round';
  ctx.stroke();
  ctx.lineTo(end, top + height);
  ctx.lineTo(start, top + height);
  ctx.closePath();
  ctx.globalAlpha = fillAlpha;
  ctx.fillStyle = fill;
  ctx.fill();
  ctx.globalAlpha = 1;
}

/** A dotted level with its words at the left. */
function drawLevel({ ctx, inks, left, width }: LaneView, y: number, words: string, ink: string): void {
  drawDotted(ctx, left, left + width, y, ink);
  drawWords(ctx, inks, words, left + 4, y - 3, ink);
}

const round = (value: number) => String(Math.round(value * 10) / 10);

export const speedLane: Lane = {
  name: 'Speed',
  share: 1,
  draw(view) {
    const { walkSpeed, sprintSpeed } = view.parameters.pace;
    let highest = 0;
    eachColumn(view, 'speed', (_x, _value, _low, high) => {
      highest = Math.max(highest, high);
    });
    if (view.ghost)
      eachColumn({ ...view.ghost, x: view.x }, 'speed', (_x, _value, _low, high) => {
        highest = Math.max(highest, high);
      });
    const ceiling = Math.max(walkSpeed, sprintSpeed, highest, 1e-6) * 1.16;
    const y = (value: number) => view.top + view.height - (value / ceiling) * (view.height - 2);
    drawCurve(view, 'speed', ceiling, view.inks.ink, view.inks.ink, 0.07);
    if (Math.abs(y(walkSpeed) - y(sprintSpeed)) > 12) drawLevel(view, y(sprintSpeed), `sprint ${round(sprintSpeed)}`, view.inks.inkSoft);
    drawLevel(view, y(walkSpeed), `walk ${round(walkSpeed)}`, view.inks.inkSoft);
  },
};

/** Runs of equal values of a column, as spans of time. */
export function eachRun(view: Sight, column: Column, visit: (x0: number, x1: number, value: number) => void): void {
  const { trace, from, to } = view;
  if (to < from) return;
  let begin = from;
  let current = trace.at(column, from);
  const end = (last: number) => {
    const before = begin > trace.first ? trace.at('time', begin - 1) : trace.at('time', begin);
    visit(view.x(before), view.x(trace.at('time', last)), current);
  };
  const meet = (row: number, value: number) => {
    if (value === current) return;
    end(row - 1);
    begin = row;
    current = value;
  };
  eachPiece(trace, column, from, to, rowsOnPixel(view), (first, last, low, high) => {
    if (low === high) meet(first, low);
    else for (let row = first; row <= last; row++) meet(row, trace.at(column, row));
  });
  end(to);
}

export const gaitLane: Lane = {
  name: 'Gait',
  share: 0.16,
  draw(view) {
    const { ctx, top, height, inks } = view;
    eachRun(view, 'gait', (x0, x1, gait) => {
      ctx.fillStyle = gait === 0 ? inks.rule : gaitInk(gait, inks);
      ctx.globalAlpha = gait === 0 ? 0.5 : gait === 1 ? 0.75 : 1;
      // Height shows the gait, too: standing is the lowest.
      const tall = gait === 0 ? 0.35 : gait === 1 ? 0.75 : 1;
      ctx.fillRect(x0, top + height * (1 - tall), Math.max(1, x1 - x0), height * tall);
    });
    ctx.globalAlpha = 1;
  },
};

/** The bar over time, with the mark at which an emptied one may sprint again. */
export const staminaLane: Lane = {
  name: 'Stamina',
  share: 0.36,
  isUsed: ({ stamina }) => stamina.enabled,
  draw(view) {
    const { stamina } = view.parameters;
    drawCurve(view, 'stamina', stamina.max, view.inks.stamina, view.inks.stamina, 0.3);
    const y = view.top + view.height - (Math.min(stamina.recoverTo, stamina.max) / stamina.max) * (view.height - 2);
    view.ctx.setLineDash([3, 3]);
    view.ctx.strokeStyle = view.inks.now;
    view.ctx.lineWidth = 1;
    view.ctx.beginPath();
    view.ctx.moveTo(view.left, y);
    view.ctx.lineTo(view.left + view.width, y);
    view.ctx.stroke();
    view.ctx.setLineDash([]);
  },
};

/** Sprint requested (outline) and given (filled): a mere outline was refused. */
export const sprintLane: Lane = {
  name: 'Sprint',
  share: 0.15,
  isExtra: true,
  draw(view) {
    const { ctx, top, height, inks } = view;
    eachRun(view, 'sprintGiven', (x0, x1, given) => {
      if (!given) return;
      ctx.fillStyle = inks.now;
      ctx.fillRect(x0, top + 1, Math.max(1, x1 - x0), height - 1);
    });
    eachRun(view, 'sprintWanted', (x0, x1, wanted) => {
      if (!wanted) return;
      ctx.strokeStyle = inks.now;
      ctx.lineWidth = 1;
      ctx.strokeRect(x0 + 0.5, top + 1, Math.max(1, x1 - x0 - 1), height - 1.5);
    });
  },
};

/** The magnitude that the hands ask for, 0 to 1 (√2 with uneven diagonals). */
export const handsLane: Lane = {
  name: 'Hands',
  share: 0.22,
  isExtra: true,
  draw(view) {
    let highest = Math.SQRT2;
    eachColumn(view, 'amount', (_x, _value, _low, high) => {
      highest = Math.max(highest, high);
    });
    drawCurve(view, 'amount', highest, view.inks.inkSoft, view.inks.inkSoft, 0.12);
  },
};
