import type { Ground } from '../ground/ground.ts';
import { gaits } from '../motion/codes.ts';
import { BUMPED, SENT, WRAPPED } from '../motion/events.ts';
import type { Trace } from '../motion/trace.ts';
import type { TapeEvent } from '../tape/tape.ts';
import { crossingsOf, crossingTime, type GateLine, gateLines } from './gates.ts';

/** Seconds without contact after which another contact is another touch. */
const APART = 0.1;

const SPRINT = gaits.indexOf('sprint');

/**
 * Follows a body round a course, row by row of its trace. The lap begins when the body leaves the start; a crossing is timed inside its tick, on the
 * straight line between two rows. Moves by wrapping or sending cross nothing. Allocates nothing per row.
 */
export class LapTimer {
  readonly lines: readonly GateLine[];
  /** Seconds from the start to each crossing so far: the first `crossed`. */
  readonly times: Float64Array;
  crossed = 0;
  /** Time (s) at which the body left the start; −1 before. */
  began = -1;
  touches = 0;
  /** Seconds in contact, of sprint, and distance travelled (unit), from the start of the lap to its finish. */
  contactTime = 0;
  sprintTime = 0;
  distance = 0;
  /** Time (s) of the last row. */
  now = 0;
  #x = 0;
  #y = 0;
  #startX = 0;
  #startY = 0;
  #lastContact = Number.NEGATIVE_INFINITY;

  constructor(ground: Ground) {
    this.lines = gateLines(ground);
    this.times = new Float64Array(ground.course ? crossingsOf(ground.course) : 0);
  }

  /** True once the finish is crossed. */
  get isFinished(): boolean {
    return this.crossed === this.times.length;
  }

  /** Starts over with a row of a body at the start. */
  begin(trace: Trace, row: number): void {
    this.crossed = 0;
    this.began = -1;
    this.touches = 0;
    this.contactTime = 0;
    this.sprintTime = 0;
    this.distance = 0;
    this.now = trace.at('time', row);
    this.#x = trace.at('x', row);
    this.#y = trace.at('y', row);
    this.#startX = this.#x;
    this.#startY = this.#y;
    this.#lastContact = Number.NEGATIVE_INFINITY;
  }

  /** Reads the next row; rows must come one after the other. */
  read(trace: Trace, row: number): void {
    const x = trace.at('x', row);
    const y = trace.at('y', row);
    const time = trace.at('time', row);
    const events = trace.at('events', row);
    const from = this.now;
    this.now = time;
    if (this.isFinished) return;
    if (this.began < 0) {
      if (x === this.#startX && y === this.#startY) return;
      this.began = from;
    }
    const isJump = (events & (WRAPPED | SENT)) !== 0;
    const part = isJump ? 1 : this.#cross(x, y, from, time);
    const seconds = (time - from) * part;
    if (!isJump) this.distance += Math.sqrt((x - this.#x) ** 2 + (y - this.#y) ** 2) * part;
    if (trace.at('gait', row) === SPRINT) this.sprintTime += seconds;
    if (trace.at('contacts', row) > 0 || (events & BUMPED) !== 0) {
      if (from - this.#lastContact > APART) this.touches++;
      this.#lastContact = time;
      this.contactTime += seconds;
    }
    this.#x = x;
    this.#y = y;
  }

  /** Records the crossings of a move; returns the part of it up to the finish, 1 without one. */
  #cross(x: number, y: number, from: number, time: number): number {
    let at = 0;
    while (!this.isFinished) {
      const line = this.lines[this.crossed % this.lines.length] as GateLine;
      const part = crossingTime(line, this.#x, this.#y, x, y);
      if (part < 0 || part < at) return 1;
      at = part;
      this.times[this.crossed++] = from + (time - from) * part - this.began;
    }
    return at;
  }
}

/** A drive round a course, finished or not. Times in s from the start, lengths in the ground's unit. */
export interface Lap {
  finished: boolean;
  /** From leaving the start to the finish, or to the end of the drive. */
  time: number;
  /** Time of each crossing. */
  gates: number[];
  touches: number;
  /** Seconds in contact with walls or edges. */
  contactTime: number;
  /** Changes of the controls per second. */
  corrections: number;
  distance: number;
  /** Fraction of the time in the sprint gait. */
  sprint: number;
}

/** Change of a stick's deflection that counts as a correction. */
const STICK_CHANGE = 0.25;

/**
 * Counts the ticks from `first` to `end` (that one not included) in which the hands change: a press, a release, a click, a swipe, or a stick that has
 * moved by more than a quarter of its travel since it last counted.
 */
export function correctionsIn(events: readonly TapeEvent[], first: number, end: number): number {
  let count = 0;
  let last = -1;
  let [stickX, stickY] = [0, 0];
  for (const event of events) {
    if ('point' in event || event.at >= end) continue;
    if ('stick' in event && event.stick) {
      const [x, y] = event.stick;
      const isRest = x === 0 && y === 0 && (stickX !== 0 || stickY !== 0);
      if (!isRest && Math.sqrt((x - stickX) ** 2 + (y - stickY) ** 2) <= STICK_CHANGE) continue;
      [stickX, stickY] = [x, y];
    }
    if (event.at < first || event.at === last) continue;
    last = event.at;
    count++;
  }
  return count;
}

/** The lap of a timer, with the hands' events by tick at `hz` ticks per second. */
export function lapOf(timer: LapTimer, events: readonly TapeEvent[], hz: number): Lap {
  const finished = timer.isFinished && timer.times.length > 0;
  const began = Math.max(0, timer.began);
  const time = finished ? (timer.times[timer.times.length - 1] as number) : Math.max(0, timer.now - began);
  const corrections = correctionsIn(events, 0, Math.ceil((began + time) * hz - 1e-9));
  return {
    finished,
    time,
    gates: [...timer.times.subarray(0, timer.crossed)],
    touches: timer.touches,
    contactTime: timer.contactTime,
    corrections: time > 0 ? corrections / time : 0,
    distance: timer.distance,
    sprint: time > 0 ? timer.sprintTime / time : 0,
  };
}

/** The lap in a whole trace that begins at the start of its ground's course. */
export function lapInTrace(trace: Trace, ground: Ground, events: readonly TapeEvent[], hz: number): Lap {
  const timer = new LapTimer(ground);
  timer.begin(trace, trace.first);
  for (let row = trace.first + 1; row < trace.end; row++) timer.read(trace, row);
  return lapOf(timer, events, hz);
}
