import { orient2d } from 'robust-predicates';

/**
 * Triangles as Delaunator lays them out: half-edge e starts at the point `triangles[e]`, three in a row make a triangle,
 * `halfedges[e]` is the one on the other side, −1 at the border.
 */
export interface Triangulation {
  triangles: Uint32Array;
  halfedges: Int32Array;
}

export const nextEdge = (edge: number): number => (edge % 3 === 2 ? edge - 2 : edge + 1);
export const previousEdge = (edge: number): number => (edge % 3 === 0 ? edge + 2 : edge - 1);

/**
 * Makes sides part of a triangulation by turning the diagonals that cross them (Sloan 1993, “A fast algorithm for generating
 * constrained Delaunay triangulations”). The sides must meet at their ends only, and no point may lie on one of them.
 */
export class Constrainer {
  readonly #x: ArrayLike<number>;
  readonly #y: ArrayLike<number>;
  readonly #triangles: Uint32Array;
  readonly #halfedges: Int32Array;
  /** By point, a half-edge that starts at it. */
  readonly #startingAt: Int32Array;

  constructor(x: ArrayLike<number>, y: ArrayLike<number>, { triangles, halfedges }: Triangulation) {
    this.#x = x;
    this.#y = y;
    this.#triangles = triangles;
    this.#halfedges = halfedges;
    this.#startingAt = new Int32Array(x.length).fill(-1);
    triangles.forEach((point, edge) => {
      this.#startingAt[point] = edge;
    });
  }

  /** Makes the side between two points an edge of the triangulation. */
  keep(a: number, b: number): void {
    if (this.#edgeBetween(a, b) !== -1) return;
    const crossed = this.#crossedBy(a, b);
    // Every diagonal of a convex quadrilateral can be turned; one that cannot be yet waits for its neighbours.
    for (let turns = 0; crossed.length > 0; turns++) {
      if (turns > 1e6) throw new Error('a side could not be kept');
      const [u, v] = crossed.shift() as [number, number];
      const edge = this.#edgeBetween(u, v);
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
    return orient2d(x[a] as number, y[a] as number, x[b] as number, y[b] as number, x[c] as number, y[c] as number);
  }

  /** Whether the open segments a–b and c–d cross. */
  #crosses(a: number, b: number, c: number, d: number): boolean {
    return this.#orient(a, b, c) * this.#orient(a, b, d) < 0 && this.#orient(c, d, a) * this.#orient(c, d, b) < 0;
  }

  /** Half-edges that start at a point, going round it from a border or from anywhere. */
  *#around(point: number): Generator<number> {
    const first = this.#startingAt[point] as number;
    if (first === -1) return;
    let edge = first;
    do {
      yield edge;
      edge = this.#halfedges[previousEdge(edge)] as number;
    } while (edge !== -1 && edge !== first);
    if (edge === first) return;
    // A border: the rest lies the other way round.
    for (let back = this.#halfedges[first] as number; back !== -1; ) {
      edge = nextEdge(back);
      yield edge;
      back = this.#halfedges[edge] as number;
    }
  }

  /** A half-edge that joins two points, in either direction; −1 where there is none. */
  #edgeBetween(a: number, b: number): number {
    for (const edge of this.#around(a)) {
      if (this.#triangles[nextEdge(edge)] === b) return edge;
      if (this.#triangles[previousEdge(edge)] === b) return previousEdge(edge);
    }
    return -1;
  }

  /** The edges that a side crosses, in order, by their points. */
  #crossedBy(a: number, b: number): [number, number][] {
    const crossed: [number, number][] = [];
    let edge = -1;
    for (const start of this.#around(a)) {
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
    throw new Error('a side meets a point on its way');
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
    for (const edge of [a, nextEdge(a), ar, b, nextEdge(b), bl]) this.#startingAt[triangles[edge] as number] = edge;
  }

  #join(a: number, b: number): void {
    this.#halfedges[a] = b;
    if (b !== -1) this.#halfedges[b] = a;
  }
}
