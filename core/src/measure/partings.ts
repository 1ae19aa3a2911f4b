import { turnTo } from '../math/angles.ts';
import { gaits } from '../motion/codes.ts';
import type { LoggedContact } from '../motion/contactLog.ts';
import { EMPTIED, SPRINT_BEGAN, WALL_MET } from '../motion/events.ts';
import type { Trace } from '../motion/trace.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../tuning/expression.ts';
import { rowsWith } from './eventRows.ts';
import { TraceCursor } from './traceAt.ts';

/** One side of a comparison: the motion of the hands with a tuning, and its name. */
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

/** Speeds that differ by this fraction of the faster walk are reported. */
const SLOWER = 0.1;
/** Times that differ by less (s) are the same to a hand. */
const SOON = 0.02;
/** Cosine of the angle between two normals that are one side's. */
const ALIKE = 1 - 1e-6;
/** The gait of a sprint. */
const SPRINT = gaits.indexOf('sprint');
/** Directions that differ by more (degrees), for longer (s), are a turn that comes later. */
const TURNED = 30;
const LASTING = 0.1;
/** Speed below which a body rests, unit/s. */
const RESTS = 1e-3;

/** How far two bodies are apart at a time, unit. */
export const apartAt = (a: Trace, b: Trace, time: number): number => new TraceCursor(a).to(time).apart(new TraceCursor(b).to(time));

const seconds = (value: number) => `${shortNumber(value, 2)} s`;
const newest = (trace: Trace) => trace.at('time', trace.end - 1);

/** The row of a trace at a time that is a row of another one of the same rate; of another rate, the first one after it. */
const rowThen = (trace: Trace, time: number) => trace.rowAt(time - 1e-9);

/** True if a row begins a motion from rest, on foot or otherwise, with nothing in its path. */
const setsOut = (trace: Trace, row: number) =>
  row > trace.first &&
  row < trace.end &&
  trace.at('speed', row - 1) <= RESTS &&
  trace.at('amount', row - 1) === 0 &&
  trace.at('amount', row) > 0;

/** True if a row is one of a motion in a gait that nothing disturbs. */
const isFree = (trace: Trace, row: number, gait: number) =>
  row < trace.end && trace.at('amount', row) > 0 && trace.at('contacts', row) === 0 && trace.at('gait', row) === gait;

/** The first moment after both have set out from rest, in one gait, in which one is markedly slower than the other. */
function start(a: Side, b: Side, unit: string): Parting[] {
  const fastest = Math.max(a.parameters.pace.walkSpeed, b.parameters.pace.walkSpeed);
  for (let from = a.trace.first + 1; from < a.trace.end; from++) {
    const begun = a.trace.at('time', from);
    if (!setsOut(a.trace, from) || !setsOut(b.trace, rowThen(b.trace, begun))) continue;
    const gait = a.trace.at('gait', from);
    for (let row = from; isFree(a.trace, row, gait); row++) {
      const time = a.trace.at('time', row);
      const other = rowThen(b.trace, time);
      if (!isFree(b.trace, other, gait)) break;
      const [va, vb] = [a.trace.at('speed', row), b.trace.at('speed', other)];
      if (Math.abs(va - vb) > SLOWER * fastest) {
        const [slower, less, more] = va < vb ? [a, va, vb] : [b, vb, va];
        const words = `${slower.name} starts slower: ${shortNumber(less, 0)} against ${shortNumber(more, 0)} ${unit}/s`;
        return [{ time, kind: 'start', words }];
      }
      if (va >= a.trace.at('target', row) && vb >= b.trace.at('target', other)) break;
    }
  }
  return [];
}

/** A span in which a sprint is requested throughout: rows of a trace. */
interface SprintSpan {
  from: number;
  end: number;
}

function sprintSpans(trace: Trace): SprintSpan[] {
  const found: SprintSpan[] = [];
  for (let row = trace.first; row < trace.end; row++) {
    if (trace.at('sprintWanted', row) === 0) continue;
    const from = row;
    while (row < trace.end && trace.at('sprintWanted', row) !== 0) row++;
    found.push({ from, end: row });
  }
  return found;
}

/** Sprints that one side begins in a time of asking, and the other one later in the same time, or not at all. */
function sprints(a: Side, b: Side): Parting[] {
  const both = (one: Side, other: Side): Parting[] =>
    sprintSpans(one.trace).flatMap(({ from, end }): Parting[] => {
      const [row] = rowsWith(one.trace, SPRINT_BEGAN, from, end);
      if (row === undefined) return [];
      const time = one.trace.at('time', row);
      const [opens, closes] = [one.trace.at('time', from), one.trace.at('time', end - 1)];
      const then = sprintSpans(other.trace).find((span) => Math.abs(other.trace.at('time', span.from) - opens) <= SOON);
      const [answer] = then ? rowsWith(other.trace, SPRINT_BEGAN, then.from, then.end) : [];
      if (answer !== undefined) {
        const later = other.trace.at('time', answer) - time;
        return later > SOON ? [{ time, kind: 'sprint', words: `${other.name} begins to sprint ${seconds(later)} later` }] : [];
      }
      for (let k = rowThen(other.trace, opens); k < other.trace.end && other.trace.at('time', k) <= closes + SOON; k++)
        if (other.trace.at('gait', k) === SPRINT) return [];
      return [{ time, kind: 'sprint', words: `${one.name} begins to sprint, ${other.name} does not` }];
    });
  return [...both(a, b), ...both(b, a)];
}

