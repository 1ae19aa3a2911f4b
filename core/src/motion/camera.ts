import type { Ground } from '../ground/ground.ts';
import { clamp, cos, DEGREE, exp2, sin } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { CameraState, ClockState, Motion } from './slices.ts';

export interface CameraParameters {
  follow: Parameters['camera']['follow'];
  halfLife: number;
  perTick: number;
  /** Half sides of the dead zone, on the view's axes. */
  zoneX: number;
  zoneY: number;
  lookAhead: number;
  /** The view's axes: cosine and sine of its heading. */
  c: number;
  s: number;
  /** Where the middle of the view may be. */
  left: number;
  right: number;
  top: number;
  bottom: number;
  /** Where it stays when it does not follow; NaN: where the body starts. */
  homeX: number;
  homeY: number;
  /** Length of a fixed tick and the share of the lag that a smooth view keeps over it. */
  dt: number;
  kept: number;
}

/**
 * The four corners of what the view shows of the ground, clockwise from its upper left: a rectangle turned by `heading`,
 * and, leaning by `tilt`, 1/cos(tilt) times as high, because the view foreshortens it.
 */
export function viewCorners(camera: Parameters['camera'], x: number, y: number): [number, number][] {
  const [halfWidth, halfHeight] = halfSides(camera);
  const c = cos(camera.heading * DEGREE);
  const s = sin(camera.heading * DEGREE);
  return (
    [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ] as const
  ).map(([across, down]) => [x + across * halfWidth * c - down * halfHeight * s, y + across * halfWidth * s + down * halfHeight * c]);
}

/** Half the width and half the height of the ground in view. */
function halfSides({ viewWidth, viewHeight, tilt }: Parameters['camera']): [number, number] {
  return [viewWidth / 2, viewHeight / 2 / cos(tilt * DEGREE)];
}

/** The middle of the view between [half, size − half]; a ground smaller than the view is centred. */
function room(half: number, size: number): [number, number] {
  return half * 2 <= size ? [half, size - half] : [size / 2, size / 2];
}

export function prepareCamera({ camera, clock }: Parameters, ground: Ground): CameraParameters {
  const c = cos(camera.heading * DEGREE);
  const s = sin(camera.heading * DEGREE);
  const [halfWidth, halfHeight] = halfSides(camera);
  // A turned view is kept in by the level rectangle around it.
  const reachX = halfWidth * Math.abs(c) + halfHeight * Math.abs(s);
  const reachY = halfWidth * Math.abs(s) + halfHeight * Math.abs(c);
  const [left, right] = camera.keepInGround ? room(reachX, ground.size.width) : [-Infinity, Infinity];
  const [top, bottom] = camera.keepInGround ? room(reachY, ground.size.height) : [-Infinity, Infinity];
  const { frame } = ground;
  return {
    follow: camera.follow,
    halfLife: camera.halfLife,
    perTick: camera.perTick,
    zoneX: camera.deadZoneWidth / 2,
    zoneY: camera.deadZoneHeight / 2,
    lookAhead: camera.lookAhead,
    c,
    s,
    left,
    right,
    top,
    bottom,
    homeX: frame ? frame.x + frame.width / 2 : Number.NaN,
    homeY: frame ? frame.y + frame.height / 2 : Number.NaN,
    dt: 1 / clock.hz,
    kept: exp2(-1 / clock.hz / camera.halfLife),
  };
}

/** Puts the view where it is at rest: over the body, or at home. */
export function settleCamera(state: CameraState, p: CameraParameters, motion: Motion): void {
  const home = p.follow === 'none' && !Number.isNaN(p.homeX);
  state.x = clamp(home ? p.homeX : motion.x, p.left, p.right);
  state.y = clamp(home ? p.homeY : motion.y, p.top, p.bottom);
}

/** Follows the body, or the place `lookAhead` seconds ahead of it, and stays in the ground where it has to. */
export function stepCamera(state: CameraState, p: CameraParameters, motion: Motion, clock: ClockState): void {
  if (p.follow === 'none') return;
  let x = motion.x + motion.vx * p.lookAhead;
  let y = motion.y + motion.vy * p.lookAhead;
  if (p.follow === 'deadZone') {
    // On the view's own axes the body may be within the zone; the view moves by what lies beyond.
    const across = (x - state.x) * p.c + (y - state.y) * p.s;
    const down = (y - state.y) * p.c - (x - state.x) * p.s;
    const beyondX = across - clamp(across, -p.zoneX, p.zoneX);
    const beyondY = down - clamp(down, -p.zoneY, p.zoneY);
    x = state.x + beyondX * p.c - beyondY * p.s;
    y = state.y + beyondX * p.s + beyondY * p.c;
  }
  x = x < p.left ? p.left : x > p.right ? p.right : x;
  y = y < p.top ? p.top : y > p.bottom ? p.bottom : y;
  const kept =
    p.follow === 'smooth' ? (clock.dt === p.dt ? p.kept : exp2(-clock.dt / p.halfLife)) : p.follow === 'perTick' ? 1 - p.perTick : 0;
  state.x = x + (state.x - x) * kept;
  state.y = y + (state.y - y) * kept;
}
