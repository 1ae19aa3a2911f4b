/** How many intervals fit at first. */
const ROOM = 1024;

/**
 * The intervals of a search in typed arrays that grow as needed and are used again, and a binary heap of those that wait, the
 * shortest estimate first; of equal ones the older.
 */
export class IntervalQueue {
  root = new Int32Array(ROOM);
  /** Length of the way until the root; and with the estimate of the rest. */
  way = new Float64Array(ROOM);
  whole = new Float64Array(ROOM);
  lx = new Float64Array(ROOM);
  ly = new Float64Array(ROOM);
  rx = new Float64Array(ROOM);
  ry = new Float64Array(ROOM);
  /** Corners at the ends, −1 for an end within a side. */
  left = new Int32Array(ROOM);
  right = new Int32Array(ROOM);
  /** The side by which the polygon beyond is entered. */
  side = new Int32Array(ROOM);
  parent = new Int32Array(ROOM);
  #heap = new Int32Array(ROOM);
  #count = 0;
  #waiting = 0;

  clear(): void {
    this.#count = 0;
    this.#waiting = 0;
  }

  push(
    root: number,
    way: number,
    whole: number,
    lx: number,
    ly: number,
    left: number,
    rx: number,
    ry: number,
    right: number,
    side: number,
    parent: number,
  ): void {
    if (this.#count === this.root.length) this.#grow();
    const node = this.#count++;
    this.root[node] = root;
    this.way[node] = way;
    this.whole[node] = whole;
    this.lx[node] = lx;
    this.ly[node] = ly;
    this.rx[node] = rx;
    this.ry[node] = ry;
    this.left[node] = left;
    this.right[node] = right;
    this.side[node] = side;
    this.parent[node] = parent;
    this.#rise(this.#waiting++, node);
  }

  /** The interval with the shortest estimate; −1 when none waits. */
  pop(): number {
    if (this.#waiting === 0) return -1;
    const heap = this.#heap;
    const first = heap[0] as number;
    const last = heap[--this.#waiting] as number;
    let at = 0;
    for (let child = 1; child < this.#waiting; child = 2 * at + 1) {
      if (child + 1 < this.#waiting && this.#isBefore(heap[child + 1] as number, heap[child] as number)) child++;
      if (!this.#isBefore(heap[child] as number, last)) break;
      heap[at] = heap[child] as number;
      at = child;
    }
    heap[at] = last;
    return first;
  }

  #rise(from: number, node: number): void {
    const heap = this.#heap;
    let at = from;
    while (at > 0) {
      const up = (at - 1) >> 1;
      if (!this.#isBefore(node, heap[up] as number)) break;
      heap[at] = heap[up] as number;
      at = up;
    }
    heap[at] = node;
  }

  #isBefore(a: number, b: number): boolean {
    const [x, y] = [this.whole[a] as number, this.whole[b] as number];
    return x < y || (x === y && a < b);
  }

  #grow(): void {
    const doubled = <T extends Int32Array | Float64Array>(old: T): T => {
      const next = new (old.constructor as new (length: number) => T)(old.length * 2);
      next.set(old);
      return next;
    };
    this.root = doubled(this.root);
    this.way = doubled(this.way);
    this.whole = doubled(this.whole);
    this.lx = doubled(this.lx);
    this.ly = doubled(this.ly);
    this.rx = doubled(this.rx);
    this.ry = doubled(this.ry);
    this.left = doubled(this.left);
    this.right = doubled(this.right);
    this.side = doubled(this.side);
    this.parent = doubled(this.parent);
    this.#heap = doubled(this.#heap);
  }
}