/** The first time that each side runs empty. */
function empties(a: Side, b: Side): Parting[] {
  const [ta, tb] = [a, b].map(({ trace }) => rowsWith(trace, EMPTIED).map((row) => trace.at('time', row))[0]);
  if (ta === undefined && tb === undefined) return [];
  if (ta === undefined || tb === undefined) {
    const [one, other] = tb === undefined ? [a, b] : [b, a];
    return [{ time: (ta ?? tb) as number, kind: 'empty', words: `${one.name} runs empty, ${other.name} does not` }];
  }
  if (Math.abs(ta - tb) <= SOON) return [];
  const words = `${(ta > tb ? a : b).name} runs empty ${seconds(Math.abs(ta - tb))} later`;
  return [{ time: Math.min(ta, tb), kind: 'empty', words }];
}

/** True if two contacts may be with one wall: they are near each other, or on one straight side. */
function isOneWall(p: LoggedContact, q: LoggedContact, near: number): boolean {
  const [dx, dy] = [q.pointX - p.pointX, q.pointY - p.pointY];
  const isSameSide = p.normalX * q.normalX + p.normalY * q.normalY > ALIKE && Math.abs(dx * p.normalX + dy * p.normalY) < near / 20;
  return isSameSide || dx * dx + dy * dy < near * near;
}

const contactsOf = (trace: Trace): LoggedContact[] =>
  Array.from({ length: trace.end - trace.first }, (_, i) => trace.contacts.at(trace.first + i)).filter((contact) => contact !== null);

/** Walls that one side meets where the other one never touches any. */
function walls(a: Side, b: Side): Parting[] {
  // A row knows one of the walls that are touched in it; another one is within a body of that.
  const near = 2 * Math.max(...[a, b].flatMap(({ parameters }) => Object.values(bodySize(parameters.body))));
  const alone = (one: Side, other: Side): Parting[] => {
    const touched = contactsOf(other.trace);
    return rowsWith(one.trace, WALL_MET).flatMap((row): Parting[] => {
      const met = one.trace.contacts.at(row);
      if (!met || touched.some((contact) => isOneWall(met, contact, near))) return [];
      return [{ time: one.trace.at('time', row), kind: 'wall', words: `${one.name} meets a wall where ${other.name} meets none` }];
    });
  };
  return [...alone(a, b), ...alone(b, a)];
}

/** The first time at which one faces another direction than the other for longer than a moment. */
function turn(a: Side, b: Side): Parting[] {
  let since: number | null = null;
  for (let row = a.trace.first; row < a.trace.end; row++) {
    const time = a.trace.at('time', row);
    // Directions are not between two rows: the newest that is there counts.
    const other = b.trace.at('facing', Math.max(b.trace.first, Math.min(b.trace.rowAt(time + 1e-9), b.trace.end) - 1));
    const differs = Math.abs(turnTo(other, a.trace.at('facing', row))) > TURNED;
    if (!differs) since = null;
    else if (since === null) since = time;
    else if (time - since > LASTING) return [{ time: since, kind: 'turn', words: `${a.name} and ${b.name} face different directions` }];
  }
  return [];
}

/** The time from which a trace rests until its end; null if it moves to the end. */
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

/** Kinds by how much they matter. */
const weights = ['body', 'wall', 'sprint', 'empty', 'start', 'most', 'rest', 'turn'] as const satisfies readonly Parting['kind'][];

/** Moments that matter most, which come first. */
const FIRST = 5;

const byTime = (one: Parting, other: Parting) => one.time - other.time;

/**
 * The moments in which two sides on the same hands part, each sentence once: the five that matter most, by time, then the others, by time. None
 * where they do the same. `unit` is that of the ground's lengths.
 */
export function partings(a: Side, b: Side, unit: string): Parting[] {
  const end = Math.min(newest(a.trace), newest(b.trace));
  const all = [
    ...start(a, b, unit),
    ...sprints(a, b),
    ...empties(a, b),
    ...walls(a, b),
    ...turn(a, b),
    ...rest(a, b),
    ...distance(a, b, unit),
  ].filter(({ time }) => time <= end);
  return inOrder(all);
}

/** Moments in the order of the report, also those of several pairs of sides: each sentence once, and the five most important first. */
export function inOrder(moments: readonly Parting[]): Parting[] {
  const all = [...moments].sort(byTime);
  const once = all.filter(({ words }, i) => all.findIndex((other) => other.words === words) === i);
  const weighed = once.sort((one, other) => weights.indexOf(one.kind) - weights.indexOf(other.kind));
  return [...weighed.slice(0, FIRST).sort(byTime), ...weighed.slice(FIRST).sort(byTime)];
}
