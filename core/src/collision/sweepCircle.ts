import type { Probe } from './probe.ts';
import { GRAZE } from './tolerance.ts';

/**
 * A circle swept against two-sided segments: a point swept against the capsule around each (Ericson, Real-Time Collision Detection, 2005, section
 * 5.5). A capsule is convex, so the displacement enters it at one place: on its side, where the displacement comes within the radius beside the
 * segment, else on the round end there. Writes the first contact into the probe.
 */
export function sweepCircles(p: Probe): void {
  const { near, count, x, y, dx, dy } = p;
  const { segments, courses } = p.index.buckets;
  const size = Math.sqrt(dx * dx + dy * dy);
  const graze = -GRAZE * size;
  const r = p.halfWidth - p.slop;
  let first = 1;
  let wall = -1;
  let normalX = 0;
  let normalY = 0;
  for (let k = 0; k < count; k++) {
    const index = near[k] as number;
    const i = index * 4;
    const c = index * 3;
    const ux = courses[c] as number;
    const uy = courses[c + 1] as number;
    let px = segments[i] as number;
    let py = segments[i + 1] as number;
    const rx = x - px;
    const ry = y - py;
    const beside = ry * ux - rx * uy;
    const side = beside < 0 ? -1 : 1;
    const approach = (dy * ux - dx * uy) * side;
    const away = beside * side - r;
    let foot = rx * ux + ry * uy;
    let time = 0;
    if (away > 0) {
      if (approach >= graze) continue;
      time = away / -approach;
      if (time > 1) continue;
      foot += (dx * ux + dy * uy) * time;
    }
    if (foot >= 0 && foot <= (courses[c + 2] as number)) {
      // On its side: laid down at its full size before the wall.
      if (approach >= graze) continue;
      time += p.slop / approach;
      if (time < 0) time = 0;
      if (time >= first) continue;
      normalX = -uy * side;
      normalY = ux * side;
    } else {
      if (foot > 0) {
        px = segments[i + 2] as number;
        py = segments[i + 3] as number;
      }
      const fx = x - px;
      const fy = y - py;
      const b = fx * dx + fy * dy;
      if (b >= 0) continue;
      const a = size * size;
      const over = fx * fx + fy * fy - r * r;
      const discriminant = b * b - a * over;
      if (discriminant < 0) continue;
      time = over <= 0 ? 0 : (-b - Math.sqrt(discriminant)) / a;
      if (time > 1) continue;
      const nx = fx + dx * time;
      const ny = fy + dy * time;
      const length = Math.sqrt(nx * nx + ny * ny);
      if (length === 0) continue;
      const nears = (dx * nx + dy * ny) / length;
      if (nears >= graze) continue;
      time += p.slop / nears;
      if (time < 0) time = 0;
      if (time >= first) continue;
      normalX = nx / length;
      normalY = ny / length;
    }
    first = time;
    wall = index;
  }
  p.time = first;
  p.wall = wall;
  p.normalX = normalX;
  p.normalY = normalY;
}
