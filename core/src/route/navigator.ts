import { placedBody } from '../collision/overlap.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import { centreOffset } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { meshFor, meshOrder } from './bodyMesh.ts';
import { GridSearch } from './gridSearch.ts';
import { Locator } from './locate.ts';
import type { Mesh } from './mesh.ts';
import { wayLength } from './way.ts';
import { WayGraph } from './wayGraph.ts';

type Point = [number, number];

/** A planned way for the body's origin. */
export interface Route {
  /** From where the body is to where it gets, both included. */
  points: Point[];
  length: number;
  /** Whether it ends where it was wanted to; else at the nearest place that can be reached. */
  reached: boolean;
  /** How many bends or cells were looked into. */
  expanded: number;
}

/** How near (unit) an end has to be to count as the one that was wanted. */
const SAME = 1e-6;

/** What a navigator is made for: where two of these are the same, so is what it finds. */
export function navigatorKey(parameters: Parameters, ground: Ground): string {
  const { planner, margin, unreachable } = parameters.route;
  const { response, seams } = parameters.contact;
  return JSON.stringify([meshOrder(parameters, ground, margin), response === 'none', seams, planner, unreachable]);
}

/**
 * Plans ways for one tuning on one ground. Its mesh is made at the first need, or before in a worker and handed over; the last
 * plan is kept, so that asking for the same again costs nothing.
 */
export class Navigator {
  readonly key: string;
  readonly #parameters: Parameters;
  readonly #ground: Ground;
  readonly #walls: WallIndex;
  readonly #offset: { x: number; y: number };
  #mesh: Mesh | null = null;
  #hopeless = false;
  #parts: { locator: Locator; graph: WayGraph } | null = null;
  #grid: GridSearch | null = null;
  #last: { ends: readonly [number, number, number, number]; route: Route | null } | null = null;

  constructor(parameters: Parameters, ground: Ground, walls: WallIndex) {
    this.key = navigatorKey(parameters, ground);
    this.#parameters = parameters;
    this.#ground = ground;
    this.#walls = walls;
    this.#offset = centreOffset(parameters.body);
  }

  /**
   * Takes a mesh that was made elsewhere by the same tuning on the same ground, unless there is one by now, and lays out what
   * searches need beside it, so that the first click does not wait for that.
   */
  take(mesh: Mesh): void {
    this.#mesh ??= mesh;
    this.#partsOf(this.#mesh);
  }

  /** Whether the mesh is there, so that a plan takes no time to speak of. */
  get ready(): boolean {
    return this.#mesh !== null;
  }

  /** Where the body's centre can be, its margin kept. */
  get mesh(): Mesh {
    this.#mesh ??= meshFor(this.#parameters, this.#ground, this.#parameters.route.margin);
    return this.#mesh;
  }

  /** The sides of the graph of ways that the last search for a shortest one looked into, as segments of the centre's place (x, y, x, y, …). */
  get looked(): number[] {
    return this.#parts?.graph.sidesLooked() ?? [];
  }

  /** A way between two places of the body's origin; null where none is given: the tuning refuses, or there is no free place. */
  plan(fromX: number, fromY: number, toX: number, toY: number): Route | null {
    const last = this.#last;
    if (last) {
      const [x, y, toX0, toY0] = last.ends;
      if (x === fromX && y === fromY && toX0 === toX && toY0 === toY) return last.route;
    }
    const route = this.#work(fromX, fromY, toX, toY);
    this.#last = { ends: [fromX, fromY, toX, toY], route };
    return route;
  }

  /** The mesh, or null for a body so large, or walls so crowded, that it cannot be laid out: then nothing can be reached. */
  #meshIfAny(): Mesh | null {
    if (this.#hopeless) return null;
    try {
      return this.mesh;
    } catch {
      this.#hopeless = true;
      return null;
    }
  }

