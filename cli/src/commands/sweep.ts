import { type MetricKey, readAxis, Sweep, type SweepAxis, sweepCsv, sweepFaults, sweepReport, type Target } from '@zygopod/core';
import { addressOf } from '../files/runningAddress.ts';
import { groundFile, tapeFile, targetsFile, tuningFile, writeText } from '../files.ts';
import { GOOD, Misuse } from '../misuse.ts';
import { Progress } from '../progress.ts';
import { runSweep } from '../sweep/pool.ts';
import { runQueued } from '../sweep/queued.ts';

interface SweepOptions {
  tuning: string;
  ground?: string;
  tape?: string[];
  over: string[];
  metric?: string;
  targets?: string;
  json?: boolean;
  csv?: boolean;
  output?: string;
  queue?: boolean;
  address?: string;
}

/** Measures a plane of tunings, and writes it as CSV or JSON. */
export async function sweep(options: SweepOptions): Promise<number> {
  if (options.json && options.csv) throw new Misuse('--json and --csv: expected one of them');
  const tuning = tuningFile(options.tuning);
  const axes = options.over.map((text): SweepAxis => {
    const axis = readAxis(text, tuning.file);
    if (typeof axis === 'string') throw new Misuse(`--over: ${axis}`);
    return axis;
  });
  const metrics = (options.metric ?? '')
    .split(/,(?![^(]*\))/)
    .map((key) => key.trim())
    .filter((key) => key !== '') as MetricKey[];
  const targets: readonly Target[] = options.targets === undefined ? [] : targetsFile(options.targets).targets;
  const ground = options.ground === undefined ? null : groundFile(options.ground);
  const tapes = (options.tape ?? []).map(tapeFile);
  const definition = { tuning, axes, metrics, targets, ground, tapes };
  const faults = sweepFaults(definition);
  if (faults.length > 0) throw new Misuse(faults.map((fault) => `sweep: ${fault}`).join('\n'));
  const swept = new Sweep(definition);
  const progress = new Progress(swept.cells);
  const begun = performance.now();
  if (options.queue) {
    const request = {
      tuning: tuning.file,
      ground,
      tapes,
      over: options.over,
      metrics,
      targets,
    };
    await runQueued(
      swept,
      request,
      addressOf(options.address),
      (done) => progress.at(done),
      (line) => process.stderr.write(`${line}\n`),
    );
  } else await runSweep(swept, (done) => progress.at(done));
  progress.end();
  const seconds = (performance.now() - begun) / 1000;
  const text = options.csv ? [...sweepCsv(swept)].join('') : `${JSON.stringify(sweepReport(swept, seconds))}\n`;
  if (options.output === undefined || options.output === '-') process.stdout.write(text);
  else writeText(options.output, text);
  const holes = swept.holes.length > 0 ? `, ${swept.holes.length} of them no valid tuning` : '';
  process.stderr.write(`${swept.cells} tunings${holes}, ${seconds.toFixed(1)} s\n`);
  return GOOD;
}
