import { length } from '../math/functions.ts';
import { doubled } from './doubled.ts';
import type { Mesh } from './mesh.ts';
import { MinHeap } from './minHeap.ts';
import { pathLength } from './path.ts';
import { isSeen, isSeenFrom } from './rays.ts';
import { SearchNodes } from './searchNodes.ts';
import { SideTable } from './sideTable.ts';
import { Sight } from './sight.ts';
import { LEFT, RIGHT, WallCorners } from './wallCorners.ts';

/** A path from one point to another: its points, start and end included; its length; the number of bends visited to find it. */
interface FoundPath {
  points: [number, number][];
  length: number;
  expanded: number;
}

/** Maximum distance (unit) of a start or a goal from a polygon's border at which it is moved inwards, and the distance that it is moved. */
const NEAR = 1e-6;
const INWARD = 1e-5;

/** The start looks for bends of paths up to this much longer than the lower bound at a time. */
const WIDER = 1.02;

/** Product of two legs (unit²) below which they count as one straight line. */
const STRAIGHT = 1e-6;

/** Room for sides of the graph at first. */
const ROOM = 4096;

/**
 * Shortest paths in a mesh. They bend at corners of walls only, as a taut string does. The straight sides between such corners that see one another,
 * held at both ends, form a graph that contains all shortest paths (the reduced visibility graph: Liu and Arimoto 1992, “Path planning using a
 * tangent graph for mobile robots among polygonal and curved obstacles”). The sides from a corner are computed when a search first reaches it, by
 * looking into the mesh between the directions in which a path can leave, and are cached. A* runs over the graph. The start's view is computed only
 * as far as needed, and a corner's view of the goal when the corner is expanded. A state is a corner and the hand on which its wall lies: 2 × corner
 * for the left, one more for the right, with y upwards.
 */
export class PathGraph {
  readonly #mesh: Mesh;
  readonly #table: SideTable;
  readonly #walls: WallCorners;
  /** Views from the start and from a corner. */
  readonly #startSight: Sight;
  readonly #sight: Sight;
  /** By state, the beginning and end of its sides among all; −1 while they are unknown. */
  readonly #ranges: Int32Array;
  /** The states that the sides lead to. What else there is to them follows: the less lies in memory, the nearer it is. */
  #sides = new Int32Array(ROOM);
  #sideCount = 0;
  readonly #nodes: SearchNodes;
  readonly #heap = new MinHeap();
  #startX = 0;
  #startY = 0;
  #goalX = 0;
  #goalY = 0;

  constructor(mesh: Mesh) {
    const states = mesh.x.length * 2;
    this.#mesh = mesh;
    this.#table = new SideTable(mesh);
    this.#walls = new WallCorners(this.#table);
    this.#startSight = new Sight(this.#table);
    this.#sight = new Sight(this.#table);
    this.#ranges = new Int32Array(states * 2).fill(-1);
    this.#nodes = new SearchNodes(states);
  }

