import type { Inks } from '../chart/theme.ts';
import { laneHeights } from './laneHeights.ts';

/** Room between two lanes, and that which a lane's name needs, px. */
const GAP = 3;
const LABEL = 14;

/** Draws lanes one under the other between `top` and `bottom`, each clipped to its place, with its name at the left. */
export function stackLanes<L extends { name: string; share: number }>(
  ctx: CanvasRenderingContext2D,
  inks: Inks,
  lanes: readonly L[],
  { top, bottom, left, width }: { top: number; bottom: number; left: number; width: number },
  draw: (lane: L, top: number, height: number) => void,
): void {
  const heights = laneHeights(
    lanes.map(({ share }) => share),
    bottom - top - GAP * (lanes.length - 1),
    LABEL - GAP,
  );
  let at = top;
  for (const [i, lane] of lanes.entries()) {
    const height = heights[i] as number;
    ctx.save();
    ctx.beginPath();
    ctx.rect(left, at - 4, width, height + 8);
    ctx.clip();
    draw(lane, at, height);
    ctx.restore();
    ctx.font = '600 11.5px "Archivo Variable", sans-serif';
    ctx.fillStyle = inks.inkSoft;
    ctx.textAlign = 'left';
    ctx.textBaseline = 'middle';
    ctx.fillText(lane.name, 14, at + height / 2);
    at += height + GAP;
  }
}
