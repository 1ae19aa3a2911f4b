import { doubled } from './doubled.ts';
import { pathThrough } from './path.ts';
import type { SideTable } from './sideTable.ts';

/** Initial capacity of the queue of sides. */
const ROOM = 256;
const FIELDS = 6;

/**
 * Visibility in a mesh: from a place, sight passes through the sides between convex polygons, narrowed to what each leaves open (triangular
 * expansion: Bungiu, Hemmer, Hershberger, Huang and Kröller 2014). Corners on the border of sight are visible, too. Between corners the result is
 * exact, as those lie on a lattice.
 */
export class Sight {
  readonly #sides: SideTable;
  /** By corner, the view in which it was last met. */
  readonly #seenIn: Int32Array;
  #look = 0;
  /** The viewpoint, and the target of the view. */
  #x = 0;
  #y = 0;
  #targetX = 0;
  #targetY = 0;
  #hasTarget = false;
  /**
   * The queue of sides to look through, `FIELDS` numbers each: the side, as one of the polygon beyond; the right and the left line of sight; a lower
   * bound for the length of a path through to the target.
   */
  #wait = new Float64Array(ROOM * FIELDS);
  #waiting = 0;
  /** The visible corners with bends: the first `count`. */
  seen = new Int32Array(ROOM);
  count = 0;

  constructor(sides: SideTable) {
    this.#sides = sides;
    this.#seenIn = new Int32Array(sides.mesh.x.length);
  }

  /**
   * Starts to look all around from a point within a polygon (not on one of its sides), for paths to a target: sees the corners of that polygon.
   * `lookOn` sees farther.
   */
  around(x: number, y: number, polygon: number, targetX: number, targetY: number): void {
    this.#begin(x, y);
    this.#targetX = targetX;
    this.#targetY = targetY;
    this.#hasTarget = true;
    const { mesh, twins, after, bend, x: sideX, y: sideY } = this.#sides;
    const first = mesh.starts[polygon] as number;
    let side = first;
    do {
      const end = after[side] as number;
      const ax = (sideX[side] as number) - x;
      const ay = (sideY[side] as number) - y;
      const bx = (sideX[end] as number) - x;
      const by = (sideY[end] as number) - y;
      if (bend[side] !== -1) this.#see(bend[side] as number);
      if (twins[side] !== -1 && ax * by - ay * bx > 0) this.#lookThrough(twins[side] as number, ax, ay, bx, by);
      side = end;
    } while (side !== first);
  }

  /**
   * Looks from a corner of a wall between two directions, less than half a turn from right to left. `firstSide` is the side along
   * the wall that begins there, with the wall to the right.
   */
  from(firstSide: number, rightX: number, rightY: number, leftX: number, leftY: number): void {
    const { twins, after, bend, x: sideX, y: sideY } = this.#sides;
    const x = sideX[firstSide] as number;
    const y = sideY[firstSide] as number;
    this.#begin(x, y);
    this.#hasTarget = false;
    this.#seenIn[bend[firstSide] as number] = this.#look;
    for (let out = firstSide; out !== -1; out = this.#sides.turn(out)) {
      for (let side = after[out] as number; ; ) {
        const end = after[side] as number;
        const ax = (sideX[side] as number) - x;
        const ay = (sideY[side] as number) - y;
        const fromRight = rightX * ay - rightY * ax;
        const fromLeft = leftX * ay - leftY * ax;
        if (bend[side] !== -1 && fromRight >= 0 && fromLeft <= 0) this.#see(bend[side] as number);
        if (end === out) break;
        const bx = (sideX[end] as number) - x;
        const by = (sideY[end] as number) - y;
        const isRight = fromRight >= 0;
        // Round a corner a side may begin, or end, more than half a turn from the end of the view: its other end decides.
        if (twins[side] !== -1 && (isRight ? fromLeft < 0 : rightX * by - rightY * bx > 0)) {
          const isLeft = leftX * by - leftY * bx <= 0;
          this.#lookThrough(twins[side] as number, isRight ? ax : rightX, isRight ? ay : rightY, isLeft ? bx : leftX, isLeft ? by : leftY);
        }
        side = end;
      }
    }
    this.lookOn(Infinity);
  }

