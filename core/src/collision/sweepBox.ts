import type { Probe } from './probe.ts';
import { GRAZE } from './tolerance.ts';

/**
 * A level box swept against segments, each felt from both sides, by separating axes: the box's two and the segment's normal (Ericson
 * 2005, section 5.5.8). The times between which the box overlaps a segment on each axis are cut with each other; the axis on which
 * the overlap begins last is the contact's. Writes the first contact into the probe.
 */
export function sweepBoxes(p: Probe): void {
  const { near, count, x, y, dx, dy } = p;
  const { segments, courses } = p.index.buckets;
  const graze = -GRAZE * Math.sqrt(dx * dx + dy * dy);
  const w = p.halfWidth - p.slop;
  const h = p.halfHeight - p.slop;
  let least = 1;
  let wall = -1;
  let normalX = 0;
  let normalY = 0;
  for (let k = 0; k < count; k++) {
    const index = near[k] as number;
    const i = index * 4;
    const ax = segments[i] as number;
    const ay = segments[i + 1] as number;
    const bx = segments[i + 2] as number;
    const by = segments[i + 3] as number;
    let enter = -Infinity;
    let exit = Infinity;
    let axis = 0;

    const left = (ax < bx ? ax : bx) - w;
    const right = (ax < bx ? bx : ax) + w;
    if (dx === 0) {
      if (x <= left || x >= right) continue;
    } else {
      const a = (left - x) / dx;
      const b = (right - x) / dx;
      enter = a < b ? a : b;
      exit = a < b ? b : a;
      axis = 1;
    }
    const top = (ay < by ? ay : by) - h;
    const bottom = (ay < by ? by : ay) + h;
    if (dy === 0) {
      if (y <= top || y >= bottom) continue;
    } else {
      const a = (top - y) / dy;
      const b = (bottom - y) / dy;
      const begins = a < b ? a : b;
      const ends = a < b ? b : a;
      if (begins > enter) {
        enter = begins;
        axis = 2;
      }
      if (ends < exit) exit = ends;
    }
    const nx = -(courses[index * 3 + 1] as number);
    const ny = courses[index * 3] as number;
    const beside = (x - ax) * nx + (y - ay) * ny;
    const across = dx * nx + dy * ny;
    const reach = w * (nx < 0 ? -nx : nx) + h * (ny < 0 ? -ny : ny);
    if (across === 0) {
      if (beside <= -reach || beside >= reach) continue;
    } else {
      const a = (-reach - beside) / across;
      const b = (reach - beside) / across;
      const begins = a < b ? a : b;
      const ends = a < b ? b : a;
      if (begins > enter) {
        enter = begins;
        axis = 3;
      }
      if (ends < exit) exit = ends;
    }
    if (enter > exit || enter > 1 || exit <= 0 || axis === 0) continue;

    const along = axis === 1 ? dx : axis === 2 ? dy : across;
    if (enter < 0) {
      // A box that overlaps the segment and moves away from it on this axis is not held back.
      const low = axis === 1 ? left + w : axis === 2 ? top + h : 0;
      const high = axis === 1 ? right - w : axis === 2 ? bottom - h : 0;
      const value = axis === 1 ? x : axis === 2 ? y : beside;
      const away = value < low ? value - low : value > high ? value - high : 0;
      if (along * away > 0) continue;
      enter = 0;
    }
    const approach = along < 0 ? along : -along;
    if (approach >= graze) continue;
    enter += p.slop / approach;
    if (enter < 0) enter = 0;
    if (enter >= least) continue;
    const sign = along < 0 ? 1 : -1;
    least = enter;
    wall = index;
    normalX = axis === 1 ? sign : axis === 2 ? 0 : nx * sign;
    normalY = axis === 1 ? 0 : axis === 2 ? sign : ny * sign;
  }
  p.time = least;
  p.wall = wall;
  p.normalX = normalX;
  p.normalY = normalY;
}
