import { isClear, isFree, type PlacedBody } from '../collision/placedBody.ts';

/** A way over cell centres: cells as columns and rows, and how many cells were looked into. */
interface GridWay {
  cells: [number, number][];
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
 * Ways over the cells of a ground: A* (Hart, Nilsson and Raphael 1968) with a binary heap, over 4 or 8 neighbours, with the octile
 * or the Manhattan distance as its estimate. A step is open when the body can be at both centres and meets no wall between
 * them; a diagonal one, when both cells beside it are open, too, so that no corner is cut. What is found out of cells and steps is kept.
 */
export class GridSearch {
  readonly columns: number;
  readonly rows: number;
  readonly #cell: number;
  readonly #body: PlacedBody;
  /** 0 not looked at, 1 free, 2 not. */
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
    this.#cell = cell;
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
    const hold = (value: number, many: number) => Math.min(many - 1, Math.max(0, Math.floor(value / this.#cell)));
    return [hold(x, this.columns), hold(y, this.rows)];
  }

  centre(column: number, row: number): [number, number] {
    return [(column + 0.5) * this.#cell, (row + 0.5) * this.#cell];
  }

  /** Whether the body can be at a cell's centre. */
  isFree(column: number, row: number): boolean {
    if (column < 0 || row < 0 || column >= this.columns || row >= this.rows) return false;
    const index = row * this.columns + column;
    if (this.#free[index] === 0) {
      const [x, y] = this.centre(column, row);
      this.#free[index] = isFree(this.#body, x - this.#body.centreX, y - this.#body.centreY) ? 1 : 2;
    }
    return this.#free[index] === 1;
  }

  #isOpen(column: number, row: number, way: number): boolean {
    const index = (row * this.columns + column) * 8 + way;
    if (this.#steps[index] === 0) this.#steps[index] = this.#looksOpen(column, row, way) ? 1 : 2;
    return this.#steps[index] === 1;
  }

  #looksOpen(column: number, row: number, way: number): boolean {
    const [dx, dy] = WAYS[way] as readonly [number, number];
    if (!this.isFree(column, row) || !this.isFree(column + dx, row + dy)) return false;
    if (dx !== 0 && dy !== 0 && (!this.isFree(column + dx, row) || !this.isFree(column, row + dy))) return false;
    const [x, y] = this.centre(column, row);
    const { centreX, centreY } = this.#body;
    return isClear(this.#body, x - centreX, y - centreY, x + dx * this.#cell - centreX, y + dy * this.#cell - centreY);
  }

  /** The shortest way between two cells over 4 or 8 neighbours; null where there is none. */
  find(start: readonly [number, number], goal: readonly [number, number], neighbours: 4 | 8): GridWay | null {
    if (!this.isFree(...start) || !this.isFree(...goal)) return null;
    const search = ++this.#search;
    const estimate = (column: number, row: number): number => {
      const [dx, dy] = [Math.abs(column - goal[0]), Math.abs(row - goal[1])];
      return neighbours === 4 ? dx + dy : Math.max(dx, dy) + (DIAGONAL - 1) * Math.min(dx, dy);
    };
    const heap: { at: number; whole: number }[] = [];
    const reach = (at: number, cost: number, from: number) => {
      if (this.#stamps[at] === search && (this.#cost[at] as number) <= cost) return;
      this.#stamps[at] = search;
      this.#cost[at] = cost;
      this.#from[at] = from;
      raise(heap, { at, whole: cost + estimate(at % this.columns, Math.floor(at / this.columns)) });
    };
    const end = goal[1] * this.columns + goal[0];
    reach(start[1] * this.columns + start[0], 0, -1);
    for (let expanded = 1; heap.length > 0; expanded++) {
      const { at, whole } = lower(heap);
      if (at === end) return { cells: this.#wayTo(at), expanded };
      const [column, row] = [at % this.columns, Math.floor(at / this.columns)];
      const cost = this.#cost[at] as number;
      // An older, longer entry of the same cell.
      if (whole > cost + estimate(column, row) + 1e-9) continue;
      for (let way = 0; way < neighbours; way++) {
        if (!this.#isOpen(column, row, way)) continue;
        const [dx, dy] = WAYS[way] as readonly [number, number];
        reach((row + dy) * this.columns + column + dx, cost + (dx !== 0 && dy !== 0 ? DIAGONAL : 1), at);
      }
    }
    return null;
  }

  #wayTo(end: number): [number, number][] {
    const cells: [number, number][] = [];
    for (let at = end; at !== -1; at = this.#from[at] as number) cells.push([at % this.columns, Math.floor(at / this.columns)]);
    return cells.reverse();
  }
}

type Entry = { at: number; whole: number };

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
