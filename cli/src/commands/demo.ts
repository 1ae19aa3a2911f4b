import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { bySeverity, drillSnags, parseTape, printable, rerun, runDrills, traceMetrics, tuningSnags } from '@zygopod/core';
import { groundFile, readText, tuningFile } from '../files.ts';
import { GOOD } from '../misuse.ts';
import { root } from '../root.ts';
import { drillTable, snagLine, valueWords } from './drill.ts';

/** The tapes of the demo, and the tunings and grounds that they are made for. */
const drivenWith: Readonly<Record<string, readonly [string, string]>> = {
  'boardwalk-lap': ['carrier-day-boots', 'boardwalk'],
  'gap-run': ['carrier-day-boots', 'boardwalk'],
  'sprint-to-empty': ['carrier-day-boots', 'boardwalk'],
  'flats-clicks': ['ferry-hand', 'tidal-flats'],
  'cell-walk': ['sorting-clerk', 'sorting-floor'],
};

const demo = (name: string) => join(root, 'demo', name);

/** All tunings of the demo: their drills and snags; and its tapes: what they measure. Needs no server. */
export function demoReport(options: { json?: boolean }): number {
  const files = readdirSync(demo('')).filter((name) => name.endsWith('.tuning.json'));
  const tunings = files.map((file) => {
    const tuning = tuningFile(demo(file));
    const results = [...runDrills(tuning.parameters)];
    return { tuning, results, snags: bySeverity([...tuningSnags(tuning), ...drillSnags(results)]) };
  });
  const tapes = Object.entries(drivenWith).map(([name, [tuning, ground]]) => {
    const read = parseTape(readText(demo(`${name}.tape.json`)));
    if (!read.ok) throw new Error(`the demo’s ${name} cannot be read`);
    const on = groundFile(demo(`${ground}.ground.json`));
    const { parameters } = tuningFile(demo(`${tuning}.tuning.json`));
    const { trace } = rerun(read.value, parameters, on);
    return { name: read.value.name, tuning, ground: on.name, unit: on.unit, metrics: traceMetrics(trace, parameters) };
  });
  if (options.json) {
    const valueWords = tunings.map(({ tuning, results, snags }) => ({
      tuning: tuning.file.name,
      drills: results.map(({ drill: { name }, not, metrics }) => ({ name, metrics, ...(not === null ? {} : { notRun: not }) })),
      snags,
    }));
    process.stdout.write(`${printable(JSON.stringify({ tunings: valueWords, tapes }))}\n`);
    return GOOD;
  }
  const lines = tunings.flatMap(({ tuning, results, snags }) => [
    tuning.file.name,
    '',
    ...drillTable(
      results.filter(({ not }) => not === null),
      [],
      tuning.file.unit ?? 'px',
    ),
    ...(snags.length > 0 ? ['', `${snags.length} snags`, ...snags.map(snagLine)] : ['', 'no snags']),
    '',
    '',
  ]);
  const driven = tapes.flatMap(({ name, tuning, ground, unit, metrics }) => [
    `${name}: ${tuning} on ${ground}`,
    ...Object.entries(metrics).map(([key, value]) => `  ${key.padEnd(20)} ${valueWords(key, value as number, unit).padStart(16)}`),
    '',
  ]);
  process.stdout.write(`${printable([...lines, ...driven].join('\n'))}\n`);
  return GOOD;
}
