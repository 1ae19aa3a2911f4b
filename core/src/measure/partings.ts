import { EMPTIED, SPRINT_BEGAN, WALL_MET } from '../motion/events.ts';
import type { Trace } from '../motion/trace.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../tuning/expression.ts';
import { TraceCursor } from './traceAt.ts';

/** One side of a comparison: what the hands did with a tuning, and what it is called. */
export interface Side {
  name: string;
  trace: Trace;
  parameters: Parameters;
}

/** A moment in which two sides part, in words; the time is that of the first side. */
export interface Parting {
  /** s */
  time: number;
  kind: 'start' | 'sprint' | 'empty' | 'wall' | 'turn' | 'body' | 'rest' | 'most';
  words: string;
}

/** Speeds that differ by this share of the faster walk are told. */
const SLOWER = 0.1;
/** Times that differ by less (s) are the same to a hand. */
const SOON = 0.02;
/** Contacts further apart (s) than this are two. */
const SAME_WALL = 0.35;
/** Directions that differ by more (degrees), for longer (s), are a turn that comes later. */
const TURNED = 30;
const LASTING = 0.1;
/** Speed below which a body rests, unit/s. */
const RESTS = 1e-3;

/** How far two bodies are apart at a time, unit. */
export const apartAt = (a: Trace, b: Trace, time: number): number => new TraceCursor(a).to(time).apart(new TraceCursor(b).to(time));

const seconds = (value: number) => `${shortNumber(value, 2)} s`;
const newest = (trace: Trace) => trace.at('time', trace.end - 1);

/** The times at which an event happens. */
function timesOf(trace: Trace, event: number): number[] {
  const times: number[] = [];
  for (let row = trace.first; row < trace.end; row++) if (trace.at('events', row) & event) times.push(trace.at('time', row));
  return times;
}

/** The first moment in which one moves markedly slower than the other while both are asked to. */
function start(a: Side, b: Side, unit: string): Parting[] {
  const fastest = Math.max(a.parameters.pace.walkSpeed, b.parameters.pace.walkSpeed);
  const other = new TraceCursor(b.trace);
  for (let row = a.trace.first; row < a.trace.end; row++) {
    if (a.trace.at('amount', row) === 0) continue;
    const time = a.trace.at('time', row);
    const [va, vb] = [a.trace.at('speed', row), other.to(time).at('speed')];
    if (Math.abs(va - vb) <= SLOWER * fastest) continue;
    const [slower, less, more] = va < vb ? [a, va, vb] : [b, vb, va];
    return [
      { time, kind: 'start', words: `${slower.name} starts slower: ${shortNumber(less, 0)} against ${shortNumber(more, 0)} ${unit}/s` },
    ];
  }
  return [];
}

/** Events that come in pairs, earlier on one side or on one alone. */
function pairs(a: Side, b: Side, event: number, kind: Parting['kind'], verb: string): Parting[] {
  const [left, right] = [timesOf(a.trace, event), timesOf(b.trace, event)];
  const found: Parting[] = [];
  for (let i = 0; i < Math.max(left.length, right.length); i++) {
    const [ta, tb] = [left[i], right[i]];
    if (ta !== undefined && tb !== undefined) {
      if (Math.abs(ta - tb) <= SOON) continue;
      const later = ta > tb ? a : b;
      found.push({ time: Math.min(ta, tb), kind, words: `${later.name} ${verb} ${seconds(Math.abs(ta - tb))} later` });
    } else {
      const [one, other] = ta !== undefined ? [a, b] : [b, a];
      found.push({ time: (ta ?? tb) as number, kind, words: `${one.name} ${verb}, ${other.name} does not` });
    }
  }
  return found;
}

/** Walls that one meets and the other passes. */
function walls(a: Side, b: Side): Parting[] {
  const alone = (one: Side, other: Side): Parting[] => {
    const others = timesOf(other.trace, WALL_MET);
    return timesOf(one.trace, WALL_MET)
      .filter((time) => !others.some((met) => Math.abs(met - time) < SAME_WALL))
      .map((time) => ({ time, kind: 'wall', words: `${one.name} meets a wall that ${other.name} passes` }));
  };
  return [...alone(a, b), ...alone(b, a)];
}

