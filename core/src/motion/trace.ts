import { DEGREE, length } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { ContactLog } from './contactLog.ts';
import { compassName, inDegrees } from './facing.ts';
import { gaits } from './gait.ts';
import type { State } from './state.ts';

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

/** Everything that happened in a tick, as bits. */
function happenedIn({ intent, route, step, gait, contact, bounds, facing }: State): number {
  return intent.happened | route.happened | step.happened | gait.happened | contact.happened | bounds.happened | facing.happened;
}

/**
 * A ring of the last `capacity` ticks, row after row in one typed array. Row numbers count from the start of the recording and
 * stay the same when old rows are overwritten: rows `first … end − 1` can be read.
 */
export class Trace {
  readonly capacity: number;
  /** One past the newest row. */
  end = 0;
  /** What was met in rows with contact. */
  readonly contacts: ContactLog;
  readonly #data: Float64Array;
  /** Place of the next row in the data. */
  #next = 0;

  constructor(capacity: number) {
    this.capacity = capacity;
    this.#data = new Float64Array(capacity * WIDTH);
    this.contacts = new ContactLog(capacity);
  }

  /** The oldest row still held. */
  get first(): number {
    return Math.max(0, this.end - this.capacity);
  }

  clear(): void {
    this.end = 0;
    this.#next = 0;
    this.contacts.clear();
  }

  /** The value of a column in a row that is held. */
  at(column: Column, row: number): number {
    return this.#data[(row % this.capacity) * WIDTH + offsets[column]] as number;
  }

  /** Records the state after a tick; the order of the lines is that of `columns`. */
  write(state: State): void {
    const { motion, gait, clock, route, step } = state;
    const wish = step.phase !== 0 ? step : route;
    const d = this.#data;
    // Adding 0 turns −0 into 0, which a text can hold.
    let i = this.#next;
    d[i++] = clock.tick;
    d[i++] = clock.time;
    d[i++] = motion.x + 0;
    d[i++] = motion.y + 0;
    d[i++] = motion.vx + 0;
    d[i++] = motion.vy + 0;
    d[i++] = length(motion.vx, motion.vy);
    d[i++] = inDegrees(state.facing.angle);
    d[i++] = gait.gait;
    d[i++] = gait.stamina;
    d[i++] = state.contact.count + state.bounds.held;
    d[i++] = state.velocity.target;
    d[i++] = wish.amount;
    d[i++] = wish.sprintWanted;
    d[i++] = gait.sprinting;
    d[i++] = state.bounds.sides;
    d[i++] = state.camera.x;
    d[i++] = state.camera.y;
    d[i++] = route.toGo;
    d[i++] = route.off;
    d[i++] = step.phase;
    d[i] = happenedIn(state);
    if (state.contact.count > 0) this.contacts.write(this.end, state.contact);
    this.#next = i + 1 === d.length ? 0 : i + 1;
    this.end++;
  }

  /** The first row whose time is not before `time`; `end` when there is none. Binary search: times rise. */
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

  /** `walk-NW`: what an animation system would be told in a row. */
  pose(row: number, directions: Parameters['facing']['directions']): string {
    return `${gaits[this.at('gait', row)] ?? 'stand'}-${compassName(this.at('facing', row) * DEGREE, directions)}`;
  }
}
