import type { Probe } from './probe.ts';
import { gather, sweep } from './sweep.ts';

/** Room left beside the corner, in slops, so that rounding does not make it catch again. */
const ROOM = 8;

/**
 * Returns true if a body blocked at the start of its move can pass after a sidestep of at most `assist`. The sidestep, cut to the length of the move,
 * is left in the probe's `ease` fields. False where the sidestep itself is blocked.
 */
export function easeRound(p: Probe, assist: number): boolean {
  const { x, y, dx, dy, normalX, normalY, wall } = p;
  const size = Math.sqrt(dx * dx + dy * dy);
  if (size === 0) return false;
  const [ux, uy] = [dx / size, dy / size];
  // Looks as far as the move and the body's own length: what lies farther on isn't a corner yet.
  const far = size + 2 * Math.max(p.halfWidth, p.halfHeight);
  p.reach = far + assist;
  gather(p);
  const aside = leastAside(p, x, y, ux, uy, far, assist);
  const least = Math.min(Math.abs(aside), size);
  const step = aside < 0 ? -least : least;
  p.easeX = -uy * step;
  p.easeY = ux * step;
  p.easeRest = 1 - Math.abs(step) / size;
  look(p, x, y, dx, dy);
  p.normalX = normalX;
  p.normalY = normalY;
  p.wall = wall;
  return aside !== 0;
}

function look(p: Probe, x: number, y: number, dx: number, dy: number): void {
  p.x = x;
  p.y = y;
  p.dx = dx;
  p.dy = dy;
}

/**
 * The smallest sidestep across the direction (ux, uy), positive to its right, past the end of a wall at most `far` ahead; 0 if none is small enough.
 * Walls known beyond that distance change nothing.
 */
function leastAside(p: Probe, x: number, y: number, ux: number, uy: number, far: number, assist: number): number {
  const half = p.circle ? p.halfWidth : Math.abs(uy) * p.halfWidth + Math.abs(ux) * p.halfHeight;
  const { segments } = p.index;
  let least = 0;
  for (let k = 0; k < p.count * 2; k++) {
    const i = (p.near[k >> 1] as number) * 4 + (k & 1) * 2;
    const [rx, ry] = [(segments[i] as number) - x, (segments[i + 1] as number) - y];
    const ahead = rx * ux + ry * uy;
    const across = ry * ux - rx * uy;
    if (ahead <= 0 || ahead > far || across >= half || across <= -half) continue;
    // The end is passed on its right or on its left.
    for (let side = -1; side <= 1; side += 2) {
      const step = across + side * (half + ROOM * p.slop);
      const size = step < 0 ? -step : step;
      if (size > assist || (least !== 0 && size >= Math.abs(least))) continue;
      if (passes(p, x, y, ux, uy, step, ahead)) least = step;
    }
  }
  return least;
}

/** True if the body can step aside and then go on past what was `ahead`. */
function passes(p: Probe, x: number, y: number, ux: number, uy: number, step: number, ahead: number): boolean {
  look(p, x, y, -uy * step, ux * step);
  if (sweep(p)) return false;
  look(p, x - uy * step, y + ux * step, ux * ahead, uy * ahead);
  return !sweep(p);
}
