import { orient } from './lattice.ts';

/**
 * Triangles in Delaunator's layout: half-edge e starts at the point `triangles[e]`, three in a row make a triangle, `halfedges[e]` is the one on the
 * other side, −1 at the border.
 */
export interface Triangulation {
  triangles: Uint32Array;
  halfedges: Int32Array;
}

export const nextEdge = (edge: number): number => (edge % 3 === 2 ? edge - 2 : edge + 1);
const previousEdge = (edge: number): number => (edge % 3 === 0 ? edge + 2 : edge - 1);

/**
 * Makes sides part of a triangulation by turning the diagonals that cross them (Sloan 1993, “A fast algorithm for generating
 * constrained Delaunay triangulations”). The sides must meet at their ends only, and no point may lie on one of them.
 */
export class Constrainer {
  readonly #x: ArrayLike<number>;
  readonly #y: ArrayLike<number>;
  readonly #triangles: Uint32Array;
  readonly #halfedges: Int32Array;
  /** By point, a half-edge that starts at it; the one on the border for a point there, so that the rest follows in one turn. */
  readonly #startingAt: Int32Array;

  constructor(x: ArrayLike<number>, y: ArrayLike<number>, { triangles, halfedges }: Triangulation) {
    this.#x = x;
    this.#y = y;
    this.#triangles = triangles;
    this.#halfedges = halfedges;
    this.#startingAt = new Int32Array(x.length).fill(-1);
    for (let edge = 0; edge < triangles.length; edge++) this.#startAt(edge);
  }

  /** Makes the side between two points an edge of the triangulation. */
  keep(a: number, b: number): void {
    if (this.edgeBetween(a, b) !== -1) return;
    const crossed = this.#crossedBy(a, b);
    // Every diagonal of a convex quadrilateral can be turned; one that cannot be yet waits for its neighbours.
    for (let turns = 0; crossed.length > 0; turns++) {
      if (turns > 1e6) throw new Error('a side could not be kept');
      const [u, v] = crossed.shift() as [number, number];
      const edge = this.edgeBetween(u, v);
      const far = this.#triangles[previousEdge(edge)] as number;
      const near = this.#triangles[previousEdge(this.#halfedges[edge] as number)] as number;
      if (!this.#crosses(u, v, near, far)) {
        crossed.push([u, v]);
        continue;
      }
      this.#turnDiagonal(edge);
      if (near !== a && near !== b && far !== a && far !== b && this.#crosses(a, b, near, far)) crossed.push([near, far]);
    }
  }

  #orient(a: number, b: number, c: number): number {
    const [x, y] = [this.#x, this.#y];
    return orient(x[a] as number, y[a] as number, x[b] as number, y[b] as number, x[c] as number, y[c] as number);
  }

  /** True if the open segments a–b and c–d cross. */
  #crosses(a: number, b: number, c: number, d: number): boolean {
    return this.#orient(a, b, c) * this.#orient(a, b, d) < 0 && this.#orient(c, d, a) * this.#orient(c, d, b) < 0;
  }

  /** Takes a half-edge as the one that starts at its point, unless there is one on the border. */
  #startAt(edge: number): void {
    const point = this.#triangles[edge] as number;
    const known = this.#startingAt[point] as number;
    if (known !== -1 && this.#triangles[known] === point && this.#halfedges[known] === -1) return;
    this.#startingAt[point] = edge;
  }

  /** The next half-edge that starts at the same point, round it from the first one; −1 after the last. */
  #next(edge: number, first: number): number {
    const next = this.#halfedges[previousEdge(edge)] as number;
    return next === first ? -1 : next;
  }

  /** A half-edge that joins two points, in either direction; −1 if there is none. */
  edgeBetween(a: number, b: number): number {
    const first = this.#startingAt[a] as number;
    for (let edge = first; edge !== -1; edge = this.#next(edge, first)) {
      if (this.#triangles[nextEdge(edge)] === b) return edge;
      if (this.#triangles[previousEdge(edge)] === b) return previousEdge(edge);
    }
    return -1;
  }

  /** The edges that a side crosses, in order, by their points. */
  #crossedBy(a: number, b: number): [number, number][] {
    const crossed: [number, number][] = [];
    let edge = -1;
    const first = this.#startingAt[a] as number;
    for (let start = first; start !== -1; start = this.#next(start, first)) {
      const opposite = nextEdge(start);
      if (this.#crosses(a, b, this.#triangles[opposite] as number, this.#triangles[nextEdge(opposite)] as number)) edge = opposite;
    }
    while (edge !== -1) {
      const [u, v] = [this.#triangles[edge] as number, this.#triangles[nextEdge(edge)] as number];
      crossed.push([u, v]);
      const beyond = this.#halfedges[edge] as number;
      const apex = this.#triangles[previousEdge(beyond)] as number;
      if (apex === b) return crossed;
      // On through the side of the triangle beyond that is crossed, too.
      const [left, right] = [nextEdge(beyond), previousEdge(beyond)];
      edge = this.#crosses(a, b, this.#triangles[left] as number, apex) ? left : right;
    }
    throw new Error('a side meets a point before its end');
  }

  /** Turns the diagonal of the quadrilateral around an edge. */
  #turnDiagonal(a: number): void {
    const [triangles, halfedges] = [this.#triangles, this.#halfedges];
    const b = halfedges[a] as number;
    const [ar, bl] = [previousEdge(a), previousEdge(b)];
    triangles[a] = triangles[bl] as number;
    triangles[b] = triangles[ar] as number;
    const [beyondB, beyondA] = [halfedges[bl] as number, halfedges[ar] as number];
    this.#join(a, beyondB);
    this.#join(b, beyondA);
    this.#join(ar, bl);
    for (const edge of [a, nextEdge(a), ar, b, nextEdge(b), bl]) this.#startAt(edge);
  }

  #join(a: number, b: number): void {
    this.#halfedges[a] = b;
    if (b !== -1) this.#halfedges[b] = a;
  }
}
