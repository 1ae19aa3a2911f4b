import { doubled } from './doubled.ts';

const ROOM = 512;

/**
 * The nodes of a search, one per state, in the order of discovery, so that one search's nodes lie side by side whatever the states' numbers.
 * Resetting costs nothing.
 */
export class SearchNodes {
  /** By state, its node in the last search that reached it; valid only if the node agrees. */
  readonly #nodeOf: Int32Array;
  count = 0;
  /** By node: its state, the node before it (−1: the start), whether it was expanded, its place, and the length of the path to it. */
  state = new Int32Array(ROOM);
  parent = new Int32Array(ROOM);
  isDone = new Uint8Array(ROOM);
  x = new Float64Array(ROOM);
  y = new Float64Array(ROOM);
  cost = new Float64Array(ROOM);

  constructor(states: number) {
    this.#nodeOf = new Int32Array(states);
  }

  clear(): void {
    this.count = 0;
  }

  /** Records a path to a state at a place. Returns the state's node, or −1 if a path as short is known. */
  reach(state: number, x: number, y: number, cost: number, parent: number): number {
    const known = this.#nodeOf[state] as number;
    if (known < this.count && this.state[known] === state) {
      if ((this.cost[known] as number) <= cost) return -1;
      this.cost[known] = cost;
      this.parent[known] = parent;
      return known;
    }
    if (this.count === this.state.length) this.#grow();
    const node = this.count++;
    this.#nodeOf[state] = node;
    this.state[node] = state;
    this.parent[node] = parent;
    this.isDone[node] = 0;
    this.x[node] = x;
    this.y[node] = y;
    this.cost[node] = cost;
    return node;
  }

  #grow(): void {
    this.state = doubled(this.state);
    this.parent = doubled(this.parent);
    this.isDone = doubled(this.isDone);
    this.x = doubled(this.x);
    this.y = doubled(this.y);
    this.cost = doubled(this.cost);
  }
}
