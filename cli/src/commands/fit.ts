import {
  axisLabel,
  documentText,
  ended,
  type FitReport,
  fitFaults,
  fitTargets,
  type MoveRequest,
  metricSpecOf,
  numberAt,
  numberSpec,
  resolveTuning,
  shortNumber,
  type Tuning,
  unitOf,
  withValue,
} from '@zygopod/core';
import { besideData, groundFile, targetsFile, tuningFile, writeText } from '../files.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';
import { Progress } from '../progress.ts';
import { band, valueWords } from './drill.ts';

/** Measurements that a fit usually takes. */
const USUAL = 200;

interface FitOptions {
  tuning?: string;
  targets?: string;
  ground?: string;
  move?: string[];
  json?: boolean;
  output?: string;
}

/** Reads `ramp.decelerate` or `ramp.decelerate=300:4800`. */
function moveOf(text: string): MoveRequest {
  const [path = '', range, ...more] = text.split('=').map((part) => part.trim());
  if (range === undefined) return { path };
  const ends = range.split(':').map((end) => (end === '' ? Number.NaN : Number(end)));
  if (more.length > 0 || ends.length !== 2) throw new Misuse(`--move ${text}: expected PATH or PATH=MIN:MAX`);
  return { path, min: ends[0], max: ends[1] };
}

/** Fits a tuning to targets; prints what changes, how well it is held, and what stands against what. */
export function fit(options: FitOptions): number {
  if (options.tuning === undefined || options.targets === undefined) throw new Misuse('fit: expected --tuning and --targets, or --trace');
  const tuning = tuningFile(options.tuning);
  const { targets } = targetsFile(options.targets);
  const ground = options.ground === undefined ? null : groundFile(options.ground);
  const moves = (options.move ?? [])
    .flatMap((text) => text.split(','))
    .filter((text) => text.trim() !== '')
    .map(moveOf);
  const request = { tuning, targets, ground, moves };
  const faults = fitFaults(request);
  if (faults.length > 0) throw new Misuse(faults.map((fault) => `fit: ${fault}`).join('\n'));
  const progress = new Progress(1);
  // How many measurements it takes isn't known before: the bar nears its end.
  const report = ended(fitTargets(request), ({ measurements }) => progress.at(measurements / (measurements + USUAL)));
  progress.end();
  const file = Object.entries(report.set).reduce((one, [path, value]) => withValue(one, path, value), tuning.file);
  if (options.output !== undefined) writeText(options.output, documentText(file));
  const text = options.json ? JSON.stringify(report) : reportLines(report, tuning).join('\n');
  besideData(options.output).write(`${text}\n`);
  return report.met ? GOOD : FINDING;
}

/** A number’s unit; a factor has none. */
const unitAt = (path: string, length: string) => (path.endsWith('.times') ? '' : unitOf(numberSpec(path).quantity, length));

const rounded = (value: number) => shortNumber(Number(value.toPrecision(3)));

/** The report as people read it. */
function reportLines({ met, set, held, free, conflicts, metrics }: FitReport, { file, parameters }: Tuning): string[] {
  const read = resolveTuning(Object.entries(set).reduce((one, [path, value]) => withValue(one, path, value), file));
  const after = read.ok ? read.value.parameters : parameters;
  const valueLine = (path: string) => {
    const unit = unitAt(path, file.unit);
    const range = held[path];
    const change = Object.hasOwn(set, path)
      ? `${shortNumber(numberAt(parameters, path))} → ${shortNumber(numberAt(after, path))} ${unit}`.trimEnd()
      : 'stays';
    const holds = range ? `holds from ${rounded(range.low)} to ${rounded(range.high)}` : free.includes(path) ? 'any value does' : '';
    return `  ${axisLabel(path).padEnd(24)} ${change.padEnd(28)} ${holds}`.trimEnd();
  };
  const missed = metrics.filter(({ ok }) => ok === false).length;
  const values = (key: string, value: number | null) => (value === null ? '–' : valueWords(key, value, file.unit));
  return [
    met ? `All ${metrics.length} targets are met.` : `${missed} of ${metrics.length} targets can’t be met.`,
    ...[...new Set([...Object.keys(set), ...Object.keys(held), ...free])].map(valueLine),
    '',
    ...metrics.map(
      ({ name, before, after: now, min, max, ok }) =>
        `  ${metricSpecOf(name).words.padEnd(24)} ${`${values(name, before)} → ${values(name, now)}`.padEnd(28)} ${ok ? 'in' : 'OUT of'} ${band({ min, max })}`,
    ),
    ...(conflicts.length > 0 ? ['', ...conflicts.map(({ why }) => `  ${why}.`)] : []),
  ];
}
