import { length } from '../math/functions.ts';
import type { CellEnd, GridSearch } from './gridSearch.ts';
import { pathLength } from './path.ts';

type Point = [number, number];

/** A path and the number of bends or cells visited for it. */
interface Found {
  points: Point[];
  expanded: number;
}

/** The surroundings of a path over cells. All places are of the body's centre. */
export interface Surroundings {
  grid: GridSearch;
  neighbours: 4 | 8;
  /** The shortest path from a place; null if there is none. */
  shortest(from: Readonly<Point>, to: Readonly<Point>): Found | null;
}

/** The path between an end and the centre of a cell. */
interface Link extends CellEnd {
  points: Point[];
}

/** Nearest cells that are tried where no straight leg leads from an end to one of the four around it. */
const TRIED = 4;

/** Longest straight path (cells) that needs no cell: as long as both legs together can be. */
const DIRECT = 2;

/**
 * A path over cell centres, with a straight leg at each end; where walls block those, the shortest path is used instead. From any place on a path its
 * rest is no longer than another one, so that replanning on the path never leads back.
 */
export function pathOverCells(around: Surroundings, start: Point, goal: Point): Found | null {
  const { grid } = around;
  const dx = (goal[0] - start[0]) / grid.cell;
  const dy = (goal[1] - start[1]) / grid.cell;
  if (length(dx, dy) <= DIRECT) {
    const direct = straight(around, start, goal);
    if (direct) return direct;
  }
  const [out, home] = [linksOf(around, start), linksOf(around, goal)];
  const path = grid.find(out.links, home.links, around.neighbours);
  if (!path) return around.shortest(start, goal);
  const [first, last] = [out.links[path.start] as Link, home.links[path.goal] as Link];
  if (!out.areStraight || !home.areStraight) {
    const whole = around.shortest(start, goal);
    if (whole && pathLength(whole.points) <= pathLength(first.points) + pathLength(last.points)) return whole;
  }
  const centres = path.cells.slice(1, -1).map(([column, row]): Point => grid.centre(column, row));
  const all = [...first.points, ...centres, ...last.points.reverse()];
  const points = all.filter((point, i) => i === 0 || point[0] !== all[i - 1]?.[0] || point[1] !== all[i - 1]?.[1]);
  return { points: points.filter((_, i) => isBend(points, i)), expanded: path.expanded };
}

/** The shortest path where it is a straight one; else null. */
function straight(around: Surroundings, from: Point, to: Point): Found | null {
  const found = around.shortest(from, to);
  return found && found.points.length <= 2 ? { points: [from, to], expanded: found.expanded } : null;
}

/** True if a point is an end of a straight run. */
function isBend(points: readonly Point[], i: number): boolean {
  const [before, at, after] = [points[i - 1], points[i] as Point, points[i + 1]];
  if (!before || !after) return true;
  const [ax, ay, bx, by] = [at[0] - before[0], at[1] - before[1], after[0] - at[0], after[1] - at[1]];
  return Math.abs(ax * by - ay * bx) > 1e-9 || ax * bx + ay * by < 0;
}

/** Paths from an end to centres of cells: straight ones to those around it, or the shortest ones to the nearest. */
function linksOf(around: Surroundings, end: Point): { links: Link[]; areStraight: boolean } {
  const { grid } = around;
  const left = Math.floor(end[0] / grid.cell - 0.5);
  const top = Math.floor(end[1] / grid.cell - 0.5);
  const links: Link[] = [];
  for (const cell of [
    [left, top],
    [left + 1, top],
    [left, top + 1],
    [left + 1, top + 1],
  ] as const) {
    if (!grid.isFree(...cell)) continue;
    const centre = grid.centre(...cell);
    if (straight(around, end, centre)) links.push({ cell, cost: straightCost(around, end, centre), points: [end, centre] });
  }
  if (links.length > 0) return { links, areStraight: true };
  for (const cell of grid.nearestFree(end[0], end[1], TRIED)) {
    const found = around.shortest(end, grid.centre(...cell));
    if (found) links.push({ cell, cost: pathLength(found.points) / grid.cell, points: found.points });
  }
  return { links, areStraight: false };
}

/**
 * Cost (cells) of a straight leg: that of as many steps between neighbours, and a little for each direction that they don't have, so that a body
 * beside its line goes on along it.
 */
function straightCost({ grid, neighbours }: Surroundings, from: Point, to: Point): number {
  const dx = Math.abs(to[0] - from[0]) / grid.cell;
  const dy = Math.abs(to[1] - from[1]) / grid.cell;
  const less = Math.min(dx, dy);
  if (neighbours === 4) return dx + dy + less / 2;
  return Math.max(dx, dy) + (Math.SQRT2 - 1) * less + Math.min(less, Math.abs(dx - dy)) / 2;
}
