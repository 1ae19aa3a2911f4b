import { DEGREE } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Body } from './body.ts';
import { gaits } from './codes.ts';
import { WIDTH as CONTACT, ContactLog, grown, roomFor } from './contactLog.ts';
import { compassName, inDegrees } from './facing.ts';

/** Numeric columns of a trace, in the order of a file; angles in degrees, gait as its index. */
export const columns = [
  'tick',
  'time',
  'x',
  'y',
  'vx',
  'vy',
  'speed',
  'facing',
  'gait',
  'stamina',
  'contacts',
  'target',
  'amount',
  'sprintWanted',
  'sprintGiven',
  'edge',
  'cameraX',
  'cameraY',
  'toGo',
  'off',
  'phase',
  'events',
] as const;
export type Column = (typeof columns)[number];

const WIDTH = columns.length;
const offsets = /* @__PURE__ */ Object.fromEntries(columns.map((name, i) => [name, i])) as Record<Column, number>;

/** Numbers for a trace and its contacts. */
interface TraceRoom {
  rows: Float64Array;
  contacts: Float64Array;
}

/** Rooms for short traces that are written one after the other and all read before the rooms are used again. */
export class TraceRooms {
  readonly #rooms: TraceRoom[] = [];
  #used = 0;

  /** A room for so many rows that no trace was given since the last `free`. */
  take(capacity: number): TraceRoom {
    const known = this.#rooms[this.#used];
    const room =
      known && known.rows.length >= capacity * WIDTH
        ? known
        : { rows: new Float64Array(2 * capacity * WIDTH), contacts: new Float64Array(2 * capacity * CONTACT) };
    this.#rooms[this.#used++] = room;
    return room;
  }

  /** Gives all rooms free: traces in them must not be read any more. */
  free(): void {
    this.#used = 0;
  }
}

/**
 * A ring buffer of the last `capacity` ticks, row after row in one typed array that grows up to that. Row numbers count from the start of the
 * recording and stay the same when old rows are overwritten: rows `first … end − 1` can be read.
 */
export class Trace {
  readonly capacity: number;
  /** One past the newest row. */
  end = 0;
  /** Number of times the trace was restarted. */
  clears = 0;
  /** Contacts of the rows that have one. */
  readonly contacts: ContactLog;
  #data: Float64Array;
  /** Place of the next row in the data. */
  #next = 0;

  /** @param room what an earlier trace was written into, to be overwritten */
  constructor(capacity: number, room: TraceRoom | null = null) {
    this.capacity = capacity;
    this.#data = roomFor(capacity * WIDTH, room?.rows ?? null);
    this.contacts = new ContactLog(capacity, room?.contacts);
  }

  /** The oldest row still held. */
  get first(): number {
    return Math.max(0, this.end - this.capacity);
  }

  clear(): void {
    this.clears++;
    this.end = 0;
    this.#next = 0;
    this.contacts.clear();
  }

  /** The value of a column in a kept row. */
  at(column: Column, row: number): number {
    return this.#data[(row % this.capacity) * WIDTH + offsets[column]] as number;
  }

  /** The values of a column in rows `from` to `end` (that one not included), both kept. */
  values(column: Column, from = this.first, end = this.end): Float64Array {
    const offset = offsets[column];
    const values = new Float64Array(end - from);
    for (let i = 0; i < values.length; i++) values[i] = this.#data[((from + i) % this.capacity) * WIDTH + offset] as number;
    return values;
  }

  /** Records a body after a tick; the order of the lines is that of `columns`. */
  write(body: Readonly<Body>): void {
    if (this.#next === this.#data.length) this.#makeRoom();
    const d = this.#data;
    const i = this.#next;
    const { vx, vy } = body;
    // Adding 0 turns −0 into 0, which a text can hold.
    d[i] = body.clockTick;
    d[i + 1] = body.clockTime;
    d[i + 2] = body.x + 0;
    d[i + 3] = body.y + 0;
    d[i + 4] = vx + 0;
    d[i + 5] = vy + 0;
    d[i + 6] = Math.sqrt(vx * vx + vy * vy);
    d[i + 7] = inDegrees(body.facingAngle);
    d[i + 8] = body.gaitIndex;
    d[i + 9] = body.gaitStamina;
    d[i + 10] = body.contactCount + body.boundsHeld;
    d[i + 11] = body.velocityTarget;
    d[i + 12] = body.routeWishAmount;
    d[i + 13] = body.routeWishSprint;
    d[i + 14] = body.gaitSprinting;
    d[i + 15] = body.boundsSides;
    d[i + 16] = body.cameraX;
    d[i + 17] = body.cameraY;
    d[i + 18] = body.routeToGo;
    d[i + 19] = body.routeOff;
    d[i + 20] = body.stepPhase;
    d[i + 21] = body.happened;
    if (body.contactCount > 0) this.contacts.write(this.end, body);
    this.#next = i + WIDTH;
    this.end++;
  }

  /** Extends the data, or, at full capacity, overwrites the oldest rows. */
  #makeRoom(): void {
    if (this.#data.length === this.capacity * WIDTH) this.#next = 0;
    else this.#data = grown(this.#data, WIDTH, this.capacity);
  }

  /** The first row whose time is not before `time`; `end` if there is none. Binary search: times rise. */
  rowAt(time: number): number {
    let low = this.first;
    let high = this.end;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.at('time', middle) < time) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** `walk-NW`: the state for an animation system in a row. */
  pose(row: number, directions: Parameters['facing']['directions']): string {
    return `${gaits[this.at('gait', row)] ?? 'stand'}-${compassName(this.at('facing', row) * DEGREE, directions)}`;
  }
}