  #partsOf(mesh: Mesh): { locator: Locator; graph: WayGraph } {
    this.#parts ??= { locator: new Locator(mesh), graph: new WayGraph(mesh) };
    return this.#parts;
  }

  #work(fromX: number, fromY: number, toX: number, toY: number): Route | null {
    const mesh = this.#meshIfAny();
    if (!mesh) return null;
    const { locator } = this.#partsOf(mesh);
    const { planner, unreachable } = this.#parameters.route;
    const { x: ox, y: oy } = this.#offset;
    const [startX, startY, wantedX, wantedY] = [fromX + ox, fromY + oy, toX + ox, toY + oy];
    // A body by a wall stands within the margin: its way begins at the nearest place with room.
    const startAt = locator.at(startX, startY);
    const start = startAt >= 0 ? { x: startX, y: startY, polygon: startAt } : locator.nearest(startX, startY, () => true);
    if (!start) return null;
    const region = mesh.regions[start.polygon] as number;
    const goalAt = locator.at(wantedX, wantedY);
    const isThere = goalAt >= 0 && mesh.regions[goalAt] === region;
    if (!isThere && unreachable === 'refuse') return null;
    const goal = isThere
      ? { x: wantedX, y: wantedY, polygon: goalAt }
      : locator.nearest(wantedX, wantedY, (polygon) => mesh.regions[polygon] === region);
    if (!goal) return null;
    const found =
      planner === 'straight'
        ? null
        : planner === 'shortest'
          ? this.#shortest(start, goal)
          : this.#overCells(start, goal, planner === 'grid4' ? 4 : 8);
    if (planner !== 'straight' && !found) return null;
    const points: Point[] = [[fromX, fromY]];
    const add = (x: number, y: number) => {
      const [lastX, lastY] = points[points.length - 1] as Point;
      if (length(x - lastX, y - lastY) > 1e-9) points.push([x, y]);
    };
    for (const [x, y] of found?.points ??
      ([
        [start.x, start.y],
        [goal.x, goal.y],
      ] as Point[]))
      add(x - ox, y - oy);
    if (points.length === 1) points.push([fromX, fromY]);
    return {
      points,
      length: wayLength(points),
      reached: length(goal.x - wantedX, goal.y - wantedY) <= SAME,
      expanded: found?.expanded ?? 0,
    };
  }

  #shortest(start: { x: number; y: number; polygon: number }, goal: { x: number; y: number; polygon: number }) {
    return this.#parts?.graph.find(start.x, start.y, start.polygon, goal.x, goal.y, goal.polygon) ?? null;
  }

  /** Over cell centres: from the nearest free cell to the start to the nearest to the goal, with straight ends. */
  #overCells(
    start: { x: number; y: number },
    goal: { x: number; y: number },
    neighbours: 4 | 8,
  ): { points: Point[]; expanded: number } | null {
    this.#grid ??= new GridSearch(placedBody(this.#parameters, this.#ground, this.#walls, this.#parameters.route.margin));
    const grid = this.#grid;
    const [from, to] = [nearestFree(grid, start.x, start.y), nearestFree(grid, goal.x, goal.y)];
    const way = from && to && grid.find(from, to, neighbours);
    if (!way) return null;
    const centres = way.cells.map(([column, row]) => grid.centre(column, row));
    // Straight runs keep their ends only.
    const corners = centres.filter(([x, y], i) => {
      const [before, after] = [centres[i - 1], centres[i + 1]];
      return !before || !after || Math.abs((x - before[0]) * (after[1] - y) - (y - before[1]) * (after[0] - x)) > 1e-9;
    });
    return { points: [[start.x, start.y], ...corners, [goal.x, goal.y]], expanded: way.expanded };
  }
}

/** The free cell whose centre is nearest to a place, among those around it. */
function nearestFree(grid: GridSearch, x: number, y: number): Point | null {
  const [column, row] = grid.cellAt(x, y);
  let found: Point | null = null;
  let least = Infinity;
  for (let reach = 0; reach <= Math.max(grid.columns, grid.rows); reach++) {
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx += Math.abs(dy) === reach ? 1 : Math.max(1, 2 * reach)) {
        if (!grid.isFree(column + dx, row + dy)) continue;
        const [cx, cy] = grid.centre(column + dx, row + dy);
        const distance = (cx - x) ** 2 + (cy - y) ** 2;
        if (distance < least) {
          least = distance;
          found = [column + dx, row + dy];
        }
      }
    // One more ring may hold a nearer centre than the corner of this one.
    if (found && reach > 0) return found;
  }
  return found;
}
