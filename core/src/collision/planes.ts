import type { Probe } from './probe.ts';

const REAL = -0;

/** A vector that leans less than this fraction of its length into a plane runs along it: below a sweep's tolerance for a motion into it. */
const OPEN = 5e-13;

/** A vector of which less than this fraction runs along a plane meets it head-on: the rest is rounding. */
const HEAD_ON = 1e-7;

/**
 * The planes (walls and edges) that a body touches at once, and their effect on a vector. With `friction`, walls remove that fraction of the part
 * into them from the part along them; with `keeps` they turn a vector at its full size.
 */
export class Planes {
  readonly friction: number;
  readonly keeps: boolean;
  readonly plain: boolean;
  count = 0;
  /** Normals, towards the body, and whether each is a wall's. */
  readonly x = new Float64Array(32);
  readonly y = new Float64Array(32);
  readonly isWall = new Uint8Array(32);
  /** The vector to project, and the result. */
  inX = REAL;
  inY = REAL;
  outX = REAL;
  outY = REAL;

  constructor(friction: number, keeps: boolean) {
    this.friction = friction;
    this.keeps = keeps;
    this.plain = friction === 0 && !keeps;
  }
}

/** Adds the plane of the probe's contact unless it is there; returns true if it is new. */
export function addPlane(p: Planes, { normalX: x, normalY: y }: Probe, isWall: boolean): boolean {
  for (let i = 0; i < p.count; i++) if (p.x[i] === x && p.y[i] === y && p.isWall[i] === (isWall ? 1 : 0)) return false;
  if (p.count === p.x.length) return false;
  p.x[p.count] = x;
  p.y[p.count] = y;
  p.isWall[p.count] = isWall ? 1 : 0;
  p.count++;
  return true;
}

/**
 * The nearest vector to `in` that runs into none of the planes: itself; or its projection on one of them that runs into no other one; or, in a
 * corner, none. This is the projection on the cone {v: v·nᵢ ≥ 0}: the result never runs against the wanted direction, at any opening. Returns false
 * if nothing remains.
 */
export function leadAlong(p: Planes): boolean {
  if (p.count === 1 && p.plain) return leadAlongOne(p);
  const x = p.inX;
  const y = p.inY;
  const size = Math.sqrt(x * x + y * y);
  let best = HEAD_ON * size;
  let free = true;
  p.outX = 0;
  p.outY = 0;
  for (let i = 0; i < p.count; i++) {
    const into = x * (p.x[i] as number) + y * (p.y[i] as number);
    if (into >= 0) continue;
    free = false;
    let tx = x - (p.x[i] as number) * into;
    let ty = y - (p.y[i] as number) * into;
    // Once more, for rounding.
    const rest = tx * (p.x[i] as number) + ty * (p.y[i] as number);
    tx -= (p.x[i] as number) * rest;
    ty -= (p.y[i] as number) * rest;
    const along = Math.sqrt(tx * tx + ty * ty);
    if (along <= best || !isOpen(p, tx, ty, i, -OPEN * along)) continue;
    best = along;
    const kept = p.isWall[i] === 0 ? 1 : p.keeps ? size / along : Math.max(0, 1 + (p.friction * into) / along);
    p.outX = tx * kept;
    p.outY = ty * kept;
  }
  if (free) {
    p.outX = x;
    p.outY = y;
  }
  return p.outX !== 0 || p.outY !== 0;
}

/** The same for one frictionless plane. */
function leadAlongOne(p: Planes): boolean {
  const x = p.inX;
  const y = p.inY;
  const nx = p.x[0] as number;
  const ny = p.y[0] as number;
  const into = x * nx + y * ny;
  if (into >= 0) {
    p.outX = x;
    p.outY = y;
    return x !== 0 || y !== 0;
  }
  // Along the plane, at the remaining length: rounding makes no part of it run into the plane.
  const along = y * nx - x * ny;
  const isHeadOn = along * along <= HEAD_ON * HEAD_ON * (x * x + y * y);
  p.outX = isHeadOn ? 0 : -ny * along;
  p.outY = isHeadOn ? 0 : nx * along;
  return !isHeadOn;
}

/** True if a vector runs into none of the planes but `own`. */
function isOpen(p: Planes, x: number, y: number, own: number, slack: number): boolean {
  for (let j = 0; j < p.count; j++) if (j !== own && x * (p.x[j] as number) + y * (p.y[j] as number) < slack) return false;
  return true;
}
