import { isFree, type PlacedBody, placedBody } from '../collision/placedBody.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import { Navigator } from '../route/navigator.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { alongGate, beyondGate, type GateLine, gateLines } from './gates.ts';

type Point = readonly [number, number];

/** The shortest path of a body through all gates of a course, from the start to the finish. */
export interface CoursePath {
  /** Its corners, the start first; a gate is crossed between two of them. */
  points: Point[];
  length: number;
  /** Distance along the path at each crossing, unit. */
  gates: number[];
  /** Index of the first crossing that cannot be reached, and the reason; null if all can be. */
  blocked: { gate: number; why: string } | null;
}

/** Distance before and behind a gate at which legs end and begin, as a fraction of the body: they cross it in its direction, whatever leads to it. */
const BESIDE = 1e-3;

/** Laps that are planned; further ones repeat the last of these. */
const PLANNED_LAPS = 2;

/** Rounds in which the crossings are moved to shorten the path, and the relative gain below which that ends. */
const ROUNDS = 12;
const GAIN = 1e-6;

/** A navigator for the shortest paths of a tuning's body on a ground, whatever the tuning says of clicks. */
export function courseNavigator(parameters: Parameters, ground: Ground, walls: WallIndex): Navigator {
  const route = { ...parameters.route, planner: 'shortest', unreachable: 'nearest' } as const;
  return new Navigator({ ...parameters, route }, ground, walls);
}

/** Plans legs between gates; lengths are infinite where a leg doesn't exist. */
class Legs {
  readonly #navigator: Navigator;
  readonly #body: PlacedBody;
  readonly #beside: number;
  readonly start: Point;

  constructor(navigator: Navigator, body: PlacedBody, beside: number, start: Point) {
    this.#navigator = navigator;
    this.#body = body;
    this.#beside = beside;
    this.start = start;
  }

  /** A place on a gate; before it by `beside` or, with −1, behind it. */
  at({ ax, ay, bx, by, nx, ny }: GateLine, along: number, side: 1 | -1): Point {
    const off = this.#beside * side;
    return [ax + (bx - ax) * along - nx * off, ay + (by - ay) * along - ny * off];
  }

