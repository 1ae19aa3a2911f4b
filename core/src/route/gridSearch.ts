import { isClear, isFree, type PlacedBody } from '../collision/placedBody.ts';

/** A cell at which a path can begin or end, and the cost (cells) of getting there from the end itself. */
export interface CellEnd {
  cell: readonly [column: number, row: number];
  cost: number;
}

/** A path over cell centres: cells as columns and rows, the ends that it joins, and the number of visited cells. */
interface GridPath {
  cells: [number, number][];
  start: number;
  goal: number;
  expanded: number;
}

const DIAGONAL = Math.SQRT2;
const WAYS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
  [1, 1],
  [1, -1],
  [-1, 1],
  [-1, -1],
] as const;

/**
 * Finds paths over the cells of a ground: A* (Hart, Nilsson and Raphael 1968) with a binary heap, over 4 or 8 neighbours, with the octile or the
 * Manhattan distance as its estimate. A step is open if the body fits at both centres and meets no wall between them. A diagonal one also needs both
 * cells beside it open, so that it cuts no corner. Results for cells and steps are cached.
 */
export class GridSearch {
  readonly columns: number;
  readonly rows: number;
  /** Length of a cell's side, unit. */
  readonly cell: number;
  readonly #body: PlacedBody;
  /** 0 unknown, 1 free, 2 not free. */
  readonly #free: Uint8Array;
  readonly #steps: Uint8Array;
  readonly #cost: Float64Array;
  readonly #from: Int32Array;
  readonly #stamps: Int32Array;
  #search = 0;

  /** @param body the body with its margin; its walls and ground */
  constructor(body: PlacedBody) {
    const { size, cell } = body.ground;
    this.#body = body;
    this.cell = cell;
    this.columns = Math.max(1, Math.ceil(size.width / cell - 1e-9));
    this.rows = Math.max(1, Math.ceil(size.height / cell - 1e-9));
    const count = this.columns * this.rows;
    this.#free = new Uint8Array(count);
    this.#steps = new Uint8Array(count * 8);
    this.#cost = new Float64Array(count);
    this.#from = new Int32Array(count);
    this.#stamps = new Int32Array(count);
  }

  /** The cell that holds a place, held within the grid. */
  cellAt(x: number, y: number): [number, number] {
    const hold = (value: number, many: number) => Math.min(many - 1, Math.max(0, Math.floor(value / this.cell)));
    return [hold(x, this.columns), hold(y, this.rows)];
  }

  centre(column: number, row: number): [number, number] {
    return [(column + 0.5) * this.cell, (row + 0.5) * this.cell];
  }

  /** True if the body can be at a cell's centre. */
  isFree(column: number, row: number): boolean {
    if (column < 0 || row < 0 || column >= this.columns || row >= this.rows) return false;
    const index = row * this.columns + column;
    if (this.#free[index] === 0) {
      const [x, y] = this.centre(column, row);
      this.#free[index] = isFree(this.#body, x - this.#body.centreX, y - this.#body.centreY) ? 1 : 2;
    }
    return this.#free[index] === 1;
  }

  #isOpen(column: number, row: number, direction: number): boolean {
    const index = (row * this.columns + column) * 8 + direction;
    if (this.#steps[index] === 0) this.#steps[index] = this.#looksOpen(column, row, direction) ? 1 : 2;
    return this.#steps[index] === 1;
  }

  #looksOpen(column: number, row: number, direction: number): boolean {
    const [dx, dy] = WAYS[direction] as readonly [number, number];
    if (!this.isFree(column, row) || !this.isFree(column + dx, row + dy)) return false;
    if (dx !== 0 && dy !== 0 && (!this.isFree(column + dx, row) || !this.isFree(column, row + dy))) return false;
    const [x, y] = this.centre(column, row);
    const { centreX, centreY } = this.#body;
    return isClear(this.#body, x - centreX, y - centreY, x + dx * this.cell - centreX, y + dy * this.cell - centreY);
  }

