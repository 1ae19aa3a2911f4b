import { isClear, isFree, type PlacedBody, placedBody } from '../collision/placedBody.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { meshFor } from './bodyMesh.ts';
import { GridSearch } from './gridSearch.ts';
import { type Located, Locator } from './locate.ts';
import type { Mesh } from './mesh.ts';
import { pathOverCells } from './overCells.ts';
import { pathLength } from './path.ts';
import { PathGraph } from './pathGraph.ts';

type Point = [number, number];

/** A planned path for the body's origin. */
export interface Route {
  /** From the body's place to the end of the path, both included. */
  points: Point[];
  length: number;
  /** True if it ends at the destination; else at the nearest reachable place. */
  reached: boolean;
  /** True if it goes through a gap without room for the margin, because there is no other path. */
  squeezed: boolean;
  /** Number of visited bends or cells. */
  expanded: number;
}

/** How near (unit) an end has to be to count as the one that was wanted. */
const SAME = 1e-6;

/** Tolerance (unit) for distances across the mesh’s lattice: below it two ends count as equally near. */
const LATTICE_SLACK = 0.1;

/** All parameters that a navigator reads: equal ones give equal paths. */
type Order = Pick<Parameters, 'body' | 'contact' | 'bounds'> & { route: Pick<Parameters['route'], 'planner' | 'margin' | 'unreachable'> };

function orderOf({ body, contact, bounds, route: { planner, margin, unreachable } }: Order): Order {
  return { body, contact, bounds, route: { planner, margin, unreachable } };
}

/** The settings of a navigator, as a text. */
export function navigatorKey(parameters: Order): string {
  return JSON.stringify(orderOf(parameters));
}

/** A mesh and the other data of searches. */
interface Laid {
  mesh: Mesh;
  locator: Locator;
  graph: PathGraph;
}

/** Two connected ends of a path: places of the body's centre in one region of a mesh. */
interface Ends {
  laid: Laid;
  margin: number;
  start: Located;
  goal: Located;
}

/**
 * Plans paths for one tuning on one ground. Its mesh is built when first needed, or earlier in a worker and passed in. The last plan is cached, so
 * that the same request costs nothing.
 */
export class Navigator {
  #key: string | null = null;
  readonly #order: Order;
  readonly #ground: Ground;
  readonly #walls: WallIndex;
  /** The body with its skin alone, to test straight lines. */
  readonly #bare: PlacedBody;
  #mesh: Mesh | null = null;
  /** By margin; null if no mesh can be laid out. */
  readonly #laid = new Map<number, Laid | null>();
  readonly #grids = new Map<number, GridSearch>();
  #last: { ends: readonly [number, number, number, number]; route: Route | null } | null = null;

  constructor(parameters: Parameters, ground: Ground, walls: WallIndex) {
    this.#order = orderOf(parameters);
    this.#ground = ground;
    this.#walls = walls;
    this.#bare = placedBody(parameters, ground, walls);
  }

  /** The settings as a text: equal ones plan equal paths. */
  get key(): string {
    this.#key ??= navigatorKey(this.#order);
    return this.#key;
  }

  /**
   * Adopts a mesh built elsewhere for the same tuning on the same ground, unless there is one by now, and prepares the other data of searches, so
   * that the first click does not wait for them.
   */
  take(mesh: Mesh): void {
    this.#mesh ??= mesh;
    this.#layOut(this.#order.route.margin);
  }

  /** True if the mesh is there, so that a plan takes no time to speak of. */
  get ready(): boolean {
    return this.#mesh !== null;
  }

  /** Where the body's centre can be, its margin kept. */
  get mesh(): Mesh {
    this.#mesh ??= meshFor(this.#order, this.#ground, this.#order.route.margin);
    return this.#mesh;
  }

  /** The sides of the path graph that the last shortest-path search visited, as segments of the centre's place (x, y, x, y, …). */
  get searched(): number[] {
    return this.#laid.get(this.#order.route.margin)?.graph.searchedSides() ?? [];
  }

  /** A path between two places of the body's origin; null if the tuning refuses one or there is no free place. */
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