  isFree([x, y]: Point): boolean {
    return isFree(this.#body, x, y);
  }

  /** The corners from one place to another; null without a path that arrives. */
  plan([fromX, fromY]: Point, [toX, toY]: Point): Point[] | null {
    const route = this.#navigator.plan(fromX, fromY, toX, toY);
    return route?.reached ? route.points : null;
  }

  length(from: Point, to: Point): number {
    return lengthOf(this.plan(from, to));
  }
}

function lengthOf(points: readonly Point[] | null): number {
  if (!points) return Number.POSITIVE_INFINITY;
  let sum = 0;
  for (let i = 1; i < points.length; i++) {
    const [[x0, y0], [x1, y1]] = [points[i - 1] as Point, points[i] as Point];
    sum += length(x1 - x0, y1 - y0);
  }
  return sum;
}

/** Number of places tried on each gate at first: fewer on courses with many gates. */
const samplesFor = (gates: number): number => (gates <= 12 ? 7 : gates <= 60 ? 5 : 3);

/** The places tried on a gate, as fractions of its length within `inset` (unit) of its ends: those at which the body is free on both sides. */
function samplesOf(gate: GateLine, legs: Legs, count: number, inset: number): number[] {
  if (gate.length === 0) return [];
  const edge = Math.min(0.5, inset / gate.length);
  const all = Array.from({ length: count }, (_, k) => edge + ((1 - 2 * edge) * (k + 0.5)) / count);
  return all.filter((along) => legs.isFree(legs.at(gate, along, 1)) && legs.isFree(legs.at(gate, along, -1)));
}

/** Chooses the sample of each gate by dynamic programming over the lengths of legs; stops at the first gate that none of them reaches. */
function bestSamples(lines: readonly GateLine[], samples: readonly number[][], legs: Legs): number[] {
  let costs: number[] = [0];
  let froms: Point[] = [legs.start];
  const origins: number[][] = [];
  for (const [i, line] of lines.entries()) {
    const tried = samples[i] as number[];
    const next = tried.map((along) => {
      const to = legs.at(line, along, 1);
      let [best, origin] = [Number.POSITIVE_INFINITY, -1];
      for (const [k, from] of froms.entries()) {
        const cost = (costs[k] as number) + legs.length(from, to);
        if (cost < best) [best, origin] = [cost, k];
      }
      return { best, origin };
    });
    const reached = next.map(({ best }, k) => ({ best, k })).filter(({ best }) => best < Number.POSITIVE_INFINITY);
    if (reached.length === 0) break;
    costs = next.map(({ best }) => best);
    froms = tried.map((along) => legs.at(line, along, -1));
    origins.push(next.map(({ origin }) => origin));
  }
  const chosen: number[] = [];
  let k = costs.indexOf(Math.min(...costs));
  for (let i = origins.length - 1; i >= 0; i--) {
    chosen[i] = (samples[i] as number[])[k] as number;
    k = (origins[i] as number[])[k] as number;
  }
  return chosen;
}

/** The position on a gate that shortens the way from a corner before it to one after it: where their line, or its mirror image, crosses. */
function straightened(gate: GateLine, [ax, ay]: Point, [bx, by]: Point, inset: number): number {
  const before = Math.abs(beyondGate(gate, ax, ay));
  const after = Math.abs(beyondGate(gate, bx, by));
  const share = before + after > 0 ? before / (before + after) : 0.5;
  const along = alongGate(gate, ax, ay) + share * (alongGate(gate, bx, by) - alongGate(gate, ax, ay));
  const edge = gate.length > 0 ? Math.min(0.5, inset / gate.length) : 0.5;
  return Math.min(1 - edge, Math.max(edge, along));
}

/** Moves each crossing to where the path is straightest, leg by leg, as long as that shortens the path. */
function shorten(lines: readonly GateLine[], chosen: number[], legs: Legs, inset: number): (readonly Point[])[] {
  const endOf = (i: number) => legs.at(lines[i] as GateLine, chosen[i] as number, 1);
  const beginOf = (i: number) => (i === 0 ? legs.start : legs.at(lines[i - 1] as GateLine, chosen[i - 1] as number, -1));
  const paths = chosen.map((_, i) => legs.plan(beginOf(i), endOf(i)) as readonly Point[]);
  const total = () => paths.reduce((sum, path) => sum + lengthOf(path), 0);
  let last = total();
  for (let round = 0; round < ROUNDS; round++) {
    for (const [i, gate] of lines.slice(0, chosen.length).entries()) {
      const into = paths[i] as Point[];
      const out = paths[i + 1];
      const before = into.at(-2) as Point;
      const after = out ? (out[1] as Point) : null;
      const was = chosen[i] as number;
      const foot = alongGate(gate, ...before);
      chosen[i] = after
        ? straightened(gate, before, after, inset)
        : straightened(gate, before, [gate.ax + (gate.bx - gate.ax) * foot, gate.ay + (gate.by - gate.ay) * foot], inset);
      if (chosen[i] === was) continue;
      const isFreeThere = legs.isFree(endOf(i)) && legs.isFree(beginOf(i + 1));
      const newInto = isFreeThere ? legs.plan(beginOf(i), endOf(i)) : null;
      const newOut = out && isFreeThere ? legs.plan(beginOf(i + 1), endOf(i + 1)) : null;
      const isBetter = lengthOf(newInto) + (out ? lengthOf(newOut) : 0) < lengthOf(into) + (out ? lengthOf(out) : 0);
      if (!isBetter) chosen[i] = was;
      else {
        paths[i] = newInto as Point[];
        if (out) paths[i + 1] = newOut as Point[];
      }
    }
    const now = total();
    if (now > last * (1 - GAIN)) break;
    last = now;
  }
  return paths;
}

/** Joins legs into one path, with the distance of each crossing. */
function joined(paths: readonly (readonly Point[])[], start: Point): Pick<CoursePath, 'points' | 'length' | 'gates'> {
  const points: Point[] = [start];
  const gates: number[] = [];
  let sum = 0;
  for (const path of paths) {
    for (const [x, y] of path) {
      const [lastX, lastY] = points.at(-1) as Point;
      if (x === lastX && y === lastY) continue;
      sum += length(x - lastX, y - lastY);
      points.push([x, y]);
    }
    gates.push(sum);
  }
  return { points, length: sum, gates };
}

/** The reason why a gate is not crossed by any path. */
function whyBlocked(gate: GateLine, samples: readonly number[]): string {
  if (gate.length === 0) return 'it has no length';
  return samples.length === 0 ? 'the body does not fit on it anywhere' : 'no path leads to it';
}

interface PlanOptions {
  /** A navigator of the tuning's body, to share its mesh. */
  navigator?: Navigator;
  /** Distance of crossings from the ends of gates, unit. */
  inset?: number;
  /** Distance before and behind a gate that the path goes straight across it, unit; a trifle by default. */
  across?: number;
  /** The gates of one lap, where their directions are known. */
  lines?: readonly GateLine[];
}

/**
 * Plans the shortest path of a tuning's body through the gates of its ground's course: a few places on each gate are compared by dynamic programming
 * over the shortest paths between them, then each crossing is moved to where the path is straightest. `inset` (unit) keeps crossings off the ends
 * of gates.
 */
export function planCourse(
  parameters: Parameters,
  ground: Ground,
  walls: WallIndex,
  { navigator = courseNavigator(parameters, ground, walls), inset = 0, across, lines: once = gateLines(ground) }: PlanOptions = {},
): CoursePath {
  const laps = ground.course?.laps ?? 1;
  const lines = Array.from({ length: Math.min(laps, PLANNED_LAPS) }, () => once).flat();
  const size = bodySize(parameters.body);
  const beside = across ?? BESIDE * Math.max(size.width, size.height);
  const legs = new Legs(navigator, placedBody(parameters, ground, walls), beside, [ground.start.x, ground.start.y]);
  const known = once.map((line) => samplesOf(line, legs, samplesFor(once.length), inset));
  const samples = lines.map((_, i) => known[i % once.length] as number[]);
  const chosen = bestSamples(lines, samples, legs);
  const paths = shorten(lines, chosen, legs, inset);
  const blocked = chosen.length < lines.length ? chosen.length : -1;
  if (blocked < 0)
    for (let lap = PLANNED_LAPS; lap < laps; lap++) {
      const again = paths.slice(-once.length);
      const behind = legs.at(lines.at(-1) as GateLine, chosen.at(-1) as number, -1);
      paths.push(legs.plan(behind, again[0]?.at(-1) as Point) ?? (again[0] as Point[]), ...again.slice(1));
    }
  return {
    ...joined(paths, legs.start),
    blocked: blocked < 0 ? null : { gate: blocked, why: whyBlocked(lines[blocked] as GateLine, samples[blocked] as number[]) },
  };
}
