import { bodyRadius, type Ground, groundWith, outAndBack, readGround, readTape, readTuning, rerun } from '@zygopod/core';
import { expose } from 'comlink';
import { drawGround } from '../islands/chart/drawGround.ts';
import { drawPrints } from '../islands/chart/drawMotion.ts';
import type { Inks } from '../islands/chart/theme.ts';
import type { View } from '../islands/chart/view.ts';

/** Ticks of a tape that a picture shows at most. */
const SHOWN = 1500;

/** Hands for what turns and drives: ahead, round, and back. */
const roundAbout = {
  ...outAndBack,
  name: 'Round about',
  events: [
    { at: 10, press: 'up' },
    { at: 70, press: 'right' },
    { at: 150, release: 'right' },
    { at: 200, press: 'left' },
    { at: 300, release: 'left' },
    { at: 340, release: 'up' },
  ],
};

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The view that shows a box whole, no closer than `most` pixels a unit. */
function viewOf({ left, top, right, bottom }: Box, width: number, height: number, most: number): View {
  const scale = Math.min(width / Math.max(1e-6, right - left), height / Math.max(1e-6, bottom - top), most);
  return { scale, x: (left + right) / 2 - width / 2 / scale, y: (top + bottom) / 2 - height / 2 / scale };
}

export interface Pictured {
  /** The files, as the server has them; each may be absent. */
  tuning: unknown;
  ground: unknown;
  tape: unknown;
  inks: Inks;
  width: number;
  height: number;
  ratio: number;
}

/** A picture of a document from its own prints: where the hands take the tuning on the ground; of a ground, the whole of it. */
const api = {
  async draw({ tuning, ground, tape, inks, width, height, ratio }: Pictured): Promise<Blob> {
    const canvas = new OffscreenCanvas(width * ratio, height * ratio);
    const ctx = canvas.getContext('2d') as unknown as CanvasRenderingContext2D;
    ctx.scale(ratio, ratio);
    ctx.fillStyle = inks.paper;
    ctx.fillRect(0, 0, width, height);
    const [read, on] = [readTuning(tuning), readGround(ground)];
    const laid: Ground | null = on.ok ? on.value : null;
    if (!read.ok && laid) {
      const { size } = laid;
      const view = viewOf({ left: 0, top: 0, right: size.width, bottom: size.height }, width, height, 4);
      drawGround(ctx, { ...laid, course: undefined }, view, width, height, inks, { grid: false, frame: false });
    } else if (read.ok) {
      const { parameters } = read.value;
      const hands = readTape(parameters.scheme === 'turn' ? roundAbout : tape);
      const place = laid ?? groundWith({ name: 'Open', size: { width: 4000, height: 4000 }, start: { x: 2000, y: 2000 } });
      const { trace } = rerun(hands.ok ? hands.value : outAndBack, parameters, place, { most: SHOWN });
      const radius = bodyRadius(parameters.body);
      const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
      for (let row = trace.first; row < trace.end; row++) {
        const [x, y] = [trace.at('x', row), trace.at('y', row)];
        box.left = Math.min(box.left, x - 3 * radius);
        box.top = Math.min(box.top, y - 3 * radius);
        box.right = Math.max(box.right, x + 3 * radius);
        box.bottom = Math.max(box.bottom, y + 3 * radius);
      }
      const view = viewOf(box, width, height, 10 / radius);
      drawGround(ctx, { ...place, course: undefined }, view, width, height, inks, { grid: false, frame: false });
      drawPrints(ctx, trace, trace.end - 1, view, inks);
    }
    return canvas.convertToBlob({ type: 'image/png' });
  },
};
export type PicturesApi = typeof api;

expose(api);
