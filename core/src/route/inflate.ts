import type { Loop } from '../ground/loops.ts';
import { atan2, cos, length, PI, sin } from '../math/functions.ts';

/** The body that obstacles are grown by: a circle of that radius, or a level box with those half sides. */
export type Grown = { shape: 'circle'; radius: number } | { shape: 'box'; halfWidth: number; halfHeight: number };

/** Largest angle of a corner's arc (radians) for one straight side: 12°, which lengthens an arc by at most 0.37 %. */
const ARC = PI / 15;

/**
 * Grows a loop by a body: on its inner side the body's centre would be in the wall. Its boundary is the Minkowski sum's. Where it crosses itself (at
 * concave corners with short sides, in holes narrower than the body), the part with a positive winding number is solid (Chen and McMains 2005,
 * “Polygon offsetting by computing winding numbers”). Arcs are circumscribed, so that a path along them stays clear of the wall.
 */
export function inflate(loop: Loop, body: Grown): number[] {
  const grown: number[] = [];
  const n = loop.length / 2;
  const turns = turnsOf(loop);
  // What a concave corner takes from the sides beside it when they are cut off where they cross; a box's sides are not cut off.
  const cut = (i: number) => {
    const turn = turns[(i + n) % n] as number;
    return turn >= 0 || body.shape === 'box' ? 0 : body.radius * tan(-turn / 2);
  };
  const isCut = turns.map((turn, i) => turn < 0 && body.shape === 'circle' && fits(loop, i, cut(i - 1), cut(i), cut(i + 1)));
  for (let i = 0; i < n; i++) {
    const [px, py] = [loop[i * 2] as number, loop[i * 2 + 1] as number];
    const [ax, ay] = [loop[((i + n - 1) % n) * 2] as number, loop[((i + n - 1) % n) * 2 + 1] as number];
    // Outward normal of the side before the corner: to the right of its direction.
    const before = atan2(ax - px, py - ay);
    const turn = turns[i] as number;
    if (turn >= 0) corner(grown, px, py, before, turn, body);
    else if (isCut[i] && body.shape === 'circle') {
      const reach = body.radius / cos(turn / 2);
      grown.push(px + cos(before + turn / 2) * reach, py + sin(before + turn / 2) * reach);
    } else {
      // Out to the side before, in to the corner itself, out to the side after.
      flank(grown, px, py, before, body);
      grown.push(px, py);
      flank(grown, px, py, before + turn, body);
    }
  }
  return grown;
}

/** By how much a loop turns at each of its points, radians: convex corners above 0, concave ones below. */
function turnsOf(loop: Loop): number[] {
  const n = loop.length / 2;
  const at = (i: number): [number, number] => [loop[((i + n) % n) * 2] as number, loop[((i + n) % n) * 2 + 1] as number];
  return Array.from({ length: n }, (_, i) => {
    const [[ax, ay], [px, py], [bx, by]] = [at(i - 1), at(i), at(i + 1)];
    const cross = (px - ax) * (by - py) - (py - ay) * (bx - px);
    const dot = (px - ax) * (bx - px) + (py - ay) * (by - py);
    return cross === 0 ? (dot < 0 ? PI : 0) : atan2(cross, dot);
  });
}

/** True if the sides beside a corner are long enough for the cuts at it and its neighbours. */
function fits(loop: Loop, i: number, before: number, own: number, after: number): boolean {
  const n = loop.length / 2;
  const [x, y] = [loop[i * 2] as number, loop[i * 2 + 1] as number];
  const away = (j: number) => length((loop[((j + n) % n) * 2] as number) - x, (loop[((j + n) % n) * 2 + 1] as number) - y);
  return own + before < away(i - 1) * WHOLE && own + after < away(i + 1) * WHOLE;
}

/** Part of a side that concave corners may cut off together. */
const WHOLE = 0.999;

const tan = (angle: number) => sin(angle) / cos(angle);

/** A convex corner: the part of the body's outline whose normals lie between those of the two sides. */
function corner(grown: number[], x: number, y: number, from: number, turn: number, body: Grown): void {
  if (body.shape === 'box') {
    for (const quarter of quarters(from, turn)) pushQuarter(grown, x, y, quarter, body);
    return;
  }
  const parts = Math.max(1, Math.ceil(turn / ARC - 1e-9));
  const part = turn / parts;
  const reach = body.radius / cos(part / 2);
  for (let k = 0; k < parts; k++) {
    const angle = from + (k + 0.5) * part;
    grown.push(x + cos(angle) * reach, y + sin(angle) * reach);
  }
}

/** The place of the body's centre beside a side with this normal, at one of its ends. */
function flank(grown: number[], x: number, y: number, normal: number, body: Grown): void {
  if (body.shape === 'circle') grown.push(x + cos(normal) * body.radius, y + sin(normal) * body.radius);
  else pushQuarter(grown, x, y, quarters(normal, 0)[0] as number, body);
}

/** The corners of a box, by quarter (0: right and down, going on by right angles), whose normals lie between two angles. */
function quarters(from: number, turn: number): number[] {
  const first = Math.floor(from / (PI / 2) + 1e-9);
  const last = Math.ceil((from + turn) / (PI / 2) - 1e-9) - 1;
  return Array.from({ length: Math.max(1, last - first + 1) }, (_, k) => first + k);
}

function pushQuarter(grown: number[], x: number, y: number, quarter: number, box: Grown & { shape: 'box' }): void {
  const q = ((quarter % 4) + 4) % 4;
  grown.push(x + (q === 0 || q === 3 ? box.halfWidth : -box.halfWidth), y + (q === 0 || q === 1 ? box.halfHeight : -box.halfHeight));
}
