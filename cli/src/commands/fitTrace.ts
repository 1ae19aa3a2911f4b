import {
  documentText,
  ended,
  fitRecording,
  newTuning,
  type RecordingReport,
  readRecording,
  shortNumber,
  significantPair,
  specOf,
  type TuningFile,
  titleOf,
  together,
  unitOf,
  withValue,
} from '@zygopod/core';
import { besideData, groundFile, readText, tuningFile, writeText } from '../files.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';
import { Progress } from '../progress.ts';

interface TraceOptions {
  trace: string[];
  targets?: string;
  tuning?: string;
  ground?: string;
  move?: string[];
  unit: string;
  yup?: boolean;
  start?: string;
  json?: boolean;
  output?: string;
}

/** Attempts that a recording usually takes. */
const USUAL = 12;
/** Bytes of a recording at most. */
const MOST = 512 * 1024 * 1024;

/** The size of a recording’s unit in that of the tuning. */
function scaleOf(unit: string): number {
  const [, name, size] = /^(px|m|tiles)(?::(\d+(?:\.\d+)?))?$/.exec(unit) ?? [];
  const scale = size === undefined ? 1 : Number(size);
  if (name === undefined || (name !== 'px' && size === undefined) || !(scale > 0))
    throw new Misuse(`--unit: found ${unit}, expected px, m:N or tiles:N with N px each`);
  return scale;
}

/** Finds the numbers of a recorded motion; prints them with their ranges, and what the recording can’t tell. */
export function fitTrace(options: TraceOptions): number {
  if (options.targets !== undefined || options.tuning !== undefined)
    throw new Misuse('fit: expected --trace, or --tuning and --targets; a tuning to start from is --start');
  if (options.move !== undefined) throw new Misuse('--move: a fit to a recording finds all numbers that it shows');
  if (options.ground !== undefined) {
    groundFile(options.ground);
    process.stderr.write('--ground: walls aren’t looked for; stretches along them may not be reproduced\n');
  }
  const base = options.start === undefined ? newTuning('From a recording') : tuningFile(options.start).file;
  const reading = { scale: scaleOf(options.unit), isYUp: options.yup ?? false };
  const reports: RecordingReport[] = [];
  for (const file of options.trace) {
    const recording = readRecording(readText(file, MOST), reading);
    if (typeof recording === 'string') throw new Misuse(`${file}: ${recording}`);
    const progress = new Progress(1);
    const report = ended(fitRecording(recording, base), ({ attempts }) => progress.at(attempts / (attempts + USUAL)));
    progress.end();
    if (typeof report === 'string') {
      process.stderr.write(`${file}: ${report}\n`);
      return FINDING;
    }
    reports.push(report);
  }
  const report = joined(reports, base);
  if (options.output !== undefined) writeText(options.output, documentText(report.tuning));
  const { set, held, unknown, residual, tuning, notes } = report;
  const text = options.json ? JSON.stringify({ set, held, unknown, residual, tuning }) : reportLines(report, base).join('\n');
  besideData(options.output).write(`${text}\n`);
  if (options.json) for (const note of notes) process.stderr.write(`${note}\n`);
  return GOOD;
}

/** The report of one recording, or of several together. */
function joined(reports: readonly RecordingReport[], base: TuningFile): RecordingReport {
  const [first] = reports as [RecordingReport];
  if (reports.length === 1) return first;
  const { set, held, unknown } = together(reports);
  const most = (of: 'place' | 'speed') => Math.max(...reports.map(({ residual }) => residual[of]));
  return {
    ...first,
    set,
    held,
    unknown,
    residual: { place: most('place'), speed: most('speed') },
    tuning: Object.entries(set).reduce((file, [path, value]) => withValue(file, path, value), base),
    notes: reports.flatMap(({ notes }) => notes),
  };
}

const rounded = (value: number) => shortNumber(Number(value.toPrecision(3)));

/** The report as people read it. */
function reportLines({ set, held, unknown, residual, notes }: RecordingReport, base: TuningFile): string[] {
  const unit = base.unit ?? 'px';
  return [
    ...Object.entries(set).map(([path, value]) => {
      const spec = specOf(path);
      const own = spec.kind === 'number' ? unitOf(spec.quantity, unit) : '';
      const range = held[path];
      const shown = typeof value === 'number' ? `${shortNumber(value)} ${own}`.trimEnd() : String(value);
      return `  ${titleOf(path).padEnd(24)} ${shown.padEnd(16)} ${range ? `${significantPair(range.low, range.high).join(' to ')}, ${range.evidence}` : ''}`.trimEnd();
    }),
    '',
    `  Places deviate by ${rounded(residual.place)} ${unit}, speeds by ${rounded(residual.speed)} ${unit}/s.`,
    `  Not shown by the recording: ${unknown.map(titleOf).join(', ')}.`,
    ...notes.map((note) => `  Note: ${note}.`),
  ];
}