  /** The shortest path between two points in given polygons; null if they are in different regions. */
  find(startX: number, startY: number, startPolygon: number, goalX: number, goalY: number, goalPolygon: number): FoundPath | null {
    const nodes = this.#nodes;
    const heap = this.#heap;
    nodes.clear();
    heap.clear();
    if (this.#mesh.regions[startPolygon] !== this.#mesh.regions[goalPolygon]) return null;
    this.#startX = startX;
    this.#startY = startY;
    this.#goalX = goalX;
    this.#goalY = goalY;
    const table = this.#table;
    const [fromX, fromY] = this.#within(startX, startY, startPolygon);
    const [toX, toY] = this.#within(goalX, goalY, goalPolygon);
    if (startPolygon === goalPolygon || isSeen(table, fromX, fromY, startPolygon, toX, toY)) return this.#wayFrom(startX, startY, -1, 0);
    const sight = this.#startSight;
    sight.around(fromX, fromY, startPolygon, toX, toY);
    let bound = Math.max(1, length(goalX - startX, goalY - startY));
    let met = 0;
    let expanded = 0;
    for (let hasMore = true; ; ) {
      // Before a corner is expanded, the start has seen all bends that paths of its length can use.
      while (hasMore && heap.least >= bound) {
        bound = WIDER * (heap.least < Infinity ? heap.least : bound);
        hasMore = sight.lookOn(bound);
        for (; met < sight.count; met++) this.#leave(sight.seen[met] as number, startX, startY);
      }
      const node = heap.pop();
      if (node === -1) return null;
      if (nodes.isDone[node]) continue;
      nodes.isDone[node] = 1;
      expanded++;
      if (this.#seesGoal(node, toX, toY)) return this.#wayFrom(startX, startY, node, expanded);
      this.#expand(node);
    }
  }

  /** The sides from the bends that the last search visited, as segments: x, y, x, y, … */
  searchedSides(): number[] {
    const { count, state, isDone, x, y } = this.#nodes;
    const segments: number[] = [];
    for (let node = 0; node < count; node++) {
      const first = this.#ranges[2 * (state[node] as number)] as number;
      // The bend at which the search ended may have none yet.
      if (!isDone[node] || first === -1) continue;
      const end = this.#ranges[2 * (state[node] as number) + 1] as number;
      for (let i = first; i < end; i++) {
        const target = (this.#sides[i] as number) >> 1;
        segments.push(x[node] as number, y[node] as number, this.#mesh.x[target] as number, this.#mesh.y[target] as number);
      }
    }
    return segments;
  }

  /** From the start to a corner that it sees. */
  #leave(corner: number, startX: number, startY: number): void {
    const x = this.#mesh.x[corner] as number;
    const y = this.#mesh.y[corner] as number;
    const way = length(x - startX, y - startY);
    const hands = this.#walls.handsAt(corner, x - startX, y - startY);
    if (hands & LEFT) this.#reach(2 * corner, x, y, way, -1);
    if (hands & RIGHT) this.#reach(2 * corner + 1, x, y, way, -1);
  }

  /** Goes on from a corner to those that it sees; as a taut string only turns towards the wall, nothing on the other hand is gone to. */
  #expand(node: number): void {
    const nodes = this.#nodes;
    const state = nodes.state[node] as number;
    if (this.#ranges[2 * state] === -1) this.#findSides(state);
    const { x, y } = this.#mesh;
    const way = nodes.cost[node] as number;
    const px = nodes.x[node] as number;
    const py = nodes.y[node] as number;
    const parent = nodes.parent[node] as number;
    const hand = state & 1 ? -1 : 1;
    const cameX = hand * (px - (parent === -1 ? this.#startX : (nodes.x[parent] as number)));
    const cameY = hand * (py - (parent === -1 ? this.#startY : (nodes.y[parent] as number)));
    const sides = this.#sides;
    const end = this.#ranges[2 * state + 1] as number;
    for (let i = this.#ranges[2 * state] as number; i < end; i++) {
      const target = sides[i] as number;
      const tx = x[target >> 1] as number;
      const ty = y[target >> 1] as number;
      const dx = tx - px;
      const dy = ty - py;
      if (cameX * dy - cameY * dx > -STRAIGHT) this.#reach(target, tx, ty, way + length(dx, dy), node);
    }
  }

  /** Records a path to a state. If it is shorter than any before, it is queued by its length and the straight distance to the goal. */
  #reach(state: number, x: number, y: number, way: number, parent: number): void {
    const node = this.#nodes.reach(state, x, y, way, parent);
    if (node !== -1) this.#heap.push(node, way + length(this.#goalX - x, this.#goalY - y));
  }

  #seesGoal(node: number, toX: number, toY: number): boolean {
    const state = this.#nodes.state[node] as number;
    const corner = state >> 1;
    const hands = this.#walls.handsAt(corner, toX - (this.#nodes.x[node] as number), toY - (this.#nodes.y[node] as number));
    return (hands & (state & 1 ? RIGHT : LEFT)) !== 0 && isSeenFrom(this.#table, this.#walls.firstSide[corner] as number, toX, toY);
  }

  /** Finds the states that can be reached straight from one, held by its wall on leaving and by the next one's on coming there. */
  #findSides(state: number): void {
    const { turns, firstSide } = this.#walls;
    const { x, y } = this.#mesh;
    const corner = state >> 1;
    const [onX, onY, alongX, alongY] = turns.subarray(4 * corner, 4 * corner + 4) as unknown as [number, number, number, number];
    const sight = this.#sight;
    // With the wall to the right a path turns right, from going on to going along; with it to the left the other way round.
    if (state & 1) sight.from(firstSide[corner] as number, alongX, alongY, onX, onY);
    else sight.from(firstSide[corner] as number, -alongX, -alongY, -onX, -onY);
    this.#ranges[2 * state] = this.#sideCount;
    for (let i = 0; i < sight.count; i++) {
      const target = sight.seen[i] as number;
      const dx = (x[target] as number) - (x[corner] as number);
      const dy = (y[target] as number) - (y[corner] as number);
      const hands = this.#walls.handsAt(target, dx, dy);
      if (hands & LEFT) this.#addSide(2 * target);
      if (hands & RIGHT) this.#addSide(2 * target + 1);
    }
    this.#ranges[2 * state + 1] = this.#sideCount;
  }

  #addSide(target: number): void {
    if (this.#sideCount === this.#sides.length) this.#sides = doubled(this.#sides);
    this.#sides[this.#sideCount++] = target;
  }

  /** A point as a viewpoint: one at the border of its polygon is moved slightly inwards, so that a wall at it does not hide what lies along it. */
  #within(x: number, y: number, polygon: number): [number, number] {
    const { starts } = this.#mesh;
    const { after, x: sideX, y: sideY } = this.#table;
    const [first, end] = [starts[polygon] as number, starts[polygon + 1] as number];
    let [sumX, sumY] = [0, 0];
    let isAtBorder = false;
    for (let side = first; side < end; side++) {
      const [ax, ay] = [sideX[side] as number, sideY[side] as number];
      const [ex, ey] = [(sideX[after[side] as number] as number) - ax, (sideY[after[side] as number] as number) - ay];
      sumX += ax;
      sumY += ay;
      if (ex * (y - ay) - ey * (x - ax) < NEAR * length(ex, ey)) isAtBorder = true;
    }
    const [dx, dy] = [sumX / (end - first) - x, sumY / (end - first) - y];
    const share = isAtBorder ? Math.min(1, INWARD / length(dx, dy)) : 0;
    return [x + dx * share, y + dy * share];
  }

  /** The path through a node to the goal; straight there for −1. */
  #wayFrom(startX: number, startY: number, last: number, expanded: number): FoundPath {
    const { x, y, parent } = this.#nodes;
    const points: [number, number][] = [[this.#goalX, this.#goalY]];
    for (let node = last; node !== -1; node = parent[node] as number) points.push([x[node] as number, y[node] as number]);
    points.push([startX, startY]);
    points.reverse();
    // A start or a goal on a corner makes no leg of no length.
    const way = points.filter(([px, py], i) => i === 0 || px !== points[i - 1]?.[0] || py !== points[i - 1]?.[1]);
    if (way.length === 1) way.push([this.#goalX, this.#goalY]);
    return { points: way, length: pathLength(way), expanded };
  }
}
