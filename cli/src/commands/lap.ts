import {
  defaultOptions,
  deviceFault,
  documentText,
  driveLaps,
  type PilotDevice,
  type PilotLap,
  type PilotLine,
  pilotDevices,
  pilotLines,
  type SprintPolicy,
  sprintPolicies,
} from '@zygopod/core';
import { besideData, groundFile, tuningFile, writeText } from '../files.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';

interface LapOptions {
  tuning: string;
  ground: string;
  device?: string;
  reaction?: string;
  lookAhead?: string;
  line?: string;
  sprint?: string;
  jitter?: string;
  laps?: string;
  seed?: string;
  json?: boolean;
  output?: string;
}

/** Maximum number of laps. */
const MOST_LAPS = 10_000;

/** A number of an option within a range. */
function numberOf(option: string, text: string | undefined, low: number, high: number, fallback: number): number {
  if (text === undefined) return fallback;
  const value = text.trim() === '' ? Number.NaN : Number(text);
  if (!(value >= low && value <= high)) throw new Misuse(`--${option}: found ${text}, expected a number from ${low} to ${high}`);
  return value;
}

/** An option that is one of some words. */
function oneOf<T extends string>(option: string, text: string | undefined, words: readonly T[], fallback: T): T {
  if (text === undefined) return fallback;
  if (!words.includes(text as T)) throw new Misuse(`--${option}: found ${text}, expected one of ${words.join(', ')}`);
  return text as T;
}

const seconds = (value: number): string => `${value.toFixed(2)} s`;

/** A lap in words, line by line. */
function lapLines(lap: PilotLap, unit: string): string[] {
  const splits = lap.gates.map((time, i) => time - (lap.gates[i - 1] ?? 0));
  return [
    lap.finished
      ? `finished in ${seconds(lap.time)}`
      : `not finished: ${lap.why}, at ${lap.where?.map((value) => value.toFixed(0)).join(', ')}`,
    `gates        ${splits.map((split) => split.toFixed(2)).join(', ') || 'none'} s`,
    `touches      ${lap.touches}, ${seconds(lap.contactTime)} in contact`,
    `corrections  ${lap.corrections.toFixed(1)} a second`,
    `distance     ${lap.distance.toFixed(0)} ${unit} on a path of ${lap.path.toFixed(0)} ${unit}`,
    `sprint       ${(100 * lap.sprint).toFixed(0)} % of the time`,
  ];
}

/** Has the pilot drive the course of a ground. Exit 1 if a lap isn't finished. */
export function lap(options: LapOptions): number {
  const { parameters, file } = tuningFile(options.tuning);
  const ground = groundFile(options.ground);
  const device = oneOf<PilotDevice>('device', options.device, pilotDevices, defaultOptions(parameters).device);
  const fault = deviceFault(parameters, device);
  if (fault) throw new Misuse(`--device: found ${device}: ${fault}`);
  const count = numberOf('laps', options.laps, 1, MOST_LAPS, 1);
  const seed = numberOf('seed', options.seed, 0, 2 ** 31 - 1, 1);
  if (!Number.isInteger(count)) throw new Misuse(`--laps: found ${options.laps}, expected a whole number`);
  if (!Number.isInteger(seed)) throw new Misuse(`--seed: found ${options.seed}, expected a whole number`);
  const { laps, spread, tape } = driveLaps(
    parameters,
    ground,
    {
      device,
      reaction: numberOf('reaction', options.reaction, 0, 2, 0.2),
      lookAhead: numberOf('look-ahead', options.lookAhead, 0, 5, 0.3),
      line: oneOf<PilotLine>('line', options.line, pilotLines, 'middle'),
      sprint: oneOf<SprintPolicy>('sprint', options.sprint, sprintPolicies, 'straights'),
      jitter: numberOf('jitter', options.jitter, 0, 1, 0),
      seed,
    },
    count,
  );
  const first = laps[0] as PilotLap;
  if (options.output) {
    const name = `Lap of ${ground.name.slice(0, 40)} with ${file.name.slice(0, 60)}`;
    writeText(options.output, documentText({ ...tape, name }));
  }
  const out = besideData(options.output);
  if (options.json) out.write(`${JSON.stringify(count > 1 ? { ...first, laps, spread } : first)}\n`);
  else {
    const lines = lapLines(first, ground.unit);
    if (count > 1 && spread.time) {
      const finished = laps.filter((one) => one.finished).length;
      lines.push(
        `laps         ${finished} of ${count} finished, median ${seconds(spread.time.median)}, 10 % to 90 %: ${seconds(spread.time.p10)} to ${seconds(spread.time.p90)}`,
      );
    }
    out.write(`${lines.join('\n')}\n`);
  }
  return laps.every(({ finished }) => finished) ? GOOD : FINDING;
}