  /** Looks on through every side through which a path to the target can be as short as `bound`. Returns true if there are more sides. */
  lookOn(bound: number): boolean {
    const { twins, after, bend, x: sideX, y: sideY } = this.#sides;
    const px = this.#x;
    const py = this.#y;
    // Sides that are left for later come first among those that wait.
    let later = 0;
    while (this.#waiting > later) {
      const wait = this.#wait;
      const at = this.#waiting - FIELDS;
      if ((wait[at + 5] as number) > bound) {
        for (let field = 0; field < FIELDS; field++) {
          const value = wait[at + field] as number;
          wait[at + field] = wait[later + field] as number;
          wait[later + field] = value;
        }
        later += FIELDS;
        continue;
      }
      this.#waiting = at;
      const entry = wait[at] as number;
      const rightX = wait[at + 1] as number;
      const rightY = wait[at + 2] as number;
      const leftX = wait[at + 3] as number;
      const leftY = wait[at + 4] as number;
      // From the right end of the entry round to its left end: each side runs from its right end to its left one.
      let side = after[entry] as number;
      let ax = (sideX[side] as number) - px;
      let ay = (sideY[side] as number) - py;
      let isRight = rightX * ay - rightY * ax >= 0;
      let isWithin = leftX * ay - leftY * ax < 0;
      while (side !== entry && isWithin) {
        const end = after[side] as number;
        const bx = (sideX[end] as number) - px;
        const by = (sideY[end] as number) - py;
        const fromRight = rightX * by - rightY * bx;
        const fromLeft = leftX * by - leftY * bx;
        if (fromRight >= 0 && fromLeft <= 0 && bend[end] !== -1) this.#see(bend[end] as number);
        if (fromRight > 0 && twins[side] !== -1)
          this.#lookThrough(
            twins[side] as number,
            isRight ? ax : rightX,
            isRight ? ay : rightY,
            fromLeft <= 0 ? bx : leftX,
            fromLeft <= 0 ? by : leftY,
          );
        ax = bx;
        ay = by;
        isRight = fromRight >= 0;
        isWithin = fromLeft < 0;
        side = end;
      }
    }
    return later > 0;
  }

  #begin(x: number, y: number): void {
    this.#look++;
    this.#x = x;
    this.#y = y;
    this.#waiting = 0;
    this.count = 0;
  }

  #see(corner: number): void {
    if (this.#seenIn[corner] === this.#look) return;
    this.#seenIn[corner] = this.#look;
    if (this.count === this.seen.length) this.seen = doubled(this.seen);
    this.seen[this.count++] = corner;
  }

  /** Puts a side among those that wait. */
  #lookThrough(side: number, rightX: number, rightY: number, leftX: number, leftY: number): void {
    if (this.#waiting === this.#wait.length) this.#wait = doubled(this.#wait);
    const wait = this.#wait;
    const at = this.#waiting;
    wait[at] = side;
    wait[at + 1] = rightX;
    wait[at + 2] = rightY;
    wait[at + 3] = leftX;
    wait[at + 4] = leftY;
    wait[at + 5] = this.#hasTarget ? this.#leastThrough(side, rightX, rightY, leftX, leftY) : 0;
    this.#waiting += FIELDS;
  }

  /** Length of the shortest path to the target through the visible part of a side of the polygon beyond it. */
  #leastThrough(side: number, rightX: number, rightY: number, leftX: number, leftY: number): number {
    const { after, x, y } = this.#sides;
    // The side runs from its left end to its right one.
    const end = after[side] as number;
    const lx = (x[side] as number) - this.#x;
    const ly = (y[side] as number) - this.#y;
    const ex = (x[end] as number) - this.#x - lx;
    const ey = (y[end] as number) - this.#y - ly;
    const line = lx * ey - ly * ex;
    const left = line / (leftX * ey - leftY * ex);
    const right = line / (rightX * ey - rightY * ex);
    return pathThrough(0, 0, leftX * left, leftY * left, rightX * right, rightY * right, this.#targetX - this.#x, this.#targetY - this.#y);
  }
}
