import { atan2 } from '../math/functions.ts';
import type { ContactState } from './slices.ts';

/** One contact as it was logged: the row of the trace, where and how the body touched, where it would have gone. */
export interface LoggedContact {
  row: number;
  pointX: number;
  pointY: number;
  normalX: number;
  normalY: number;
  /** Between the way that is wanted and the wall, radians in [0, π/2]. */
  angle: number;
  freeX: number;
  freeY: number;
}

const WIDTH = 9;

/** A ring of the contacts of a trace, one entry a row in which a wall was met: rows without contact cost nothing. */
export class ContactLog {
  readonly #data: Float64Array;
  readonly #capacity: number;
  #end = 0;

  constructor(capacity: number) {
    this.#capacity = capacity;
    this.#data = new Float64Array(capacity * WIDTH);
  }

  clear(): void {
    this.#end = 0;
  }

  write(row: number, contact: ContactState): void {
    const d = this.#data;
    let i = (this.#end % this.#capacity) * WIDTH;
    d[i++] = row;
    d[i++] = contact.pointX;
    d[i++] = contact.pointY;
    d[i++] = contact.normalX;
    d[i++] = contact.normalY;
    d[i++] = contact.vx;
    d[i++] = contact.vy;
    d[i++] = contact.freeX;
    d[i] = contact.freeY;
    this.#end++;
  }

  /** The contact of a row, or null. Binary search: rows rise. */
  at(row: number): LoggedContact | null {
    let low = Math.max(0, this.#end - this.#capacity);
    let high = this.#end;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.#value(middle, 0) < row) low = middle + 1;
      else high = middle;
    }
    if (low === this.#end || this.#value(low, 0) !== row) return null;
    const [pointX, pointY, normalX, normalY, vx, vy, freeX, freeY] = Array.from({ length: 8 }, (_, k) => this.#value(low, k + 1)) as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const into = -(vx * normalX + vy * normalY);
    const angle = atan2(Math.max(0, into), Math.abs(vx * normalY - vy * normalX));
    return { row, pointX, pointY, normalX, normalY, angle, freeX, freeY };
  }

  #value(entry: number, column: number): number {
    return this.#data[(entry % this.#capacity) * WIDTH + column] as number;
  }
}
