import { EMPTIED, SPRINT_BEGAN, SPRINT_ENDED } from '../../motion/events.ts';
import { standingSpeed } from '../../motion/still.ts';
import type { Trace } from '../../motion/trace.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { firstRowWith, rowsWith } from '../eventRows.ts';
import type { Metrics } from '../metricSpecs.ts';
import { staminaCycle } from '../staminaCycle.ts';
import type { Drill, Ran } from './drill.ts';
import { cannotMove, openGround } from './layout.ts';
import { distanceBetween } from './read.ts';
import { MOST_TICKS, Script } from './script.ts';

/** Seconds that a bar is tried, and those of standing after it. */
const LONGEST = 300;
const SHORTEST = 3;

const noSprint = (parameters: Parameters): string | null => {
  const { pace, stamina } = parameters;
  if (!stamina.enabled) return 'needs stamina';
  return cannotMove(parameters) ?? (pace.sprintSpeed <= 0 ? 'the sprint speed is 0' : null);
};

/** Asks for a sprint ahead from 0 s on, until `off`. */
function sprinting(parameters: Parameters, off: number): Script {
  const script = new Script(parameters);
  script.press(0, script.ahead);
  if (parameters.pace.sprintKey === 'toggle') script.press(0, 'sprintToggle').release(0.1, 'sprintToggle');
  else script.press(0, 'sprint').release(off, 'sprint');
  return script.stop(off, script.ahead);
}

/** The moment (s) of a tick at which stamina changed in a lump, which is on a multiple of the interval; null if it changes steadily. */
function lumpAt(trace: Trace, row: number, interval: number): number | null {
  if (interval <= 0) return null;
  const [t0, t1] = [trace.at('time', row - 1), trace.at('time', row)];
  const lump = Math.floor(t1 / interval + 1e-6) * interval;
  return interval > t1 - t0 ? Math.max(t0, Math.min(t1, lump)) : null;
}

/** The time (s) at which stamina runs out for the first time, inside the tick; null if it does not. */
function emptyAt(trace: Trace, { interval }: Parameters['stamina']): number | null {
  for (let row = trace.first + 1; row < trace.end; row++) {
    const [before, now] = [trace.at('stamina', row - 1), trace.at('stamina', row)];
    if (now > 0 || before <= 0) continue;
    const lump = lumpAt(trace, row, interval);
    if (lump !== null) return lump;
    const last = row - 2 >= trace.first ? trace.at('stamina', row - 2) - before : before;
    // Its last tick is cut short: the loss of the one before is its rate.
    const share = last > 0 ? Math.min(1, before / last) : 1;
    return trace.at('time', row - 1) + (trace.at('time', row) - trace.at('time', row - 1)) * share;
  }
  return null;
}

/** True in the tick in which stamina runs out. */
const isEmptied = (trace: Trace): boolean =>
  trace.end - trace.first > 1 && trace.at('stamina', trace.end - 1) <= 0 && trace.at('stamina', trace.end - 2) > 0;

/** The end (s) of the tick in which the bar ran out: the earliest moment for hands to let go. */
const handsOff = (empty: number, { clock }: Parameters) => Math.ceil(empty * clock.hz - 1e-6) / clock.hz;

/** Seconds from a sprint to standing: regain may have to wait for that. */
function stopSeconds({ body, ramp, pace }: Parameters): number {
  if (ramp.model === 'instant') return 0;
  const stands = standingSpeed(body);
  const speed = Math.max(stands, pace.sprintSpeed, pace.walkSpeed);
  return ramp.model === 'smooth' ? Math.log2(speed / stands) * ramp.halfLife : speed / ramp.decelerate;
}

/** Seconds within which the bar of a tuning is likely to end, by its drain. */
const likely = ({ stamina }: Parameters) =>
  Math.min(LONGEST, Math.max(SHORTEST, stamina.drain > 0 ? (stamina.max / stamina.drain) * 1.3 : LONGEST) + stamina.interval);

/** Metrics without a value for a bar that does not end a sprint, or never empties or fills. */
function barLacks(parameters: Parameters): Partial<Record<keyof Metrics, string>> {
  const { emptyEndsSprint } = parameters.stamina;
  const { lasts, recovers } = staminaCycle(parameters);
  const why = emptyEndsSprint ? 'the bar never empties' : 'an empty bar does not end a sprint';
  if (lasts === Infinity) return { sprintTime: why, sprintDistance: why, recoverTime: why };
  return recovers === Infinity ? { recoverTime: 'stamina does not come back' } : {};
}

/**
 * Sprint from a full bar until it ends, then stand until a sprint can begin again. sprintTime: from the tick in which it begins to the empty bar
 * (max/drain). sprintDistance: the distance covered. recoverTime: from then to the stamina that a sprint needs to begin again, standing (delay +
 * goal/regain). Absent if the bar does not end the sprint.
 */
