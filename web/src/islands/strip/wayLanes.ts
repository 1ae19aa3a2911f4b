import type { Column, Parameters } from '@zygopod/core';
import type { Inks } from '../chart/theme.ts';
import { drawCurve, eachColumn, eachRun, type Lane } from './lanes.ts';

/** Clicks plan a path: grid steps have none. */
const hasPaths = ({ scheme, route }: Parameters) => route.enabled && scheme !== 'step';

/** A lane of paths with a column's curve from 0 to the largest value in sight, at least `least`. */
function curveLane(name: string, column: Column, share: number, least: number, ink: keyof Inks): Lane {
  return {
    name,
    share,
    isUsed: hasPaths,
    draw(view) {
      let most = least;
      eachColumn(view, column, (_x, _value, _low, high) => {
        most = Math.max(most, high);
      });
      drawCurve(view, column, most * 1.05, view.inks[ink], view.inks[ink], 0.15);
    },
  };
}

/** Distance left to the destination. */
export const toGoLane = curveLane('To go', 'toGo', 0.3, 1, 'route');

/** How far the body is off the planned line. */
export const offLane: Lane = { ...curveLane('Off the line', 'off', 0.22, 2, 'ink'), isExtra: true };

/** Grid steps: turning low, stepping tall, bumping in magenta. */
export const stepLane: Lane = {
  name: 'Steps',
  share: 0.16,
  isUsed: ({ scheme }) => scheme === 'step',
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
