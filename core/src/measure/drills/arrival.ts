import { length } from '../../math/functions.ts';
import type { Trace } from '../../motion/trace.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';

/**
 * The time (s) at which a body reached a point, or its radius, within the tick before the row that reports it. The path left at that tick's start is
 * travelled at its speed. Braking for the path, s at v takes (s − b)/v + 2·b/v with b = min(s, v²/(2·decelerate)).
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
    const remaining = away(before) - route.arriveRadius;
    if (!isExact) return within((remaining / (away(before) - away(row - 1))) * dt);
    // v0·t + ½·a·t² = s, with the tick's mean acceleration a.
    return within((2 * remaining) / (v0 + Math.sqrt(Math.max(0, v0 * v0 + (2 * (v1 - v0) * remaining) / dt))));
  }
  // Without exact integration a tick takes its whole length to its end.
  if (!isExact) return start + dt;
  const remaining = away(before);
  if (!route.brake) return within(remaining / v0);
  const braked = Math.min(remaining, (v0 * v0) / (2 * ramp.decelerate));
  return within((remaining + braked) / v0);
}