export const sprintToEmpty: Drill = {
  name: 'sprint-to-empty',
  title: 'Sprint to empty',
  words: 'Sprints from full to empty, then stands until a sprint can start again.',
  main: 'sprintTime',
  drawing: 'stamina',
  gives: ['sprintTime', 'sprintDistance', 'recoverTime'],
  lacks: barLacks,
  unless: noSprint,
  lay: ({ parameters, wanted }, run) => {
    const seconds = likely(parameters);
    const tape = sprinting(parameters, seconds).tape('Sprint to empty', seconds);
    const first = run({ ground: openGround(), tape, until: isEmptied });
    const empty = emptyAt(first.trace, parameters.stamina);
    // Up to the empty bar both runs are the same.
    if (empty === null || (wanted && !wanted.has('recoverTime'))) return [first];
    const { stamina } = parameters;
    const back = stamina.regainDelay + (stamina.regain > 0 ? Math.max(stamina.recoverTo, stamina.startAt) / stamina.regain : 0);
    const end = empty + Math.min(LONGEST, back * 1.2) + Math.min(LONGEST, stopSeconds(parameters)) + stamina.interval + 1;
    return [{ ground: openGround(), tape: sprinting(parameters, handsOff(empty, parameters)).tape('Sprint to empty', end) }];
  },
  measure: ([ran], { parameters }) => {
    const { trace } = ran as Ran;
    const began = firstRowWith(trace, SPRINT_BEGAN);
    const empty = emptyAt(trace, parameters.stamina);
    if (began < 0 || empty === null || !parameters.stamina.emptyEndsSprint) return {};
    const begin = trace.at('time', Math.max(trace.first, began - 1));
    const { startAt, recoverTo, max, regainWhile, regainDelay } = parameters.stamina;
    const wait = regainWhile === 'always' ? 0 : regainDelay;
    const goal = Math.min(max, Math.max(startAt, recoverTo));
    let back: number | undefined;
    for (let row = trace.rowAt(empty) + 1; row < trace.end && back === undefined; row++) {
      const [s0, s1] = [trace.at('stamina', row - 1), trace.at('stamina', row)];
      if (s1 < goal || s0 >= goal) continue;
      const [t0, t1] = [trace.at('time', row - 1), trace.at('time', row)];
      back = (lumpAt(trace, row, parameters.stamina.interval) ?? t0 + ((goal - s0) / (s1 - s0)) * (t1 - t0)) - empty;
    }
    // What a short wait leaves of the tick in which it ran out is not stood through: the hands still hold.
    if (back !== undefined) back -= Math.max(0, handsOff(empty, parameters) - empty - wait);
    // In the tick in which it runs out, the speed of the one before lasts until then.
    const last = trace.rowAt(empty) - 1;
    const travelled = distanceBetween(trace, begin, trace.at('time', last)) + trace.at('speed', last) * (empty - trace.at('time', last));
    return { sprintTime: empty - begin, sprintDistance: travelled, recoverTime: back };
  },
};

/** Seconds of the long run. */
const LONG = 90;

/**
 * A long run that sprints whenever possible. sprintShare: fraction of the time spent sprinting, over whole cycles from one end of a sprint to another
 * if there are two, else over all of it. meanSpeed: distance over time of the same.
 */
export const longSprint: Drill = {
  name: 'long-sprint-cycle',
  title: 'Long sprint cycle',
  words: 'Runs for 90 s and sprints whenever possible.',
  main: 'sprintShare',
  drawing: 'stamina',
  gives: ['sprintShare', 'meanSpeed'],
  unless: noSprint,
  lay: ({ parameters, hz }) => {
    const seconds = Math.min(LONG, MOST_TICKS / hz);
    // Requested again as soon as it can begin.
    const resumed: Parameters = { ...parameters, stamina: { ...parameters.stamina, afterEmpty: 'resume' } };
    return [{ ground: openGround(), tape: sprinting(parameters, seconds + 1).tape('Long sprint cycle', seconds), parameters: resumed }];
  },
  measure: ([ran]) => {
    const { trace } = ran as Ran;
    const ends = rowsWith(trace, EMPTIED | SPRINT_ENDED);
    const [from, to] = ends.length >= 2 ? [ends[0] as number, ends.at(-1) as number] : [trace.first, trace.end - 1];
    let sprinted = 0;
    for (let row = from + 1; row <= to; row++)
      if (trace.at('sprintGiven', row) === 1) sprinted += trace.at('time', row) - trace.at('time', row - 1);
    const [begin, end] = [trace.at('time', from), trace.at('time', to)];
    if (end <= begin) return {};
    return { sprintShare: sprinted / (end - begin), meanSpeed: distanceBetween(trace, begin, end) / (end - begin) };
  },
};
