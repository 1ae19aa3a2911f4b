import type { Ground } from '../ground/ground.ts';
import { atan2, PI, wrapAngle } from '../math/functions.ts';
import { gaits } from '../motion/codes.ts';
import { BUMPED, SENT, WRAPPED } from '../motion/events.ts';
import type { Trace } from '../motion/trace.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../tuning/expression.ts';
import type { Along } from './along.ts';
import type { CoursePath } from './coursePath.ts';
import { type Stretch, stretchesOf } from './stretches.ts';

/** A lap that is compared: its name, its drive, and its progress along the course. */
export interface LapSide {
  name: string;
  trace: Trace;
  parameters: Parameters;
  along: Along;
}

/** A stretch on which a side loses or gains time against the first side. */
export interface TimeDifference {
  /** Index of the side. */
  side: number;
  from: number;
  to: number;
  /** Seconds lost; negative where it gains. */
  seconds: number;
  place: string;
  /** The main cause, with numbers of both sides. */
  cause: string;
}

/** Stretches that are named, and the least difference of one, s. */
const SHOWN = 3;
const LEAST = 0.02;
/** Fraction of the walk below which a body stands. */
const STANDS = 0.1;
/** Direction of motion (rad) that is neither that before a bend nor that after it. */
const TURNING = PI / 9;
/** Differences of sprint (fraction of the time) and of the highest speed that are named. */
const SPRINTS = 0.2;
const FASTER = 1.05;

const SPRINT = gaits.indexOf('sprint');

/** Numbers of a drive on one stretch: s, and lengths in the ground's unit. */
export interface StretchNumbers {
  time: number;
  distance: number;
  contact: number;
  touches: number;
  still: number;
  /** Fraction of the time. */
  sprint: number;
  highest: number;
  /** Distance in which the direction of motion changes. */
  turning: number;
}

/** Reads the numbers of a side on a stretch. */
export function numbersOn(
  { trace, along, parameters }: LapSide,
  { from, to, turn }: Pick<Stretch, 'from' | 'to' | 'turn'>,
): StretchNumbers {
  const [begin, end] = [along.began + along.timeAt(from), along.began + along.timeAt(to)];
  const slow = STANDS * parameters.pace.walkSpeed;
  const sums = { distance: 0, contact: 0, still: 0, sprint: 0, highest: 0, turning: 0 };
  for (let row = Math.max(trace.first + 1, trace.rowAt(begin)); row < trace.end && trace.at('time', row - 1) < end; row++) {
    const [t0, t1] = [trace.at('time', row - 1), trace.at('time', row)];
    const seconds = Math.min(end, t1) - Math.max(begin, t0);
    if (seconds <= 0) continue;
    const events = trace.at('events', row);
    const speed = trace.at('speed', row);
    const [dx, dy] = [trace.at('x', row) - trace.at('x', row - 1), trace.at('y', row) - trace.at('y', row - 1)];
    const moved = (events & (WRAPPED | SENT)) === 0 ? (Math.sqrt(dx * dx + dy * dy) * seconds) / (t1 - t0) : 0;
    sums.distance += moved;
    sums.highest = Math.max(sums.highest, speed);
    if (speed < slow) sums.still += seconds;
    if (trace.at('gait', row) === SPRINT) sums.sprint += seconds;
    if (trace.at('contacts', row) > 0 || (events & BUMPED) !== 0) sums.contact += seconds;
    if (turn && moved > 0) {
      const heading = atan2(dy, dx);
      const isBetween = [turn.into, turn.out].every((other) => Math.abs(wrapAngle(heading - other)) > TURNING);
      if (isBetween) sums.turning += moved;
    }
  }
  const touches = along.touches.filter((time) => time > begin - along.began && time <= end - along.began).length;
  const time = end - begin;
  return { ...sums, time, touches, sprint: time > 0 ? sums.sprint / time : 0 };
}

const times = (count: number): string => (count === 0 ? 'never' : count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`);
const percent = (share: number): string => `${Math.round(share * 100)} %`;
const length = (value: number): string => shortNumber(value, value < 10 ? 1 : 0);

/** Words for the cause that explains most of a difference in time between two sides on a stretch. */
function causeOf(side: string, own: StretchNumbers, first: string, other: StretchNumbers, isBend: boolean, unit: string): string {
  const sign = own.time < other.time ? -1 : 1;
  const moving = (numbers: StretchNumbers) => numbers.distance / Math.max(numbers.time - numbers.still, 1e-6);
  const pace = Math.max(moving(other), 1e-6);
  /** Seconds that each cause explains. */
  const shares = {
    contact: own.contact - other.contact,
    distance: (own.distance - other.distance) / pace,
    still: own.still - other.still,
    speed: own.distance / Math.max(moving(own), 1e-6) - own.distance / pace,
  };
  const main = (Object.keys(shares) as (keyof typeof shares)[]).reduce((best, name) =>
    sign * shares[name] > sign * shares[best] ? name : best,
  );
  const against = (words: string, a: string, b: string) => `${side} ${words} ${a}, ${first} ${b}`;
  switch (main) {
    case 'contact':
      return own.touches === other.touches
        ? against('is in contact for', `${own.contact.toFixed(2)} s`, `for ${other.contact.toFixed(2)} s`)
        : against('touches', times(own.touches), times(other.touches));
    case 'still':
      return against('stands for', `${own.still.toFixed(2)} s`, other.still > 0 ? `for ${other.still.toFixed(2)} s` : 'not at all');
    case 'distance':
      return isBend && sign * (own.turning - other.turning) > 0.1 * Math.max(own.turning, other.turning)
        ? against('turns in', `${length(own.turning)} ${unit}`, `in ${length(other.turning)}`)
        : against('travels', `${length(own.distance)} ${unit}`, length(other.distance));
    case 'speed':
      if (sign * (other.sprint - own.sprint) > SPRINTS)
        return against('sprints', `${percent(own.sprint)} of the time`, percent(other.sprint));
      if (Math.max(own.highest, other.highest) > FASTER * Math.min(own.highest, other.highest) && sign * (other.highest - own.highest) > 0)
        return against('reaches', `${length(own.highest)} ${unit}/s`, length(other.highest));
      return against('averages', `${length(moving(own))} ${unit}/s`, length(pace));
  }
}

/** The stretches of a course on which the sides differ most in time from the first one, the largest difference first. */
export function whereTimeGoes(sides: readonly LapSide[], path: CoursePath, ground: Ground): TimeDifference[] {
  const [first, ...others] = sides;
  if (!first || !ground.course) return [];
  const { width, height } = bodySize(first.parameters.body);
  const stretches = stretchesOf(path, ground.course.gates.length, Math.max(width, height));
  const known = new Map(stretches.map((stretch) => [stretch, numbersOn(first, stretch)]));
  const found = others.flatMap((side, i) =>
    stretches.flatMap((stretch): TimeDifference[] => {
      if (stretch.to > Math.min(first.along.reached, side.along.reached)) return [];
      const [own, other] = [numbersOn(side, stretch), known.get(stretch) as StretchNumbers];
      const seconds = own.time - other.time;
      if (Math.abs(seconds) < LEAST) return [];
      const cause = causeOf(side.name, own, first.name, other, stretch.turn !== null, ground.unit);
      return [{ side: i + 1, from: stretch.from, to: stretch.to, seconds, place: stretch.name, cause }];
    }),
  );
  return found.sort((a, b) => Math.abs(b.seconds) - Math.abs(a.seconds)).slice(0, SHOWN);
}
