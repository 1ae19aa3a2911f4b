import { isClear, isFree, type PlacedBody, placedBody } from '../collision/placedBody.ts';
import { crossingTime, type GateLine } from '../course/gates.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { MinHeap } from '../route/minHeap.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** The eight neighbours of a cell, clockwise from the right, as `Skills.keys` are. */
export const neighbours: readonly (readonly [number, number])[] = [
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
  [-1, -1],
  [0, -1],
  [1, -1],
];

/** No step leads to the finish from here. */
const NONE = 255;

/** Maximum number of cells. */
const MOST = 1 << 22;

/**
 * For each gate and each cell of a tuning's grid, the step that leads soonest to the finish: Dijkstra's search (1959) backwards from each gate, the
 * last one first, over steps whose cells are free and between which the body meets no wall.
 */
export class CellField {
  readonly columns: number;
  readonly rows: number;
  readonly cell: number;
  readonly #body: PlacedBody;
  /** By gate: the direction by cell. */
  readonly #steps: Uint8Array[] = [];
  /** By cell: bits of the directions that are open. */
  readonly #open: Uint8Array;
  readonly #diagonals: boolean;

  constructor(parameters: Parameters, ground: Ground, walls: WallIndex, gates: readonly GateLine[]) {
    const { step, contact } = parameters;
    this.cell = step.cell;
    this.columns = Math.max(1, Math.floor(ground.size.width / step.cell + 1e-9));
    this.rows = Math.max(1, Math.floor(ground.size.height / step.cell + 1e-9));
    if (this.columns * this.rows > MOST) [this.columns, this.rows] = [1, 1];
    this.#body = placedBody(parameters, ground, walls, -contact.skin);
    this.#diagonals = step.diagonals;
    this.#open = this.#openings();
    const costOfDiagonal = step.diagonalTime === 'scaled' ? Math.SQRT2 : 1;
    let after = new Float64Array(this.columns * this.rows);
    for (let i = gates.length - 1; i >= 0; i--) after = this.#toGate(gates[i] as GateLine, after, costOfDiagonal, i);
  }

  centre(column: number, row: number): [number, number] {
    return [(column + 0.5) * this.cell, (row + 0.5) * this.cell];
  }

  /** The cell that holds a place; −1 outside of the grid. */
  cellAt(x: number, y: number): number {
    const column = Math.floor(x / this.cell);
    const row = Math.floor(y / this.cell);
    return column < 0 || row < 0 || column >= this.columns || row >= this.rows ? -1 : row * this.columns + column;
  }

  /** The direction of the step from a cell towards a gate: an index of `neighbours`; −1 if none leads there. */
  stepFrom(cell: number, gate: number): number {
    const step = cell < 0 ? NONE : (this.#steps[gate]?.[cell] ?? NONE);
    return step === NONE ? -1 : step;
  }

  /** The same from a place beside a cell's centre, from which the centre itself leads nowhere: to the nearest neighbour that the body can step to. */
  stepBeside(x: number, y: number, gate: number): number {
    const cell = this.cellAt(x, y);
    for (let d = 0; d < 8; d += this.#diagonals ? 1 : 2) {
      const next = this.#next(cell, d);
      if (next < 0 || this.stepFrom(next, gate) < 0) continue;
      const [toX, toY] = this.centre(next % this.columns, Math.floor(next / this.columns));
      if (isClear(this.#body, x, y, toX, toY)) return d;
    }
    return -1;
  }

  /** True if a step from a cell is possible. */
  isOpen(cell: number, direction: number): boolean {
    return cell >= 0 && ((this.#open[cell] as number) & (1 << direction)) !== 0;
  }

  #isFree(column: number, row: number): boolean {
    const [x, y] = this.centre(column, row);
    return column >= 0 && row >= 0 && column < this.columns && row < this.rows && isFree(this.#body, x, y);
  }

  #isClear(column: number, row: number, direction: number): boolean {
    const [dx, dy] = neighbours[direction] as readonly [number, number];
    if (!this.#isFree(column + dx, row + dy)) return false;
    const [x, y] = this.centre(column, row);
    return isClear(this.#body, x, y, x + dx * this.cell, y + dy * this.cell);
  }

  #openings(): Uint8Array {
    const open = new Uint8Array(this.columns * this.rows);
    for (let row = 0; row < this.rows; row++)
      for (let column = 0; column < this.columns; column++) {
        if (!this.#isFree(column, row)) continue;
        let bits = 0;
        for (let d = 0; d < 8; d += 2) if (this.#isClear(column, row, d)) bits |= 1 << d;
        if (this.#diagonals)
          for (let d = 1; d < 8; d += 2) {
            const beside = (1 << (d - 1)) | (1 << ((d + 1) % 8));
            if ((bits & beside) === beside && this.#isClear(column, row, d)) bits |= 1 << d;
          }
        open[row * this.columns + column] = bits;
      }
    return open;
  }

  /** The costs to the finish by cell with a gate and those after it to cross; `after` are the costs once it is crossed. */
  #toGate(gate: GateLine, after: Float64Array, diagonal: number, index: number): Float64Array<ArrayBuffer> {
    const count = this.columns * this.rows;
    const cost = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
    const steps = new Uint8Array(count).fill(NONE);
    const heap = new MinHeap();
    const priceOf = (direction: number) => (direction % 2 === 0 ? 1 : diagonal);
    const isCrossing = (cell: number, direction: number): boolean => {
      const [x, y] = this.centre(cell % this.columns, Math.floor(cell / this.columns));
      const [dx, dy] = neighbours[direction] as readonly [number, number];
      return crossingTime(gate, x, y, x + dx * this.cell, y + dy * this.cell) >= 0;
    };
    const offer = (cell: number, direction: number, price: number): void => {
      if (price >= (cost[cell] as number)) return;
      cost[cell] = price;
      steps[cell] = direction;
      heap.push(cell, price);
    };
    for (let cell = 0; cell < count; cell++)
      for (let d = 0; d < 8; d++)
        if (this.isOpen(cell, d) && isCrossing(cell, d)) offer(cell, d, priceOf(d) + (after[this.#next(cell, d)] as number));
    for (let cell = heap.pop(); cell >= 0; cell = heap.pop()) {
      const here = cost[cell] as number;
      for (let d = 0; d < 8; d++) {
        const from = this.#next(cell, (d + 4) % 8);
        if (from >= 0 && this.isOpen(from, d) && !isCrossing(from, d)) offer(from, d, here + priceOf(d));
      }
    }
    this.#steps[index] = steps;
    return cost;
  }

  #next(cell: number, direction: number): number {
    if (cell < 0) return -1;
    const [dx, dy] = neighbours[direction] as readonly [number, number];
    const column = (cell % this.columns) + dx;
    const row = Math.floor(cell / this.columns) + dy;
    return column < 0 || row < 0 || column >= this.columns || row >= this.rows ? -1 : row * this.columns + column;
  }
}
