import { aimOf, type HandsChange } from './hands.ts';
import { advance, type Mover, type State } from './mover.ts';

/** A mover driven with changes of the hands: places at the rows, from (0, 0), and the state at each change. */
export interface Drive {
  px: Float64Array;
  py: Float64Array;
  /** The state just before each change. */
  states: State[];
}

/** A drive that differs from another one, from a row on. */
export interface Variation {
  /** The first row that may differ, and the first one after which all rows differ by the same. */
  from: number;
  to: number;
  /** Places of the rows from `from` to before `to`; they are overwritten by the next variation. */
  px: Float64Array;
  py: Float64Array;
  /** The difference of the rows from `to` on. */
  dx: number;
  dy: number;
}

/** Velocities that differ by less than this, as a share of the speed, have met again. */
const MET = 1e-9;

/** Drives movers with the hands of a recording: whole, or from the change on that is varied until the motion is the same again. */
export class Driver {
  readonly #times: Float64Array;
  readonly #diagonal: number;
  readonly #start: readonly [number, number];
  readonly #px: Float64Array;
  readonly #py: Float64Array;

  /** `start`: the velocity at the first row. */
  constructor(times: Float64Array, diagonal: number, start: readonly [number, number]) {
    this.#times = times;
    this.#diagonal = diagonal;
    this.#start = start;
    this.#px = new Float64Array(times.length);
    this.#py = new Float64Array(times.length);
  }

  /** Drives a mover with all changes. */
  drive(mover: Mover, changes: readonly HandsChange[]): Drive {
    const [px, py] = [new Float64Array(this.#times.length), new Float64Array(this.#times.length)];
    const states: State[] = [[0, 0, this.#start[0], this.#start[1], 0]];
    this.#run(mover, changes, 0, [0, 0, this.#start[0], this.#start[1], 0], 0, px, py, (state) => {
      states.push([...state]);
      return false;
    });
    return { px, py, states };
  }

  /** The first row after a time. */
  rowAfter(time: number): number {
    let [low, high] = [0, this.#times.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.#times[middle] as number) > time) high = middle;
      else low = middle + 1;
    }
    return low;
  }

  /** Drives on from the change before `at`, with changes that differ from those of a drive in that one only. */
  vary(mover: Mover, changes: readonly HandsChange[], at: number, { states }: Drive): Variation {
    const begun = Math.max(0, at - 1);
    const state = states[begun];
    // A change after the last row changes nothing.
    if (!state) return { from: this.#times.length, to: this.#times.length, px: this.#px, py: this.#py, dx: 0, dy: 0 };
    const time = begun === 0 ? (this.#times[0] as number) : (changes[begun] as HandsChange).time;
    const from = begun === 0 ? 1 : this.rowAfter(time);
    const speed = MET * Math.max(mover.walk, mover.sprint);
    let [dx, dy] = [0, 0];
    const to = this.#run(mover, changes, begun, [...state], from, this.#px, this.#py, (state, change) => {
      const other = states[change];
      if (change <= at || !other || Math.abs(state[2] - other[2]) > speed || Math.abs(state[3] - other[3]) > speed) return false;
      [dx, dy] = [state[0] - other[0], state[1] - other[1]];
      return Math.abs(state[4] - other[4]) < MET;
    });
    return { from, to, px: this.#px, py: this.#py, dx, dy };
  }

  /** Runs from a change on, whose state is `state`; `met` is called before each further change, and ends the run. Returns the row of the end. */
  #run(
    mover: Mover,
    changes: readonly HandsChange[],
    begun: number,
    state: State,
    first: number,
    px: Float64Array,
    py: Float64Array,
    met: (state: State, change: number) => boolean,
  ): number {
    const times = this.#times;
    let now = begun === 0 ? (times[0] as number) : (changes[begun] as HandsChange).time;
    let [next, row] = [begun + 1, Math.max(1, first)];
    let [tx, ty] = aimOf(changes[begun] as HandsChange, mover, this.#diagonal);
    for (; row < times.length; row++) {
      const time = times[row] as number;
      for (; next < changes.length && (changes[next] as HandsChange).time < time; next++) {
        const change = changes[next] as HandsChange;
        if (change.time > now) {
          advance(state, tx, ty, mover, change.time - now);
          now = change.time;
        }
        if (met(state, next)) return row;
        [tx, ty] = aimOf(change, mover, this.#diagonal);
      }
      advance(state, tx, ty, mover, time - now);
      now = time;
      px[row] = state[0];
      py[row] = state[1];
    }
    return row;
  }
}
