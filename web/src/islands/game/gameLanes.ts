import type { Column, Trace } from '@zygopod/core';
import { gaitInk } from '../chart/drawMotion.ts';
import type { Inks } from '../chart/theme.ts';
import { eachColumn, eachRun } from '../strip/lanes.ts';
import { drawDotted, drawWords } from '../strip/marks.ts';
import type { Late } from './late.ts';

/** Inputs of a lane's drawing: both traces, row by row, in a window of time. */
interface GameView {
  ctx: CanvasRenderingContext2D;
  inks: Inks;
  model: Trace;
  game: Trace;
  /** Rows in sight, the last one included. */
  from: number;
  to: number;
  top: number;
  height: number;
  left: number;
  width: number;
  x(time: number): number;
  /** Highest steady speed of the tuning, unit/s; its stamina; width of the body, unit. */
  fastest: number;
  stamina: number;
  body: number;
  unit: string;
  late: Late;
  tickOf(row: number): number;
}

export interface GameLane {
  name: string;
  share: number;
  draw(view: GameView): void;
}

/** A column of both over [low, high]: the model dashed, the game in green. */
function drawBoth(view: GameView, column: Column, low: number, high: number): void {
  const { ctx, inks, top, height } = view;
  const y = (value: number) => top + height - ((Math.min(high, Math.max(low, value)) - low) / (high - low)) * (height - 2);
  for (const [trace, ink, dash, wide] of [
    [view.model, inks.inkSoft, [4, 3], 1.3],
    [view.game, inks.route, [], 1.7],
  ] as const) {
    ctx.beginPath();
    eachColumn({ ...view, trace }, column, (x, value) => ctx.lineTo(x, y(value)));
    ctx.strokeStyle = ink;
    ctx.lineWidth = wide;
    ctx.lineJoin = 'round';
    ctx.setLineDash([...dash]);
    ctx.stroke();
  }
  ctx.setLineDash([]);
}

const speed: GameLane = {
  name: 'Speed',
  share: 1,
  draw(view) {
    let most = view.fastest;
    for (const trace of [view.model, view.game])
      eachColumn({ ...view, trace }, 'speed', (_x, _value, _low, high) => (most = Math.max(most, high)));
    drawBoth(view, 'speed', 0, most * 1.08);
  },
};

const facing: GameLane = { name: 'Facing', share: 0.45, draw: (view) => drawBoth(view, 'facing', -180, 180) };

const gait: GameLane = {
  name: 'Gait',
  share: 0.28,
  draw(view) {
    const { ctx, inks, top, height } = view;
    const each = height / 2;
    for (const [i, trace] of [view.model, view.game].entries())
      eachRun({ ...view, trace }, 'gait', (x0, x1, value) => {
        ctx.fillStyle = value === 0 ? inks.rule : gaitInk(value, inks);
        ctx.globalAlpha = value === 0 ? 0.4 : i === 0 ? 0.45 : 1;
        const tall = (each - 1.5) * [0.35, 0.7, 1, 0.7][value]!;
        ctx.fillRect(x0, top + each * (i + 1) - 1.5 - tall, Math.max(1, x1 - x0), tall);
      });
    ctx.globalAlpha = 1;
  },
};

const stamina: GameLane = { name: 'Stamina', share: 0.45, draw: (view) => drawBoth(view, 'stamina', 0, view.stamina * 1.05) };

const apart: GameLane = {
  name: 'Apart',
  share: 0.6,
  draw(view) {
    const { ctx, inks, model, game, from, to, top, height, x } = view;
    const every = Math.max(1, Math.floor((to - from) / Math.max(1, view.width)));
    const points: [number, number][] = [];
    let most = view.body / 4;
    for (let row = from; row <= to; row += every) {
      const away = Math.hypot(model.at('x', row) - game.at('x', row), model.at('y', row) - game.at('y', row));
      most = Math.max(most, away);
      points.push([x(game.at('time', row)), away]);
    }
    const [first, last] = [points[0], points.at(-1)];
    if (!first || !last) return;
    const y = (away: number) => top + height - (away / (most * 1.1)) * (height - 2);
    ctx.beginPath();
    for (const [px, away] of points) ctx.lineTo(px, y(away));
    ctx.strokeStyle = inks.now;
    ctx.lineWidth = 1.4;
    ctx.stroke();
    ctx.lineTo(last[0], top + height);
    ctx.lineTo(first[0], top + height);
    ctx.globalAlpha = 0.12;
    ctx.fillStyle = inks.now;
    ctx.fill();
    ctx.globalAlpha = 1;
    if (most > view.body) {
      drawDotted(ctx, view.left, view.left + view.width, y(view.body), inks.now);
      drawWords(ctx, inks, '1 body', view.left + 3, y(view.body) - 3, inks.now);
    }
  },
};

const late: GameLane = {
  name: 'Late',
  share: 0.3,
  draw(view) {
    const { ctx, inks, from, to, top, height, x, game } = view;
    let most = 20;
    for (let row = from; row <= to; row++) {
      const delay = view.late.at(view.tickOf(row));
      if (delay > most) most = delay;
    }
    ctx.strokeStyle = inks.inkSoft;
    ctx.lineWidth = 1;
    ctx.beginPath();
    for (let row = from; row <= to; row++) {
      const delay = view.late.at(view.tickOf(row));
      if (!Number.isNaN(delay)) ctx.lineTo(x(game.at('time', row)), top + height - (delay / most) * (height - 2));
    }
    ctx.stroke();
    const { p99 } = view.late;
    if (p99 !== null)
      drawWords(
        ctx,
        inks,
        `99 of 100 within ${p99 < 10 ? p99.toFixed(1) : Math.round(p99)} ms`,
        view.left + view.width - 3,
        top + 10,
        inks.inkSoft,
        'right',
      );
  },
};

/** The lanes of a game that reports stamina, gait and facing; without one of them its lane is left out. */
export const lanesOf = (columns: readonly string[]): readonly GameLane[] => [
  speed,
  ...(columns.includes('facing') ? [facing] : []),
  ...(columns.includes('gait') ? [gait] : []),
  ...(columns.includes('stamina') ? [stamina] : []),
  apart,
  late,
];
