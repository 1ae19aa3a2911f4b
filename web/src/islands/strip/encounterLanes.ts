import { compassName, gaits } from '@zygopod/core';
import { gaitInk } from '../chart/drawMotion.ts';
import { eachRun, type Lane, type LaneView, rowsOnPixel } from './lanes.ts';
import { eachPiece } from './pieces.ts';

const TYPE = '10px "Spline Sans Mono", monospace';

/** Where the body faces: W at both edges, N, E and S between; a turn past W leaves at one edge and comes in at the other. */
export const facingLane: Lane = {
  name: 'Facing',
  share: 0.42,
  draw(view) {
    const { ctx, trace, from, to, top, height, inks } = view;
    const y = (degrees: number) => top + ((degrees + 180) / 360) * height;
    ctx.setLineDash([1.5, 3]);
    ctx.strokeStyle = inks.rule;
    ctx.lineWidth = 1;
    ctx.font = TYPE;
    ctx.textBaseline = 'middle';
    ctx.textAlign = 'left';
    const labels: [string, number][] = [];
    for (const [degrees, name] of [
      [-90, 'N'],
      [0, 'E'],
      [90, 'S'],
    ] as const) {
      ctx.beginPath();
      ctx.moveTo(view.left + 14, y(degrees));
      ctx.lineTo(view.left + view.width, y(degrees));
      ctx.stroke();
      if (height > 26 || degrees === 0) labels.push([name, y(degrees)]);
    }
    ctx.setLineDash([]);
    ctx.beginPath();
    let last = Number.NaN;
    let pixel = Number.NaN;
    eachPiece(trace, 'facing', from, to, rowsOnPixel(view), (_first, row, _low, _high, degrees) => {
      const x = view.x(trace.at('time', row));
      if (degrees === last && Math.round(x) === pixel && row < to) return;
      if (Math.abs(degrees - last) <= 180) {
        ctx.lineTo(x, y(last));
        ctx.lineTo(x, y(degrees));
      } else ctx.moveTo(x, y(degrees));
      last = degrees;
      pixel = Math.round(x);
    });
    ctx.strokeStyle = inks.ink;
    ctx.lineWidth = 1.5;
    ctx.stroke();
    ctx.lineWidth = 3;
    ctx.strokeStyle = inks.paper;
    ctx.fillStyle = inks.inkSoft;
    for (const [name, at] of labels) {
      ctx.strokeText(name, view.left + 3, at);
      ctx.fillText(name, view.left + 3, at);
    }
  },
};

/** Walls met, as long as the tick in which they were, the taller the squarer: a steady contact is a solid bar. Below it the edges that hold the body. */
export const contactLane: Lane = {
  name: 'Contact',
  share: 0.22,
  draw(view) {
    const { ctx, trace, from, to, top, height, inks } = view;
    ctx.fillStyle = inks.now;
    let pixel = Number.NaN;
    const meet = (row: number) => {
      const x = Math.round(view.x(trace.at('time', row)));
      const met = x === pixel ? null : trace.contacts.at(row);
      if (!met) return;
      pixel = x;
      const tall = (0.25 + (0.75 * met.angle) / (Math.PI / 2)) * (height - 4);
      const wide = Math.max(2, x - Math.round(view.x(trace.at('time', Math.max(trace.first, row - 1)))));
      ctx.fillRect(x - wide, top + height - 4 - tall, wide, tall);
    };
    eachPiece(trace, 'contacts', from, to, rowsOnPixel(view), (first, last, _low, high) => {
      if (high > 0) for (let row = first; row <= last; row++) if (trace.at('contacts', row) > 0) meet(row);
    });
    eachRun(view, 'edge', (x0, x1, sides) => {
      if (sides) ctx.fillRect(x0, top + height - 3, Math.max(1.5, x1 - x0), 3);
    });
  },
};

/** The pose for an animation system: a ribbon by gait, with the pose's name where there is room. */
export const poseLane: Lane = {
  name: 'Pose',
  share: 0.2,
  isExtra: true,
  draw(view: LaneView) {
    const { ctx, trace, from, to, top, height, inks, parameters } = view;
    const { directions } = parameters.facing;
    const poseAt = (row: number) => trace.pose(row, directions);
    ctx.font = TYPE;
    ctx.textBaseline = 'middle';
    ctx.textAlign = 'center';
    for (let row = from; row <= to; ) {
      const pose = poseAt(row);
      const gait = trace.at('gait', row);
      let end = row;
      while (end < to && trace.at('gait', end + 1) === gait && poseAt(end + 1) === pose) end++;
      const x0 = view.x(trace.at('time', Math.max(trace.first, row - 1)));
      const x1 = view.x(trace.at('time', end));
      ctx.fillStyle = gait === 0 ? inks.rule : gaitInk(gait, inks);
      ctx.globalAlpha = 0.28;
      ctx.fillRect(x0, top, Math.max(1, x1 - x0 - 1), height);
      ctx.globalAlpha = 1;
      const name = `${gaits[gait] ?? ''}-${compassName((trace.at('facing', row) * Math.PI) / 180, directions)}`;
      ctx.fillStyle = inks.ink;
      if (x1 - x0 > name.length * 6.2 + 4 && height > 9) ctx.fillText(name, (x0 + x1) / 2, top + height / 2 + 0.5);
      row = end + 1;
    }
  },
};
