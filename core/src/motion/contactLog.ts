import { atan2 } from '../math/functions.ts';
import type { Body } from './body.ts';

/** One contact as it was logged: the row of the trace, where and how the body touched, where it would have gone. */
export interface LoggedContact {
  row: number;
  pointX: number;
  pointY: number;
  normalX: number;
  normalY: number;
  /** Angle between the wanted direction and the wall, radians in [0, π/2]. */
  angle: number;
  freeX: number;
  freeY: number;
}

/** Numbers of an entry. */
export const WIDTH = 9;

/** Rows for which room is made at first. */
const FIRST = 256;

/** A copy with twice the room, but for no more than `most` rows of `width` numbers. */
export function grown(data: Float64Array, width: number, most: number): Float64Array<ArrayBuffer> {
  const copy = new Float64Array(Math.min(most * width, Math.max(FIRST * width, 2 * data.length)));
  copy.set(data);
  return copy;
}

/** The beginning of a room that has enough numbers; else nothing, so that it grows. */
export const roomFor = (numbers: number, room: Float64Array | null): Float64Array =>
  room && room.length >= numbers ? room.subarray(0, numbers) : new Float64Array(0);

/** A ring of the contacts of a trace, one entry a row in which a wall was met: rows without contact cost nothing. */
export class ContactLog {
  /** Grows up to the capacity, so that a run without contacts takes no memory. */
  #data: Float64Array;
  readonly #capacity: number;
  #end = 0;

  /** @param room numbers to write into, if they are enough for the whole capacity */
  constructor(capacity: number, room: Float64Array | null = null) {
    this.#capacity = capacity;
    this.#data = roomFor(capacity * WIDTH, room);
  }

  clear(): void {
    this.#end = 0;
  }

  write(row: number, body: Readonly<Body>): void {
    let i = (this.#end % this.#capacity) * WIDTH;
    if (i === this.#data.length) this.#data = grown(this.#data, WIDTH, this.#capacity);
    const d = this.#data;
    d[i++] = row;
    d[i++] = body.contactPointX;
    d[i++] = body.contactPointY;
    d[i++] = body.contactNormalX;
    d[i++] = body.contactNormalY;
    d[i++] = body.contactWayX;
    d[i++] = body.contactWayY;
    d[i++] = body.velocityToX;
    d[i] = body.velocityToY;
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
