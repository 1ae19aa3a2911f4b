import { cos, sin, TAU } from '../math/functions.ts';
import { type Outline, outlineOf, type Piece } from './grownWall.ts';
import { isFree, type PlacedBody } from './placedBody.ts';

/** A place of a body's origin. */
interface Place {
  x: number;
  y: number;
}

/** Room (unit) beyond touching, so that rounding does not make a free place one that is not. */
const ROOM = 1e-6;

/**
 * The free place nearest to (x, y) for a body's origin: that one, or one on the border of what is free. The border is made of the
 * outlines of the walls grown by the body (Minkowski sums: sides, and arcs for a circle) and of the limits; the nearest place on it
 * is the foot of (x, y) on one of these, an end of one, or where two cross (the distance has no other local minima). All of them within a radius that
 * doubles are tried, the nearest first. Null where there is none on the ground.
 */
export function freePlace(body: PlacedBody, x: number, y: number): Place | null {
  if (isFree(body, x, y)) return { x, y };
  const known = lastFound.get(body);
  // A body that fits nowhere on its ground fits nowhere, from wherever it is looked for.
  if (known && (known.place === null || (known.x === x && known.y === y))) return known.place;
  const place = search(body, x, y);
  lastFound.set(body, { x, y, place });
  return place;
}

/** The last search of each body: being sent to the same place over and over costs one search. */
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

/** Pieces of outline that are tried with each other. */
const MOST = 500;

/** Rings on which a place is looked for, and places on each, where there is too much of an outline to try all of it. */
const RINGS = 200;
const SPOKES = 48;

/** A free place on one of the rings about (x, y), a quarter of the body apart, the nearest ring first: within that of the nearest one, where there is room for it. */
function onRings(body: PlacedBody, x: number, y: number, from: number): Place | null {
  const { size } = body.ground;
  const most = Math.abs(x) + Math.abs(y) + size.width + size.height;
  const step = Math.max(Math.min(body.probe.halfWidth, body.probe.halfHeight) / 4, most / RINGS / 4);
  for (let ring = 0; ring < RINGS; ring++)
    for (let spoke = 0; spoke < SPOKES; spoke++) {
      const angle = (spoke * TAU) / SPOKES;
      const radius = from + ring * step;
      const place = { x: x + cos(angle) * radius, y: y + sin(angle) * radius };
      if (isOnGround(body, place) && isFree(body, place.x, place.y)) return place;
    }
  return null;
}

function nearestWithin(body: PlacedBody, outline: Outline, x: number, y: number, radius: number): Place | null {
  const places: (Place & { away: number })[] = [];
  const add = (px: number, py: number) => {
    const away = (px - x) ** 2 + (py - y) ** 2;
    if (away <= radius * radius) places.push({ x: px, y: py, away });
  };
  outline.forEach((piece, i) => {
    piece.nearest(x, y, add);
    for (let j = 0; j < i; j++) piece.crossings(outline[j] as Piece, add);
  });
  places.sort((a, b) => a.away - b.away || a.x - b.x || a.y - b.y);
  return places.find((place) => isOnGround(body, place) && isFree(body, place.x, place.y)) ?? null;
}

/** The outlines of all walls and limits within the radius, as the body's origin meets them. */
function outlineNear({ probe, felt, centreX, centreY, limits, ground }: PlacedBody, x: number, y: number, radius: number): Outline {
  const outline: Outline = [];
  const edges = { left: 0, top: 0, right: ground.size.width, bottom: ground.size.height };
  const left = Math.max(limits.left, Math.min(edges.left, x));
  const right = Math.min(limits.right, Math.max(edges.right, x));
  const top = Math.max(limits.top, Math.min(edges.top, y));
  const bottom = Math.min(limits.bottom, Math.max(edges.bottom, y));
  for (const [ax, ay, bx, by] of [
    [left, top, right, top],
    [right, top, right, bottom],
    [right, bottom, left, bottom],
    [left, bottom, left, top],
  ] as const)
    outline.push(...outlineOf.side(ax, ay, bx, by));
  if (!felt) return outline;
  const reachX = radius + probe.halfWidth + Math.abs(centreX) + ROOM;
  const reachY = radius + probe.halfHeight + Math.abs(centreY) + ROOM;
  const { index } = probe;
  index.near(x + centreX - reachX, y + centreY - reachY, x + centreX + reachX, y + centreY + reachY);
  for (let k = 0; k < index.count; k++) {
    const i = (index.found[k] as number) * 4;
    const [ax, ay, bx, by] = Array.from(index.segments.subarray(i, i + 4)) as [number, number, number, number];
    const pieces = probe.circle
      ? outlineOf.capsule(ax - centreX, ay - centreY, bx - centreX, by - centreY, probe.halfWidth + ROOM)
      : outlineOf.grownByBox(ax - centreX, ay - centreY, bx - centreX, by - centreY, probe.halfWidth + ROOM, probe.halfHeight + ROOM);
    for (const piece of pieces) if (piece.isWithin(x, y, radius)) outline.push(piece);
  }
  return outline;
}

/** Where nothing else holds the body, it is put back on the ground. */
function isOnGround({ ground: { size } }: PlacedBody, { x, y }: Place): boolean {
  return x >= 0 && y >= 0 && x <= size.width && y <= size.height;
}
