import { length } from '../math/functions.ts';
import { gather, hit, type SweptBody, sweep } from './sweptBody.ts';

/** A step aside that lets a body past a corner: the displacement, and the share of the way that is left after it. */
export interface Eased {
  x: number;
  y: number;
  rest: number;
}

const eased: Eased = { x: 0, y: 0, rest: 0 };
/** Room left beside the corner, so that rounding does not make it catch again. */
const ROOM = 1e-5;

/**
 * Whether a body at (x, y) that is stopped on its way (dx, dy) would get past by a step of at most `assist` to either side:
 * then the step, or as much of it as the way is long. Null where it would not, or where the step is blocked itself. The
 * contact that `hit` holds is kept.
 */
export function easeRound(p: SweptBody, x: number, y: number, dx: number, dy: number, assist: number): Eased | null {
  const size = length(dx, dy);
  if (size === 0) return null;
  const [ux, uy] = [dx / size, dy / size];
  const { time, normalX, normalY, segment } = hit;
  gather(p, x, y, size + assist + 2 * Math.max(p.halfWidth, p.halfHeight));
  const aside = leastAside(p, x, y, ux, uy, assist);
  if (aside !== 0) {
    const step = Math.min(Math.abs(aside), size) * Math.sign(aside);
    eased.x = -uy * step;
    eased.y = ux * step;
    eased.rest = 1 - Math.abs(step) / size;
  }
  hit.time = time;
  hit.normalX = normalX;
  hit.normalY = normalY;
  hit.segment = segment;
  return aside === 0 ? null : eased;
}

/** The smallest step across the way (ux, uy), to its right positive, past the end of a wall ahead; 0 where none is small enough. */
function leastAside(p: SweptBody, x: number, y: number, ux: number, uy: number, assist: number): number {
  const half = p.circle ? p.halfWidth : Math.abs(uy) * p.halfWidth + Math.abs(ux) * p.halfHeight;
  const { segments, found, count } = p.walls;
  // A sweep does not change what was found near.
  let least = 0;
  for (let k = 0; k < count * 2; k++) {
    const i = (found[k >> 1] as number) * 4 + (k & 1) * 2;
    const [rx, ry] = [(segments[i] as number) - x, (segments[i + 1] as number) - y];
    const ahead = rx * ux + ry * uy;
    const across = ry * ux - rx * uy;
    if (ahead <= 0 || across >= half || across <= -half) continue;
    // The end is passed on its right or on its left.
    for (let side = -1; side <= 1; side += 2) {
      const step = across + side * (half + ROOM);
      const size = step < 0 ? -step : step;
      if (size > assist || (least !== 0 && size >= Math.abs(least))) continue;
      if (passes(p, x, y, ux, uy, step, ahead)) least = step;
    }
  }
  return least;
}

/** Whether the body can step aside and then go on past what was `ahead`. */
function passes(p: SweptBody, x: number, y: number, ux: number, uy: number, step: number, ahead: number): boolean {
  if (sweep(p, x, y, -uy * step, ux * step)) return false;
  return !sweep(p, x - uy * step, y + ux * step, ux * ahead, uy * ahead);
}
