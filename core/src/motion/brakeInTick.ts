import { clamp, length } from '../math/functions.ts';
import type { Own } from './body.ts';

/** Tolerance for rounding, as a fraction of a tick or of a speed. */
const NONE = 1e-9;

/**
 * Brakes along v = √(2·d·left), from the moment in which the motion of this tick meets it. The tick goes from v to w, its end speed or the cap,
 * with a steady acceleration a for t = 2·(w·dt − distance)/(w − v), and on at w. While it accelerates it meets the curve after
 * s = (2·d·left − v²)/(2·(a + d)) at the speed h = √(v² + 2·a·s), a time of 2·s/(v + h); later it does at w, with w²/(2·d) left. What is left of
 * the tick takes d from the speed. `decelerate`: d, unit/s²; `speed`: of the tick's end as the ramp alone has it, unit/s.
 */
export function brakeInTick(body: Own<'velocity'>, decelerate: number, speed: number): void {
  const { routeToGo: left, routeCap: cap } = body;
  const twice = 2 * decelerate;
  const distance = length(body.velocityDx, body.velocityDy);
  const after = left - distance;
  if (after > 0 && speed * speed <= twice * after) return;
  const dt = body.clockDt;
  const before = length(body.velocityFromX, body.velocityFromY);
  const from = before < cap ? before : cap;
  const top = speed < cap ? speed : cap;
  const gained = top - from;
  const rises = gained > top * NONE;
  const within = rises ? clamp((2 * (top * dt - distance)) / gained, 0, dt) : dt;
  const gain = within > dt * NONE ? gained / within : 0;
  const until = (cap * cap - from * from) / (2 * gain + twice);
  let met = Math.sqrt(from * from + 2 * gain * until);
  let time = until > 0 ? (2 * until) / (from + met) : 0;
  if (rises && (gain === 0 || met > top)) {
    const rise = 0.5 * (from + top) * within;
    met = top;
    time = within + (left - (top * top) / twice - rise) / top;
  }
  const braked = time > 0 ? dt - time : dt;
  const kept = met - decelerate * braked;
  const end = kept > 0 ? kept : 0;
  const gone = left - (end * end) / twice;
  body.velocityX = body.routeWishX * end;
  body.velocityY = body.routeWishY * end;
  body.velocitySpeed = end;
  // The whole distance: exactly the destination.
  const isWhole = end === 0 && left === body.routeDistance;
  body.velocityDx = isWhole ? body.routeAimX - body.x : body.routeWishX * gone;
  body.velocityDy = isWhole ? body.routeAimY - body.y : body.routeWishY * gone;
}
