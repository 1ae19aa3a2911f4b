import {
  differences,
  type MetricName,
  metricSpecs,
  outAndBack,
  type Parting,
  partings,
  rerun,
  type Side,
  shortNumber,
  specOf,
  type Tuning,
  traceMetrics,
  unitOf,
  valueWords,
} from '@zygopod/core';
import { groundFile, tapeFile, tuningFile } from '../files.ts';
import { GOOD } from '../misuse.ts';

interface CompareOptions {
  ground: string;
  tape?: string;
  json?: boolean;
}

const momentLine = ({ time, words }: Parting) => `${time.toFixed(2).padStart(8)} s  ${words}`;

/** Compares two tunings: what differs, the effects with the same hands on the same ground, and where the two diverge. */
export function compare(pathA: string, pathB: string, options: CompareOptions): number {
  const tunings = [tuningFile(pathA), tuningFile(pathB)] as const;
  const ground = groundFile(options.ground);
  const tape = options.tape === undefined ? outAndBack : tapeFile(options.tape);
  const found = differences(...tunings);
  const sides = tunings.map((tuning: Tuning) => ({
    name: tuning.file.name,
    parameters: tuning.parameters,
    trace: rerun(tape, tuning.parameters, ground).trace,
  })) as [Side, Side];
  const [left, right] = sides.map(({ trace, parameters }) => traceMetrics(trace, parameters));
  const moments = partings(...sides, ground.unit);
  const metrics = (Object.keys(metricSpecs) as MetricName[])
    .filter((name) => left?.[name] !== undefined || right?.[name] !== undefined)
    .map((name) => ({ name, a: left?.[name] ?? null, b: right?.[name] ?? null }));
  if (options.json)
    process.stdout.write(`${JSON.stringify({ parameters: found.map(({ path, a, b }) => ({ path, a, b })), metrics, moments })}\n`);
  else process.stdout.write(`${[...table(tunings, found, metrics, ground.unit), '', ...moments.map(momentLine)].join('\n')}\n`);
  return GOOD;
}

function table(
  [a, b]: readonly [Tuning, Tuning],
  parameters: ReturnType<typeof differences>,
  metrics: { name: MetricName; a: number | null; b: number | null }[],
  unit: string,
): string[] {
  const row = (what: string, left: string, right: string, in_ = '') =>
    `${what.padEnd(30)} ${left.padStart(22)} ${right.padStart(22)}  ${in_}`.trimEnd();
  const number = (value: number | null) => (value === null ? '–' : shortNumber(value));
  return [
    row('', a.file.name.slice(0, 22), b.file.name.slice(0, 22)),
    ...(parameters.length === 0 ? ['no parameter differs'] : []),
    ...parameters.map(({ path, a: left, b: right, writtenA, writtenB }) => {
      const spec = specOf(path);
      return row(path, valueWords(left, writtenA), valueWords(right, writtenB), spec.kind === 'number' ? unitOf(spec.quantity, unit) : '');
    }),
    '',
    ...metrics.map(({ name, a: left, b: right }) =>
      row(metricSpecs[name].words, number(left), number(right), unitOf(metricSpecs[name].quantity, unit)),
    ),
  ];
}
