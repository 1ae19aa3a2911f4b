import {
  csvLine,
  drillReport,
  fileStem,
  inXml,
  judgeTargets,
  junitXml,
  metricKey,
  metricSpecOf,
  type TargetSet,
  unitOf,
} from '@zygopod/core';
import type { Judgement } from '../../workers/drills.ts';
import { download } from '../controls/download.ts';
import type { Report } from './reports.ts';
import { type Drawn, shapeMarkup, shapesOf } from './shapes.ts';

/** Inputs of an exported report. */
export interface Reported {
  report: Report;
  unit: string;
  targets: TargetSet;
  judgement: Judgement;
  /** The drills as they are drawn, in order. */
  drawn: readonly (Drawn & { title: string })[];
}

/** The metrics as lines of comma-separated values (RFC 4180): drill, metric, value, unit, band, whether it is in it. */
function csvOf({ judgement, targets, unit }: Reported): string {
  const lines = judgement.drills.flatMap(({ name, metrics, absent }) =>
    [
      ...Object.entries(metrics),
      ...Object.entries(absent).flatMap(([key, { applies }]) => (applies ? [[key, undefined] as const] : [])),
    ].map(([key, value]) => {
      const own = targets.targets.filter(({ metric, at }) => metricKey(metric, at) === key);
      const [judged] = judgeTargets(own, metrics, absent);
      const { words, quantity } = metricSpecOf(key);
      return [
        name,
        key,
        words,
        value ?? '',
        unitOf(quantity, unit),
        judged?.min ?? '',
        judged?.max ?? '',
        judged ? (judged.ok ? 'in' : 'out') : '',
      ];
    }),
  );
  const head = ['drill', 'metric', 'words', 'value', 'unit', 'min', 'max', 'in its band'];
  return [head, ...lines].map(csvLine).join('');
}

/** Room of a small multiple in the drawing of all, and how many stand in a row. */
const WIDE = 206;
const TALL = 104;
const ACROSS = 4;

/** The small multiples as one drawing, in the inks of the theme in force. */
function svgOf({ report: { tuning }, drawn }: Reported): string {
  const style = getComputedStyle(document.documentElement);
  const inked = (ink: string) => ink.replace(/var\((--[\w-]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim());
  const parts = drawn.map((one, i) => {
    const [x, y] = [(i % ACROSS) * WIDE + 8, Math.floor(i / ACROSS) * TALL + 34];
    const shapes = shapesOf(one, WIDE - 16, TALL - 32).map((shape) => shapeMarkup(shape, inked));
    return `<g transform="translate(${x} ${y})"><text y="10" font-size="12" font-weight="600">${inXml(one.title)}</text><g transform="translate(0 16)">${shapes.join('')}</g></g>`;
  });
  const size = `width="${ACROSS * WIDE + 8}" height="${Math.ceil(drawn.length / ACROSS) * TALL + 40}"`;
  const head = `<text x="8" y="20" font-size="14" font-weight="700">${inXml(tuning.name)}</text>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" ${size} font-family="sans-serif" fill="${style.getPropertyValue('--ink').trim()}">${head}${parts.join('')}</svg>\n`;
}

/** The output of `./zygopod drill --json`, with its revision, ground, targets and core version. */
function jsonOf({ report, targets, judgement }: Reported): string {
  const { tuning, ground, changedSince, core } = report;
  const judged = judgeTargets(targets.targets, judgement.metrics, judgement.absent);
  const of = {
    revision: tuning.revision,
    ...(changedSince ? { changedSince } : {}),
    groundRevision: ground.revision,
    judgedBy: targets.name,
    core,
    at: new Date().toISOString(),
  };
  return `${JSON.stringify({ ...of, ...drillReport({ ...judgement, tuning: tuning.name, ground: ground.name, targets: judged }) }, null, 2)}\n`;
}

/** Formats of an exported report. */
export const forms = ['JSON', 'CSV', 'JUnit', 'SVG'] as const;
export type Form = (typeof forms)[number];

/** Gives a report as a file. */
export function exportReport(form: Form, reported: Reported): void {
  const { report, targets, judgement } = reported;
  const tuning = report.tuning.name;
  const stem = `${fileStem(tuning)}.drills`;
  if (form === 'JSON') download(`${stem}.json`, jsonOf(reported));
  else if (form === 'CSV') download(`${stem}.csv`, csvOf(reported), 'text/csv');
  else if (form === 'SVG') download(`${stem}.svg`, svgOf(reported), 'image/svg+xml');
  else {
    const judged = judgeTargets(targets.targets, judgement.metrics, judgement.absent);
    const xml = junitXml(tuning, judgement.drills, judged, judgement.milliseconds / 1000);
    download(`${stem}.xml`, xml, 'application/xml');
  }
}
