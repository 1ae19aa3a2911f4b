import { exp, length, log } from '../../math/functions.ts';
import type { Tape } from '../../tape/tape.ts';
import { specOf, specs } from '../../tuning/catalogue/catalogue.ts';
import { figureTitles } from '../../tuning/catalogue/specs.ts';
import type { FileValue, TuningFile } from '../../tuning/schema.ts';
import { readTuning, withValue } from '../../tuning/tuning.ts';
import { facingOf } from './facing.ts';
import { aimOf } from './hands.ts';
import { handsTape } from './handsTape.ts';
import { kinematicsOf } from './kinematics.ts';
import type { Recording } from './recording.ts';
import type { MoverNumber } from './refine.ts';
import { motionOf, type RecordedMotion } from './reproduce.ts';
import { isReproduced, type RecordingProgress } from './search.ts';
import { type Understood, understand } from './understand.ts';

/** A tuning found in a recording, as programs read it. */
export interface RecordingReport {
  /** The values that the recording tells, by path. */
  set: Record<string, FileValue>;
  /** The range of each number with a confidence of 95 %, and the stretches that show it. */
  held: Record<string, { low: number; high: number; evidence: string }>;
  /** The numbers that the recording can’t tell. */
  unknown: string[];
  /** The spread of the deviations of places, unit, and of speeds, unit/s. */
  residual: { place: number; speed: number };
  tuning: TuningFile;
  /** The hands that were found. */
  tape: Tape;
  /** The motion as it was understood, to be driven again. */
  motion: RecordedMotion;
  /** How columns were read, and where the motion isn’t reproduced, in words. */
  notes: string[];
}

/** The label of a number; with its figure’s title where another number has the same label. */
export function titleOf(path: string): string {
  const { label, figure } = specOf(path);
  const isShared = [...specs].some(([other, spec]) => other !== path && spec.label === label);
  return isShared ? `${figureTitles[figure]}: ${label}` : label;
}

/** Deviates of a normal distribution for 95 %. */
const NINETY_FIVE = 1.96;
/** Standard errors are larger by this factor: the times of the hands are found, not known. */
const CAREFUL = 1.4;
/** Relative errors that ticks cause: of speeds, and of rates as a share of a tick’s part of the phase. */
const OF_SPEED = 0.0006;
const OF_PHASE: Partial<Record<MoverNumber, number>> = { accelerate: 0.12, decelerate: 0.12, brake: 0.6, ease: 0.6, halfLife: 0.12 };
/** A range wider than this, relative to the number, says nothing. */
const WIDEST = 0.2;

/** The parameter of each number of a mover. */
export const moverPaths: Record<MoverNumber, string> = {
  walk: 'pace.walkSpeed',
  sprint: 'pace.sprintSpeed',
  accelerate: 'ramp.accelerate',
  decelerate: 'ramp.decelerate',
  brake: 'ramp.brake',
  ease: 'ramp.ease',
  halfLife: 'ramp.halfLife',
};

/** Numbers that this search never looks for. */
const never = ['stamina.drain', 'stamina.regain', 'contact.wallFriction', 'route.arriveRadius', 'step.time', 'input.deadZone'];

type Phase = 'start' | 'stop' | 'reversal' | 'slowing' | 'turn';
const shows: Partial<Record<MoverNumber, { phase: Phase; word: string }>> = {
  accelerate: { phase: 'start', word: 'start' },
  decelerate: { phase: 'stop', word: 'stop' },
  brake: { phase: 'reversal', word: 'reversal' },
  ease: { phase: 'slowing', word: 'slowing' },
};

/** The times of the changes of each kind, s. */
function phasesOf({ changes, mover, diagonal }: Understood): Record<Phase, number[]> {
  const phases: Record<Phase, number[]> = { start: [], stop: [], reversal: [], slowing: [], turn: [] };
  for (const [i, change] of changes.entries()) {
    const before = changes[i - 1];
    if (!before) continue;
    const [ax, ay] = aimOf(before, mover, diagonal);
    const [bx, by] = aimOf(change, mover, diagonal);
    const [from, to] = [length(ax, ay), length(bx, by)];
    const phase: Phase =
      from === 0
        ? 'start'
        : to === 0
          ? 'stop'
          : ax * bx + ay * by < 0
            ? 'reversal'
            : to < from * 0.99
              ? 'slowing'
              : to > from * 1.01
                ? 'start'
                : 'turn';
    phases[phase].push(change.time);
  }
  return phases;
}

/** The longest time at a gait. */
function cruiseOf({ changes, recording: { times } }: Understood, isSprint: boolean): string {
  let [from, to] = [0, 0];
  for (const [i, change] of changes.entries()) {
    if (change.angle === null || change.isSprint !== isSprint) continue;
    const end = changes[i + 1]?.time ?? (times.at(-1) as number);
    if (end - change.time > to - from) [from, to] = [change.time, end];
  }
  return `cruise ${from.toFixed(1)} to ${to.toFixed(1)} s`;
}

const countWords = (times: readonly number[], word: string): string =>
  `${times.length} ${word}${times.length === 1 ? '' : 's'}, the first at ${(times[0] ?? 0).toFixed(1)} s`;

