import {
  absencesOf,
  bySeverity,
  type DrillResult,
  drillReport,
  drillSnags,
  groundSnags,
  type JudgedTarget,
  judgeTargets,
  junitXml,
  type Metrics,
  metricKey,
  metricSpecOf,
  metricsOf,
  printable,
  runDrills,
  type Snag,
  shortNumber,
  snagWords,
  tuningSnags,
  unitOf,
} from '@zygopod/core';
import { besideData, groundFile, targetsFile, tuningFile, writeText } from '../files.ts';
import { FINDING, GOOD } from '../misuse.ts';

interface DrillOptions {
  tuning: string;
  ground?: string;
  targets?: string;
  json?: boolean;
  junit?: string;
}

const seconds = (milliseconds: number) => `${(milliseconds / 1000).toFixed(2)} s`;

/** A value with its unit. */
export const valueWords = (key: string, value: number, unit: string): string =>
  `${shortNumber(value)} ${unitOf(metricSpecOf(key).quantity, unit)}`.trimEnd();

/** The band of a target in words. */
export const band = ({ min, max }: Pick<JudgedTarget, 'min' | 'max'>): string =>
  min === undefined
    ? `at most ${shortNumber(max as number)}`
    : max === undefined
      ? `at least ${shortNumber(min)}`
      : `${shortNumber(min)} to ${shortNumber(max)}`;

/** A snag in a line. */
export const snagLine = ({ id, severity, evidence, mend, drill, time }: Snag): string =>
  `  ${severity.padEnd(5)} ${snagWords[id][0]}: ${evidence}${drill ? `, in ${drill}` : ''}${time === undefined ? '' : ` at ${time.toFixed(2)} s`} (${id})${mend ? `\n        mend: ${mend.words}` : ''}`;

/** A tuning's drills as lines: each with its metrics, the main one first, and with the target that judges it. */
export function drillTable(results: readonly DrillResult[], targets: readonly JudgedTarget[], unit: string): string[] {
  const judged = new Map(targets.map((target) => [metricKey(target.metric, target.at) as string, target]));
  return results.flatMap(({ drill, not, metrics, cutShort }) => {
    if (not !== null) return [`${drill.title.padEnd(22)} – ${not}`];
    const main = metricKey(drill.main, drill.at);
    const keys = Object.keys(metrics).sort((a, b) => Number(b === main) - Number(a === main));
    const lines = keys.map((key, i) => {
      const target = judged.get(key);
      const mark = target ? (target.ok ? `in ${band(target)}` : `OUT of ${band(target)}`) : '';
      const value = valueWords(key, metrics[key as keyof Metrics] as number, unit);
      return `${(i === 0 ? drill.title : '').padEnd(22)} ${metricSpecOf(key).words.padEnd(26)} ${value.padStart(14)}  ${mark}`.trimEnd();
    });
    return [...(lines.length > 0 ? lines : [`${drill.title.padEnd(22)} has no result`]), ...(cutShort ? [`  ${cutShort}`] : [])];
  });
}

/** Runs the drills of a tuning, compares them with targets, and finds snags; exit 1 if a target is missed. */
export function drill(options: DrillOptions): number {
  const tuning = tuningFile(options.tuning);
  const ground = options.ground === undefined ? undefined : groundFile(options.ground);
  const set = options.targets === undefined ? null : targetsFile(options.targets);
  const begun = performance.now();
  const results = [...runDrills(tuning.parameters, { ground: ground ?? null })];
  const took = performance.now() - begun;
  const metrics = metricsOf(results);
  const targets = judgeTargets(set?.targets ?? [], metrics, absencesOf(results));
  const snags = bySeverity([
    ...tuningSnags(tuning, ground),
    ...(ground ? groundSnags(ground, tuning.parameters) : []),
    ...drillSnags(results),
  ]);
  const out = besideData(options.junit);
  if (options.json)
    out.write(
      `${printable(JSON.stringify(drillReport({ tuning: tuning.file.name, ground: ground?.name ?? null, drills: results.map((one) => ({ ...one, name: one.drill.name })), metrics, targets, snags })))}\n`,
    );
  else {
    const unit = tuning.file.unit ?? 'px';
    const missed = targets.filter(({ ok }) => ok === false).length;
    const [absent, unmeasured] = [
      targets.filter(({ ok }) => ok === null),
      targets.filter(({ ok, value }) => ok === false && value === null),
    ];
    const lines = [
      `${tuning.file.name}${set ? `, judged by ${set.name}` : ''}`,
      '',
      ...drillTable(results, targets, unit),
      '',
      ...(set ? [`${targets.length - missed - absent.length} in their band, ${missed} out, ${absent.length} not measured`] : []),
      ...unmeasured.map(({ metric, at, why }) => `  out, could not be measured: ${metricKey(metric, at)}: ${why}`),
      ...absent.map(({ metric, at, why }) => `  not measured: ${metricKey(metric, at)}${why ? `: ${why}` : ''}`),
      `${results.filter(({ not }) => not === null).length} drills in ${seconds(took)}`,
      ...(snags.length > 0 ? ['', ...snags.map(snagLine)] : []),
    ];
    out.write(`${printable(lines.join('\n'))}\n`);
  }
  // Last, so that the findings are printed even if the file can't be written.
  if (options.junit !== undefined)
    writeText(
      options.junit,
      junitXml(
        tuning.file.name,
        results.map(({ drill: { name }, metrics: own, absent }) => ({ name, metrics: own, absent })),
        targets,
        took / 1000,
      ),
    );
  const faulty = targets.flatMap(({ fault, metric }, i) => (fault ? [`${options.targets}: target ${i + 1}, ${metric}: ${fault}\n`] : []));
  if (faulty.length > 0) process.stderr.write(printable(faulty.join('')));
  return faulty.length > 0 || targets.some(({ ok }) => ok === false) ? FINDING : GOOD;
}