/** The first time for which one looks another way than the other for longer than a moment. */
function turn(a: Side, b: Side): Parting[] {
  let since: number | null = null;
  for (let row = a.trace.first; row < a.trace.end; row++) {
    const time = a.trace.at('time', row);
    // Directions are not between two rows: the newest that is there counts.
    const other = b.trace.at('facing', Math.max(b.trace.first, Math.min(b.trace.rowAt(time + 1e-9), b.trace.end) - 1));
    const differs = Math.abs(((((a.trace.at('facing', row) - other) % 360) + 540) % 360) - 180) > TURNED;
    if (!differs) since = null;
    else if (since === null) since = time;
    else if (time - since > LASTING) return [{ time: since, kind: 'turn', words: `${a.name} and ${b.name} look different ways` }];
  }
  return [];
}

/** The time from which a trace rests to its end; null where it moves to the end. */
function restsFrom(trace: Trace): number | null {
  let row = trace.end - 1;
  if (trace.at('speed', row) > RESTS) return null;
  while (row > trace.first && trace.at('speed', row - 1) <= RESTS) row--;
  return trace.at('time', row);
}

function rest(a: Side, b: Side): Parting[] {
  const [ta, tb] = [restsFrom(a.trace), restsFrom(b.trace)];
  if (ta === null || tb === null) {
    if (ta === tb) return [];
    const [still, moving] = ta === null ? [b, a] : [a, b];
    return [{ time: (ta ?? tb) as number, kind: 'rest', words: `${still.name} rests at the end, ${moving.name} still moves` }];
  }
  if (Math.abs(ta - tb) <= SOON) return [];
  return [{ time: Math.min(ta, tb), kind: 'rest', words: `${(ta > tb ? a : b).name} comes to rest ${seconds(Math.abs(ta - tb))} later` }];
}

/** When the bodies are a body apart for the first time, and when they are furthest apart. */
function distance(a: Side, b: Side, unit: string): Parting[] {
  const { width, height } = bodySize(a.parameters.body);
  const size = Math.max(width, height);
  const found: Parting[] = [];
  let most = { time: 0, apart: 0 };
  const [one, other] = [new TraceCursor(a.trace), new TraceCursor(b.trace)];
  const apartThen = (time: number) => one.to(time).apart(other.to(time));
  const begins = a.trace.at('time', a.trace.first);
  let last = { time: begins, apart: apartThen(begins) };
  for (let row = a.trace.first; row < a.trace.end; row++) {
    const time = a.trace.at('time', row);
    const apart = apartThen(time);
    if (found.length === 0 && apart >= size) {
      const share = apart > last.apart ? Math.max(0, (size - last.apart) / (apart - last.apart)) : 0;
      found.push({ time: last.time + (time - last.time) * share, kind: 'body', words: 'one body apart' });
    }
    if (apart > most.apart) most = { time, apart };
    last = { time, apart };
  }
  if (most.apart > size / 100) found.push({ time: most.time, kind: 'most', words: `most apart: ${shortNumber(most.apart, 0)} ${unit}` });
  return found;
}

/** The moments in which two sides on the same hands part, by time; none where they do the same. `unit` is that of the ground's lengths. */
export function partings(a: Side, b: Side, unit: string): Parting[] {
  const end = Math.min(newest(a.trace), newest(b.trace));
  return [
    ...start(a, b, unit),
    ...pairs(a, b, SPRINT_BEGAN, 'sprint', 'begins to sprint'),
    ...pairs(a, b, EMPTIED, 'empty', 'runs empty'),
    ...walls(a, b),
    ...turn(a, b),
    ...rest(a, b),
    ...distance(a, b, unit),
  ]
    .filter(({ time }) => time <= end)
    .sort((one, other) => one.time - other.time);
}
