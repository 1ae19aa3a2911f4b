import { length } from '../../math/functions.ts';
import type { Trace } from '../../motion/trace.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';

/**
 * When (s) a body came to a point, or into its radius: inside of the tick before the row in which it is told. What is left of the way at that tick's
 * beginning is gone at its speed; braking as the way asks for, s at v takes (s − b)/v + 2·b/v with b = min(s, v²/(2·decelerate)).
 */
export function arrivedAt(trace: Trace, row: number, [x, y]: readonly [number, number], { route, ramp, clock }: Parameters): number {
  const before = Math.max(trace.first, row - 2);
  const [v0, v1] = [trace.at('speed', before), trace.at('speed', row - 1)];
  const start = trace.at('time', before);
  const dt = trace.at('time', row - 1) - start;
  const away = (at: number) => length(x - trace.at('x', at), y - trace.at('y', at));
  const isExact = clock.integration === 'exact';
  const within = (seconds: number) => start + (seconds >= 0 && seconds < dt ? seconds : dt);
  if (route.arrival === 'radiusOnly') {
    const way = away(before) - route.arriveRadius;
    if (!isExact) return within((way / (away(before) - away(row - 1))) * dt);
    // v0·t + ½·a·t² = s, with the tick's mean acceleration a.
    return within((2 * way) / (v0 + Math.sqrt(Math.max(0, v0 * v0 + (2 * (v1 - v0) * way) / dt))));
  }
  // Without exact integration a tick takes all its time to where it ends.
  if (!isExact) return start + dt;
  const way = away(before);
  if (!route.brake) return within(way / v0);
  const braked = Math.min(way, (v0 * v0) / (2 * ramp.decelerate));
  return within((way + braked) / v0);
}
