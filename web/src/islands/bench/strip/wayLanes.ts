import { drawCurve, eachColumn, eachRun, type Lane } from './lanes.ts';

/** Way that is left to the destination. */
export const toGoLane: Lane = {
  name: 'To go',
  share: 0.3,
  draw(view) {
    let most = 1;
    eachColumn(view, 'toGo', (_x, _value, _low, high) => {
      most = Math.max(most, high);
    });
    drawCurve(view, 'toGo', most * 1.05, view.inks.route, view.inks.route, 0.15);
  },
};

/** How far the body is off the planned line. */
export const offLane: Lane = {
  name: 'Off the line',
  share: 0.22,
  draw(view) {
    let most = 2;
    eachColumn(view, 'off', (_x, _value, _low, high) => {
      most = Math.max(most, high);
    });
    drawCurve(view, 'off', most * 1.05, view.inks.ink, view.inks.inkSoft, 0.15);
  },
};

/** Grid steps: turning low, stepping tall, bumping in magenta. */
export const stepLane: Lane = {
  name: 'Steps',
  share: 0.16,
  draw(view) {
    const { ctx, top, height, inks } = view;
    eachRun(view, 'phase', (x0, x1, phase) => {
      if (phase === 0) return;
      ctx.fillStyle = phase === 3 ? inks.now : inks.inkSoft;
      const tall = phase === 1 ? 0.4 : 1;
      ctx.fillRect(x0 + 0.5, top + height * (1 - tall), Math.max(1, x1 - x0 - 1), height * tall);
    });
  },
};