/** The relative standard error of a number, with that of the ticks. */
function errorOf(found: Understood, key: MoverNumber): number {
  const { mover, errors, doubt } = found;
  const error = errors[key];
  if (error === undefined || Number.isNaN(error)) return Number.POSITIVE_INFINITY;
  const phase = key === 'halfLife' ? mover.halfLife * 3 : mover.walk / mover[key];
  const ticked = key === 'walk' || key === 'sprint' ? OF_SPEED : ((OF_PHASE[key] ?? 0) * mover.tick) / phase;
  const whole = Math.sqrt((CAREFUL * error) ** 2 + ticked ** 2 + (doubt[key] ?? 0) ** 2);
  return Number.isNaN(whole) ? Number.POSITIVE_INFINITY : whole;
}

/** Digits of a number that its error leaves. */
const digitsFor = (value: number, error: number): number =>
  Number(value.toPrecision(Math.max(2, Math.min(6, Math.ceil(1 - log(Math.max(error, 1e-5)) / log(10))))));

/** Finds the numbers of a motion that was recorded, over those of a tuning; or returns why it can’t tell, in words. Deterministic. */
export function* fitRecording(recording: Recording, base: TuningFile): Generator<RecordingProgress, RecordingReport | string> {
  const found = yield* understand(recording);
  if (typeof found === 'string') return found;
  const { mover, kinematics, directions, diagonal, dx, dy } = found;
  const notes = [...recording.notes];
  const set: RecordingReport['set'] = {};
  const held: RecordingReport['held'] = {};
  const unknown: string[] = [];
  const phases = phasesOf(found);
  const keys: MoverNumber[] = [
    'walk',
    'sprint',
    ...(mover.model === 'linear'
      ? (['accelerate', 'decelerate', 'brake', 'ease'] as const)
      : mover.model === 'smooth'
        ? (['halfLife'] as const)
        : []),
  ];
  for (const key of keys) {
    const path = moverPaths[key];
    const shown = shows[key];
    const error = key === 'sprint' && mover.sprint === 0 ? Number.POSITIVE_INFINITY : errorOf(found, key);
    if (NINETY_FIVE * error > WIDEST || (shown && phases[shown.phase].length === 0)) {
      unknown.push(path);
      continue;
    }
    const value = mover[key];
    set[path] = digitsFor(value, error);
    held[path] = {
      low: value * exp(-NINETY_FIVE * error),
      high: value * exp(NINETY_FIVE * error),
      evidence: shown
        ? countWords(phases[shown.phase], shown.word)
        : key === 'halfLife'
          ? countWords(
              [...phases.start, ...phases.stop].toSorted((a, b) => a - b),
              'change',
            )
          : cruiseOf(found, key === 'sprint'),
    };
  }
  set['ramp.model'] = mover.model;
  if (directions !== 'free') set['input.directions'] = directions === 4 ? '4' : '8';
  if (diagonal !== 1) set['input.normaliseDiagonals'] = false;
  const facing = facingOf(recording);
  if (facing?.directions) set['facing.directions'] = facing.directions;
  if (facing?.turn) set['facing.turn'] = facing.turn;
  if (facing?.rate) set['facing.rate'] = digitsFor(facing.rate, 0.01);
  if (facing?.halfLife) set['facing.halfLife'] = digitsFor(facing.halfLife, 0.02);
  if (!facing) unknown.push('facing.directions', 'facing.turn');
  unknown.push(...never);
  const place = rms([...dx, ...dy]);
  const residual = { place, speed: speedDeviation(found) };
  if (!isReproduced(found, kinematics))
    notes.push(
      `the motion isn’t reproduced everywhere: places deviate by ${place.toPrecision(2)} where the noise is ${kinematics.noise.toPrecision(2)}${worstStretch(found)}`,
    );
  const values = Object.entries(set);
  const tuning = values.reduce((file, [path, value]) => withValue(file, path, value), base);
  const read = readTuning(tuning);
  if (!read.ok) return `found ${read.faults[0]?.path} ${read.faults[0]?.found}, expected ${read.faults[0]?.expected}`;
  const tape = handsTape(`${base.name.slice(0, 100)}: hands`, recording, found.changes, read.value.parameters.clock.hz);
  return { set, held, unknown, residual, tuning, tape, motion: motionOf(found), notes };
}

const rms = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length));

/** The spread of the speeds about those of the places that were reproduced. */
function speedDeviation({ recording, kinematics, dx, dy }: Understood): number {
  const { times, x, y } = recording;
  const places = (values: Float64Array, off: Float64Array) => values.map((value, i) => value - (off[i] as number));
  const own = kinematicsOf({ times, x: places(x, dx), y: places(y, dy), facing: null, notes: [] });
  return rms([...own.speed].map((value, i) => value - (kinematics.speed[i] as number)));
}

/** The second of a recording that deviates most, in words. */
function worstStretch({ recording: { times }, dx, dy }: Understood): string {
  const sums = new Map<number, number>();
  for (const [i, time] of times.entries()) {
    const second = Math.floor(time - (times[0] as number));
    sums.set(second, (sums.get(second) ?? 0) + (dx[i] as number) ** 2 + (dy[i] as number) ** 2);
  }
  const [worst] = [...sums].toSorted((a, b) => b[1] - a[1])[0] ?? [0];
  return `, most after ${((times[0] as number) + worst).toFixed(0)} s`;
}
