import { cos, sin, TAU } from '../math/functions.ts';
import { type Outline, outlineOf, type Piece } from './grownWall.ts';
import type { Limits } from './limits.ts';
import { isFree, type PlacedBody } from './placedBody.ts';

/** A place of a body's origin. */
interface Place {
  x: number;
  y: number;
}

/**
 * Returns the free place nearest to (x, y) for a body's origin: that place itself, or one on the border of the free area. The border consists of the
 * outlines of the walls grown by the body (Minkowski sums: sides, and arcs for a circle) and of the limits. The nearest place on it is the foot of
 * (x, y) on one of these, an end of one, or a crossing of two; the distance has no other local minima. Candidates within a doubling radius are tried,
 * nearest first. Null if the ground has no free place.
 */
export function freePlace(body: PlacedBody, x: number, y: number): Place | null {
  if (isFree(body, x, y)) return { x, y };
  const known = lastFound.get(body);
  // A body that fits nowhere on its ground fits nowhere, wherever the search starts.
  if (known && (known.place === null || (known.x === x && known.y === y))) return known.place;
  const place = search(body, x, y);
  lastFound.set(body, { x, y, place });
  return place;
}

/** The last search of each body: sending it to the same place repeatedly costs one search. */
const lastFound = /* @__PURE__ */ new WeakMap<PlacedBody, Place & { place: Place | null }>();

function search(body: PlacedBody, x: number, y: number): Place | null {
  const { size } = body.ground;
  const most = Math.abs(x) + Math.abs(y) + size.width + size.height;
  const half = Math.max(body.probe.halfWidth, body.probe.halfHeight);
  for (let radius = 2 * half; ; radius *= 2) {
    const outline = outlineNear(body, x, y, radius);
    if (outline.length > MOST) return onRings(body, x, y, radius / 2);
    const found = nearestWithin(body, outline, x, y, radius);
    if (found) return found;
    if (radius > most) return null;
  }
}

/** Pieces of outline to intersect with each other. */
const MOST = 500;

/** Rings to sample, and places on each, where the outline is too large to try all of it. */
const RINGS = 200;
const SPOKES = 48;

/**
 * A free place on one of the rings about (x, y), a quarter of the body apart, the nearest ring first: within that of the nearest one, if it has room.
 */
function onRings(body: PlacedBody, x: number, y: number, from: number): Place | null {
  const { size } = body.ground;
  const most = Math.abs(x) + Math.abs(y) + size.width + size.height;
  const range = rangeOf(body);
  const step = Math.max(Math.min(body.probe.halfWidth, body.probe.halfHeight) / 4, most / RINGS / 4);
  for (let ring = 0; ring < RINGS; ring++)
    for (let spoke = 0; spoke < SPOKES; spoke++) {
      const angle = (spoke * TAU) / SPOKES;
      const radius = from + ring * step;
      const place = { x: x + cos(angle) * radius, y: y + sin(angle) * radius };
      if (isIn(range, place.x, place.y) && isFree(body, place.x, place.y)) return place;
    }
  return null;
}

function nearestWithin(body: PlacedBody, outline: Outline, x: number, y: number, radius: number): Place | null {
  const places: (Place & { away: number })[] = [];
  const range = rangeOf(body);
  const near = body.probe.slop / 8;
  const add = (crossingX: number, crossingY: number) => {
    const px = snapped(crossingX, range.left, range.right, near);
    const py = snapped(crossingY, range.top, range.bottom, near);
    const away = (px - x) ** 2 + (py - y) ** 2;
    if (away <= radius * radius && isIn(range, px, py)) places.push({ x: px, y: py, away });
  };
  outline.forEach((piece, i) => {
    piece.nearest(x, y, add);
    for (let j = 0; j < i; j++) piece.crossings(outline[j] as Piece, add);
  });
  places.sort((a, b) => a.away - b.away || a.x - b.x || a.y - b.y);
  return places.find((place) => isFree(body, place.x, place.y)) ?? null;
}

/** The outlines of all walls and limits within the radius, for the body's origin. */
function outlineNear(body: PlacedBody, x: number, y: number, radius: number): Outline {
  const { probe, felt, centreX, centreY } = body;
  // Slightly beyond touching, so that rounding does not call a blocked place free.
  const room = probe.slop;
  const outline: Outline = [];
  const { left, right, top, bottom } = rangeOf(body);
  for (const [ax, ay, bx, by] of [
    [left, top, right, top],
    [right, top, right, bottom],
    [right, bottom, left, bottom],
    [left, bottom, left, top],
  ] as const)
    outline.push(...outlineOf.side(ax, ay, bx, by));
  if (!felt) return outline;
  const reachX = radius + probe.halfWidth + Math.abs(centreX) + room;
  const reachY = radius + probe.halfHeight + Math.abs(centreY) + room;
  const { index } = probe;
  index.near(x + centreX - reachX, y + centreY - reachY, x + centreX + reachX, y + centreY + reachY);
  for (let k = 0; k < index.count; k++) {
    const i = (index.found[k] as number) * 4;
    const [ax, ay, bx, by] = Array.from(index.segments.subarray(i, i + 4)) as [number, number, number, number];
    const pieces = probe.circle
      ? outlineOf.capsule(ax - centreX, ay - centreY, bx - centreX, by - centreY, probe.halfWidth + room)
      : outlineOf.grownByBox(ax - centreX, ay - centreY, bx - centreX, by - centreY, probe.halfWidth + room, probe.halfHeight + room);
    for (const piece of pieces) if (piece.isWithin(x, y, radius)) outline.push(piece);
  }
  return outline;
}

/** The area for the body's origin: within its limits, and on the ground on each side without one. */
function rangeOf({ limits, ground: { size } }: PlacedBody): Limits {
  return {
    left: limits.left === -Infinity ? 0 : limits.left,
    right: limits.right === Infinity ? size.width : limits.right,
    top: limits.top === -Infinity ? 0 : limits.top,
    bottom: limits.bottom === Infinity ? size.height : limits.bottom,
  };
}

const isIn = ({ left, right, top, bottom }: Limits, x: number, y: number) => x >= left && x <= right && y >= top && y <= bottom;

/** Snaps a coordinate of a crossing to a limit if only rounding separates the two. */
function snapped(value: number, low: number, high: number, near: number): number {
  if (Math.abs(value - low) < near) return low;
  return Math.abs(value - high) < near ? high : value;
}
