/**
 * Baseline for routes: plain A* over cells with a binary heap, eight directions, no corner cutting, octile estimate, reused typed arrays. Shares
 * nothing with the core.
 */
export class PlainAstar {
  readonly #columns: number;
  readonly #rows: number;
  readonly #open: Uint8Array;
  readonly #cost: Float64Array;
  readonly #from: Int32Array;
  readonly #stamp: Int32Array;
  #heap = new Int32Array(1024);
  #keys = new Float64Array(1024);
  #count = 0;
  #run = 0;

  /** @param open one byte a cell, 1 where it is open */
  constructor(columns: number, rows: number, open: Uint8Array) {
    this.#columns = columns;
    this.#rows = rows;
    this.#open = open;
    this.#cost = new Float64Array(open.length);
    this.#from = new Int32Array(open.length);
    this.#stamp = new Int32Array(open.length);
  }

  /** Cells of a shortest path from one cell to another, by their numbers; null if there is none. */
  find(start: number, goal: number): number[] | null {
    const size = this.#columns;
    const rows = this.#rows;
    const open = this.#open;
    const [goalX, goalY] = [goal % size, Math.floor(goal / size)];
    const run = ++this.#run;
    this.#count = 0;
    this.#stamp[start] = run;
    this.#cost[start] = 0;
    this.#from[start] = -1;
    this.#push(start, 0);
    while (this.#count > 0) {
      const key = this.#keys[0] as number;
      const at = this.#pop();
      if (at === goal) return this.#way(at);
      const [x, y] = [at % size, Math.floor(at / size)];
      const cost = this.#cost[at] as number;
      if (key > cost + octile(x - goalX, y - goalY) + 1e-9) continue;
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if ((dx === 0 && dy === 0) || nx < 0 || ny < 0 || nx >= size || ny >= rows) continue;
          const next = ny * size + nx;
          if (!open[next]) continue;
          const diagonal = dx !== 0 && dy !== 0;
          if (diagonal && !(open[y * size + nx] && open[ny * size + x])) continue;
          const reached = cost + (diagonal ? Math.SQRT2 : 1);
          if (this.#stamp[next] === run && (this.#cost[next] as number) <= reached) continue;
          this.#stamp[next] = run;
          this.#cost[next] = reached;
          this.#from[next] = at;
          this.#push(next, reached + octile(nx - goalX, ny - goalY));
        }
    }
    return null;
  }

  #way(end: number): number[] {
    const cells: number[] = [];
    for (let at = end; at !== -1; at = this.#from[at] as number) cells.push(at);
    return cells.reverse();
  }

  #push(cell: number, key: number): void {
    if (this.#count === this.#heap.length) {
      const [heap, keys] = [new Int32Array(this.#count * 2), new Float64Array(this.#count * 2)];
      heap.set(this.#heap);
      keys.set(this.#keys);
      this.#heap = heap;
      this.#keys = keys;
    }
    let at = this.#count++;
    while (at > 0) {
      const up = (at - 1) >> 1;
      if ((this.#keys[up] as number) <= key) break;
      this.#heap[at] = this.#heap[up] as number;
      this.#keys[at] = this.#keys[up] as number;
      at = up;
    }
    this.#heap[at] = cell;
    this.#keys[at] = key;
  }

  #pop(): number {
    const first = this.#heap[0] as number;
    const [last, key] = [this.#heap[--this.#count] as number, this.#keys[this.#count] as number];
    let at = 0;
    for (let child = 1; child < this.#count; child = 2 * at + 1) {
      if (child + 1 < this.#count && (this.#keys[child + 1] as number) < (this.#keys[child] as number)) child++;
      if ((this.#keys[child] as number) >= key) break;
      this.#heap[at] = this.#heap[child] as number;
      this.#keys[at] = this.#keys[child] as number;
      at = child;
    }
    this.#heap[at] = last;
    this.#keys[at] = key;
    return first;
  }
}

function octile(dx: number, dy: number): number {
  const [x, y] = [Math.abs(dx), Math.abs(dy)];
  return Math.max(x, y) + (Math.SQRT2 - 1) * Math.min(x, y);
}
