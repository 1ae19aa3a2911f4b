import type { Ground } from '../ground/ground.ts';
import { clamp, cos, DEGREE, exp2, LN2, sin } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';

/** Settings of the camera stage. */
export interface CameraPlan {
  follow: Parameters['camera']['follow'];
  halfLife: number;
  perTick: number;
  /** Half sides of the dead zone, on the view's axes. */
  zoneX: number;
  zoneY: number;
  lookAhead: number;
  /** Offset from the body to the middle of the view, unit. */
  offsetX: number;
  offsetY: number;
  /** The view's axes: cosine and sine of its heading. */
  c: number;
  s: number;
  /** Where the middle of the view may be. */
  left: number;
  right: number;
  top: number;
  bottom: number;
  /** Place of a fixed view; NaN: the body's start. */
  homeX: number;
  homeY: number;
  /** Length of a fixed tick, s; for a smooth view over it the share of the lag that is kept, and its time constant halfLife/ln 2 in ticks. */
  dt: number;
  kept: number;
  lag: number;
  /** A smooth view from straight above. */
  plain: boolean;
}

/**
 * The four corners of the view on the ground, clockwise from its upper left: a rectangle turned by `heading`, and, leaning by `tilt`, 1/cos(tilt)
 * times as high, because the view foreshortens it.
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

/** Keeps the middle of the view within [half, size − half]; a ground smaller than the view is centred. */
function room(half: number, size: number): [number, number] {
  return half * 2 <= size ? [half, size - half] : [size / 2, size / 2];
}

export function prepareCamera({ camera, clock }: Parameters, ground: Ground): CameraPlan {
  const c = cos(camera.heading * DEGREE);
  const s = sin(camera.heading * DEGREE);
  const [halfWidth, halfHeight] = halfSides(camera);
  // A turned view is kept inside by the level rectangle around it.
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
    offsetX: -(camera.offsetX * c - (camera.offsetY / cos(camera.tilt * DEGREE)) * s),
    offsetY: -(camera.offsetX * s + (camera.offsetY / cos(camera.tilt * DEGREE)) * c),
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
    lag: (camera.halfLife / LN2) * clock.hz,
    plain: camera.follow === 'smooth' && camera.lookAhead === 0,
  };
}

/** Moves the view to its place at rest: over the body, or its fixed place. */
export function settleCamera(body: Own<'camera'>, p: CameraPlan): void {
  const home = p.follow === 'none' && !Number.isNaN(p.homeX);
  body.cameraX = clamp(home ? p.homeX : body.x + p.offsetX, p.left, p.right);
  body.cameraY = clamp(home ? p.homeY : body.y + p.offsetY, p.top, p.bottom);
  body.cameraAimX = body.cameraX;
  body.cameraAimY = body.cameraY;
}

/**
 * Follows the body, or the place `lookAhead` seconds ahead of it. Smooth: ċ = (a(t) − c)/τ with τ = halfLife/ln 2, solved exactly for an aim
 * that goes evenly from a₀ to a₁ within the tick, c₁ = a₁ − w + (c₀ − a₀ + w)·2^(−dt/halfLife) with w = τ·(a₁ − a₀)/dt: so a view that
 * follows a steady motion lags by speed·τ at every tick rate. perTick: by a share of the lag a tick.
 */
export function stepCamera(body: Own<'camera'>, p: CameraPlan): void {
  const x = body.x + p.offsetX;
  const y = body.y + p.offsetY;
  if (!p.plain || body.clockDt !== p.dt || x < p.left || x > p.right || y < p.top || y > p.bottom) {
    follow(body, p);
    return;
  }
  const { lag, kept } = p;
  const offsetX = (x - body.cameraAimX) * lag;
  const offsetY = (y - body.cameraAimY) * lag;
  body.cameraX = x - offsetX + (body.cameraX - body.cameraAimX + offsetX) * kept;
  body.cameraY = y - offsetY + (body.cameraY - body.cameraAimY + offsetY) * kept;
  body.cameraAimX = x;
  body.cameraAimY = y;
}

/** Any other view: one that looks ahead, a smooth one over a frame of any length, or one that follows at once. */
function follow(body: Own<'camera'>, p: CameraPlan): void {
  if (p.follow === 'none') return;
  if (p.follow !== 'smooth') {
    followAtOnce(body, p);
    return;
  }
  const dt = body.clockDt;
  const x = clamp(body.x + body.vx * p.lookAhead + p.offsetX, p.left, p.right);
  const y = clamp(body.y + body.vy * p.lookAhead + p.offsetY, p.top, p.bottom);
  const kept = dt === p.dt ? p.kept : exp2(-dt / p.halfLife);
  const lag = dt === p.dt ? p.lag : p.halfLife / LN2 / dt;
  const offsetX = (x - body.cameraAimX) * lag;
  const offsetY = (y - body.cameraAimY) * lag;
  body.cameraX = x - offsetX + (body.cameraX - body.cameraAimX + offsetX) * kept;
  body.cameraY = y - offsetY + (body.cameraY - body.cameraAimY + offsetY) * kept;
  body.cameraAimX = x;
  body.cameraAimY = y;
}

/** Locked, by a fraction per tick, or by the overlap beyond the dead zone on the view's own axes. */
function followAtOnce(body: Own<'camera'>, p: CameraPlan): void {
  let x = body.x + body.vx * p.lookAhead + p.offsetX;
  let y = body.y + body.vy * p.lookAhead + p.offsetY;
  if (p.follow === 'deadZone') {
    const across = (x - body.cameraX) * p.c + (y - body.cameraY) * p.s;
    const down = (y - body.cameraY) * p.c - (x - body.cameraX) * p.s;
    const beyondX = across - clamp(across, -p.zoneX, p.zoneX);
    const beyondY = down - clamp(down, -p.zoneY, p.zoneY);
    x = body.cameraX + beyondX * p.c - beyondY * p.s;
    y = body.cameraY + beyondX * p.s + beyondY * p.c;
  }
  const share = p.follow === 'perTick' ? p.perTick : 1;
  body.cameraX += (clamp(x, p.left, p.right) - body.cameraX) * share;
  body.cameraY += (clamp(y, p.top, p.bottom) - body.cameraY) * share;
  body.cameraAimX = body.cameraX;
  body.cameraAimY = body.cameraY;
}
