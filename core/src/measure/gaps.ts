import type { Ground } from '../ground/ground.ts';
import { isSolidAt, wallSegments } from '../ground/outlines.ts';
import { bucketSegments, squareTo, type WallBuckets, WallIndex } from '../ground/wallIndex.ts';
import { shareAlong } from '../math/segment.ts';
import { bodySize, gapRatio } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** A narrow place between two walls: from point a on one to point b on the other. */
export interface Gap {
  a: [number, number];
  b: [number, number];
  width: number;
  /** Relative to the body's need: below 1 it does not fit. */
  ratio: number;
}

/** Gaps up to this many times the body's need are reported. */
const REPORTED = 1.6;
/** Gaps closer than this (unit) are walls that touch. */
const TOUCH = 1e-6;
/** Relative difference below which two widths of a pair of walls are the same. */
const EQUAL = 0.001;
/** Maximum number of gaps. */
const MOST = 400;

/**
 * Narrow gaps: pairs of a wall's corner and the nearest point of another wall between which nothing else comes as near (the
 * circle over the gap holds no third wall, Gabriel's condition), narrowest first. The two ends of an even corridor are one gap.
 * With `border` the ground's own border counts as a wall.
 */
export function narrowGaps(ground: Ground, body: Parameters['body'], border: boolean): Gap[] {
  const { width, height } = ground.size;
  const frame = [0, 0, width, 0, width, 0, width, height, width, height, 0, height, 0, height, 0, 0];
  const segments = new Float64Array([...wallSegments(ground), ...(border ? frame : [])]);
  const index = new WallIndex(bucketSegments(segments));
  const size = bodySize(body);
  const most = REPORTED * Math.max(size.width, size.height) * (body.shape === 'box' ? Math.SQRT2 : 1);
  const candidates = new Int32Array(segments.length / 4);
  /** By pair of walls, its narrowest gaps: more than one where the walls are parallel. */
  const found = new Map<string, Gap[]>();
  for (let i = 0; i < segments.length; i += 2) {
    const [x, y] = [segments[i] as number, segments[i + 1] as number];
    const own = i >> 2;
    index.near(x - most, y - most, x + most, y + most);
    // The check for a third wall searches again: the first result must be copied.
    let near = 0;
    for (let k = 0; k < index.count; k++) {
      const other = index.found[k] as number;
      if (other !== own && isWithin(index.buckets, x, y, other, most)) candidates[near++] = other;
    }
    for (let k = 0; k < near; k++) {
      const other = candidates[k] as number;
      const gap = between(segments, x, y, other, body, most);
      if (!gap || gap.ratio > REPORTED || isSolidAt(ground, (x + gap.b[0]) / 2, (y + gap.b[1]) / 2) || !isClear(index, gap)) continue;
      const pair = own < other ? `${own} ${other}` : `${other} ${own}`;
      const known = found.get(pair);
      const least = known?.[0]?.width ?? Infinity;
      if (gap.width < least * (1 - EQUAL)) found.set(pair, [gap]);
      else if (gap.width < least * (1 + EQUAL) && !known?.some((one) => placeOf(one) === placeOf(gap))) known?.push(gap);
    }
  }
  const corridors = [...found.values()].filter((gaps) => gaps.length > 1);
  const ends = new Set(corridors.flat().map(placeOf));
  const single = [...found.values()].flat().filter((gap) => !ends.has(placeOf(gap)));
  const gaps = [...corridors.map(middle), ...single];
  gaps.sort((p, q) => p.ratio - q.ratio || p.a[0] - q.a[0] || p.a[1] - q.a[1]);
  return distinct(gaps).slice(0, MOST);
}

/** True if a wall comes within `most` of a point, and does not touch it. */
function isWithin(walls: WallBuckets, x: number, y: number, wall: number, most: number): boolean {
  const square = squareTo(walls, wall, x, y);
  return square >= (TOUCH * TOUCH) / 4 && square <= most * most * (1 + 1e-9);
}

/** The gap from a corner to a wall; null if they touch or the wall is too far. */
function between(s: Float64Array, x: number, y: number, wall: number, body: Parameters['body'], most: number): Gap | null {
  const [ax, ay, bx, by] = [s[wall * 4], s[wall * 4 + 1], s[wall * 4 + 2], s[wall * 4 + 3]] as [number, number, number, number];
  const [ex, ey] = [bx - ax, by - ay];
  const share = shareAlong(x - ax, y - ay, ex, ey);
  const [px, py] = [ax + ex * share, ay + ey * share];
  const width = Math.sqrt((px - x) ** 2 + (py - y) ** 2);
  if (width < TOUCH || width > most) return null;
  return { a: [x, y], b: [px, py], width, ratio: gapRatio(body, px - x, py - y, share === 0 || share === 1) };
}

/** True if no wall comes into the circle over the gap. */
function isClear(index: WallIndex, { a, b, width }: Gap): boolean {
  const [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const radius = (width / 2) * (1 - 1e-6);
  index.near(x - radius, y - radius, x + radius, y + radius);
  const { segments } = index;
  for (let k = 0; k < index.count; k++) {
    const i = (index.found[k] as number) * 4;
    const [ax, ay, bx, by] = [segments[i], segments[i + 1], segments[i + 2], segments[i + 3]] as [number, number, number, number];
    const [ex, ey] = [bx - ax, by - ay];
    const share = shareAlong(x - ax, y - ay, ex, ey);
    if ((ax + ex * share - x) ** 2 + (ay + ey * share - y) ** 2 < radius * radius) return false;
  }
  return true;
}

/** The gap in the middle of a corridor, from those at its ends. */
function middle(gaps: Gap[]): Gap {
  const [first, last] = [gaps[0], gaps.at(-1)] as [Gap, Gap];
  // The two ends run in opposite directions: the points on the same side are the nearer ones.
  const apart = (p: [number, number], q: [number, number]) => (p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2;
  const [a, b] = apart(first.a, last.a) <= apart(first.a, last.b) ? [last.a, last.b] : [last.b, last.a];
  const half = (p: [number, number], q: [number, number]): [number, number] => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  return { ...first, a: half(first.a, a), b: half(first.b, b) };
}

/** The middle of a gap, as a key. */
function placeOf({ a, b }: Gap): string {
  return `${((a[0] + b[0]) / 2).toFixed(3)} ${((a[1] + b[1]) / 2).toFixed(3)}`;
}

/** The same gap may be found from both of its ends and from both walls of a corner. */
function distinct(gaps: Gap[]): Gap[] {
  const seen = new Set<string>();
  return gaps.filter((gap) => {
    const place = placeOf(gap);
    if (seen.has(place)) return false;
    seen.add(place);
    return true;
  });
}