  /** A mesh that keeps a margin; null for a body so large, or walls so crowded, that it cannot be laid out: then nothing can be reached. */
  #layOut(margin: number): Laid | null {
    const known = this.#laid.get(margin);
    if (known !== undefined) return known;
    let laid: Laid | null = null;
    try {
      const mesh = margin === this.#order.route.margin ? this.mesh : meshFor(this.#order, this.#ground, margin);
      laid = { mesh, locator: new Locator(mesh), graph: new PathGraph(mesh) };
    } catch {
      laid = null;
    }
    this.#laid.set(margin, laid);
    return laid;
  }

  #work(fromX: number, fromY: number, toX: number, toY: number): Route | null {
    const { margin, planner, unreachable } = this.#order.route;
    const { centreX: ox, centreY: oy } = this.#bare;
    const [wantedX, wantedY] = [toX + ox, toY + oy];
    const wide = this.#endsWith(margin, fromX + ox, fromY + oy, wantedX, wantedY);
    const isThere = wide !== null && isAt(wide.goal, wantedX, wantedY);
    // The margin is given up only where it blocks the path.
    const narrow =
      margin > 0 && !isThere && (!wide || this.#isShutOff(wide, toX, toY))
        ? this.#endsWith(0, fromX + ox, fromY + oy, wantedX, wantedY)
        : null;
    const squeezed = narrow !== null && (wide === null || isNearer(narrow.goal, wide.goal, wantedX, wantedY, margin));
    const ends = squeezed ? narrow : wide;
    if (!ends || (unreachable === 'refuse' && !isAt(ends.goal, wantedX, wantedY))) return null;
    const found =
      planner === 'straight'
        ? straight(ends)
        : planner === 'shortest'
          ? shortest(ends)
          : this.#overCells(ends, planner === 'grid4' ? 4 : 8);
    if (!found) return null;
    const points: Point[] = [[fromX, fromY]];
    for (const [x, y] of found.points) {
      const [lastX, lastY] = points[points.length - 1] as Point;
      if (length(x - ox - lastX, y - oy - lastY) > 1e-9) points.push([x - ox, y - oy]);
    }
    if (points.length === 1) points.push([fromX, fromY]);
    // The path ends exactly where it was requested, not at a sum of offsets.
    const reached = isAt(ends.goal, wantedX, wantedY);
    if (reached && points.length > 1) points[points.length - 1] = [toX, toY];
    return { points, length: pathLength(points), reached, squeezed, expanded: found.expanded };
  }

  /** True if the place wanted may be beyond a gap in which there is no room for the margin. */
  #isShutOff({ laid: { locator, mesh }, margin, start, goal }: Ends, toX: number, toY: number): boolean {
    const [x, y] = [toX + this.#bare.centreX, toY + this.#bare.centreY];
    const at = locator.at(x, y);
    const polygon = at >= 0 ? at : locator.nearest(x, y)?.polygon;
    if (polygon !== undefined && mesh.regions[polygon] !== mesh.regions[start.polygon]) return true;
    return length(goal.x - x, goal.y - y) > 2 * margin + LATTICE_SLACK && isFree(this.#bare, toX, toY);
  }

  /** The place where a path with this margin can begin, and the nearest one to the destination where it can end; null if it cannot begin. */
  #endsWith(margin: number, startX: number, startY: number, wantedX: number, wantedY: number): Ends | null {
    const laid = this.#layOut(margin);
    if (!laid) return null;
    const { locator, mesh } = laid;
    const startAt = locator.at(startX, startY);
    // A body by a wall stands within the margin: its path begins at the nearest place with room that it can reach in a straight line.
    const { centreX: ox, centreY: oy } = this.#bare;
    const start =
      startAt >= 0
        ? { x: startX, y: startY, polygon: startAt }
        : locator.nearestThat(startX, startY, (x, y) => isClear(this.#bare, startX - ox, startY - oy, x - ox, y - oy));
    if (!start) return null;
    const region = mesh.regions[start.polygon] as number;
    const goalAt = locator.at(wantedX, wantedY);
    const goal =
      goalAt >= 0 && mesh.regions[goalAt] === region
        ? { x: wantedX, y: wantedY, polygon: goalAt }
        : locator.nearest(wantedX, wantedY, (polygon) => mesh.regions[polygon] === region);
    return goal && { laid, margin, start, goal };
  }

  /** Over cell centres, between places of one region of the mesh. */
  #overCells({ laid, start, goal, margin }: Ends, neighbours: 4 | 8): { points: Point[]; expanded: number } | null {
    let grid = this.#grids.get(margin);
    if (!grid) {
      grid = new GridSearch(placedBody(this.#order, this.#ground, this.#walls, margin));
      this.#grids.set(margin, grid);
    }
    const { graph, locator } = laid;
    const polygonOf = ([x, y]: Readonly<Point>) =>
      x === start.x && y === start.y ? start.polygon : x === goal.x && y === goal.y ? goal.polygon : locator.at(x, y);
    return pathOverCells(
      {
        grid,
        neighbours,
        shortest: (from, to) => {
          const [a, b] = [polygonOf(from), polygonOf(to)];
          return a < 0 || b < 0 ? null : graph.find(from[0], from[1], a, to[0], to[1], b);
        },
      },
      [start.x, start.y],
      [goal.x, goal.y],
    );
  }
}

function isAt(place: Located, x: number, y: number): boolean {
  return length(place.x - x, place.y - y) <= SAME;
}

/** True if one end lies nearer to a place than another one by more than a margin. */
function isNearer(one: Located, other: Located, x: number, y: number, margin: number): boolean {
  return length(one.x - x, one.y - y) + margin + LATTICE_SLACK < length(other.x - x, other.y - y);
}

function straight({ start, goal }: Ends): { points: Point[]; expanded: number } {
  return {
    points: [
      [start.x, start.y],
      [goal.x, goal.y],
    ],
    expanded: 0,
  };
}

function shortest({ laid, start, goal }: Ends) {
  return laid.graph.find(start.x, start.y, start.polygon, goal.x, goal.y, goal.polygon);
}