  /** The shortest path over 4 or 8 neighbours from one of the starts to one of the goals, their costs included; null if there is none. */
  find(starts: readonly CellEnd[], goals: readonly CellEnd[], neighbours: 4 | 8): GridPath | null {
    if (goals.length === 0) return null;
    const search = ++this.#search;
    const estimate = (column: number, row: number): number => {
      let least = Infinity;
      for (const { cell, cost } of goals) {
        const [dx, dy] = [Math.abs(column - cell[0]), Math.abs(row - cell[1])];
        const steps = neighbours === 4 ? dx + dy : Math.max(dx, dy) + (DIAGONAL - 1) * Math.min(dx, dy);
        least = Math.min(least, steps + cost);
      }
      return least;
    };
    const heap: Entry[] = [];
    const reach = (at: number, cost: number, from: number) => {
      if (this.#stamps[at] === search && (this.#cost[at] as number) <= cost) return;
      this.#stamps[at] = search;
      this.#cost[at] = cost;
      this.#from[at] = from;
      raise(heap, { at, whole: cost + estimate(at % this.columns, Math.floor(at / this.columns)), goal: -1 });
    };
    for (const { cell, cost } of starts) if (this.isFree(...cell)) reach(this.#indexOf(cell), cost, -1);
    for (let expanded = 1; heap.length > 0; expanded++) {
      const { at, whole, goal } = lower(heap);
      if (goal >= 0) {
        const cells = this.#wayTo(at);
        const first = this.#indexOf(cells[0] as [number, number]);
        const begin = this.#cost[first] as number;
        return { cells, start: starts.findIndex(({ cell, cost }) => this.#indexOf(cell) === first && cost === begin), goal, expanded };
      }
      const [column, row] = [at % this.columns, Math.floor(at / this.columns)];
      const cost = this.#cost[at] as number;
      // An older, longer entry of the same cell.
      if (whole > cost + estimate(column, row) + 1e-9) continue;
      goals.forEach((end, i) => {
        if (this.#indexOf(end.cell) === at) raise(heap, { at, whole: cost + end.cost, goal: i });
      });
      for (let direction = 0; direction < neighbours; direction++) {
        if (!this.#isOpen(column, row, direction)) continue;
        const [dx, dy] = WAYS[direction] as readonly [number, number];
        reach((row + dy) * this.columns + column + dx, cost + (dx !== 0 && dy !== 0 ? DIAGONAL : 1), at);
      }
    }
    return null;
  }

  #indexOf([column, row]: readonly [number, number]): number {
    return row * this.columns + column;
  }

  /** The free cells whose centres are nearest to a place, nearest first, up to `many`. */
  nearestFree(x: number, y: number, many: number): [number, number][] {
    const [column, row] = this.cellAt(x, y);
    const found: { cell: [number, number]; distance: number }[] = [];
    let rings = Math.max(this.columns, this.rows);
    for (let reach = 0; reach <= rings; reach++) {
      for (let dy = -reach; dy <= reach; dy++)
        for (let dx = -reach; dx <= reach; dx += Math.abs(dy) === reach ? 1 : Math.max(1, 2 * reach)) {
          if (!this.isFree(column + dx, row + dy)) continue;
          const [cx, cy] = this.centre(column + dx, row + dy);
          found.push({ cell: [column + dx, row + dy], distance: (cx - x) ** 2 + (cy - y) ** 2 });
        }
      // The corners of this ring are as far as rings beyond it.
      if (found.length >= many) rings = Math.min(rings, Math.ceil((reach + 1) * DIAGONAL));
    }
    found.sort((a, b) => a.distance - b.distance);
    return found.slice(0, many).map(({ cell }) => cell);
  }

  #wayTo(end: number): [number, number][] {
    const cells: [number, number][] = [];
    for (let at = end; at !== -1; at = this.#from[at] as number) cells.push([at % this.columns, Math.floor(at / this.columns)]);
    return cells.reverse();
  }
}

/** An entry of the heap: a cell, or, with `goal` ≥ 0, the end that lies beyond it. */
type Entry = { at: number; whole: number; goal: number };

function raise(heap: Entry[], entry: Entry): void {
  let at = heap.length;
  heap.push(entry);
  while (at > 0) {
    const up = (at - 1) >> 1;
    const above = heap[up] as Entry;
    if (above.whole <= entry.whole) break;
    heap[at] = above;
    at = up;
  }
  heap[at] = entry;
}

function lower(heap: Entry[]): Entry {
  const first = heap[0] as Entry;
  const last = heap.pop() as Entry;
  if (heap.length === 0) return first;
  let at = 0;
  for (let child = 1; child < heap.length; child = 2 * at + 1) {
    if (child + 1 < heap.length && (heap[child + 1] as Entry).whole < (heap[child] as Entry).whole) child++;
    if ((heap[child] as Entry).whole >= last.whole) break;
    heap[at] = heap[child] as Entry;
    at = child;
  }
  heap[at] = last;
  return first;
}
