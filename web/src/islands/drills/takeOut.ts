import { judgeTargets, junitXml, metricKey, metricSpecOf, type TargetSet, unitOf } from '@zygopod/core';
import type { Judgement } from '../../workers/drills.ts';
import { download, fileStem } from '../controls/download.ts';

/** What a report is of. */
export interface Reported {
  tuning: string;
  unit: string;
  revision: number;
  /** Whether it has changed since that revision. */
  isChanged: boolean;
  targets: TargetSet;
  judgement: Judgement;
}

const cell = (value: string | number) => `"${String(value).replaceAll('"', '""')}"`;

/** The metrics as lines of comma-separated values (RFC 4180): drill, metric, value, unit, band, whether it is in it. */
function csvOf({ judgement, targets, unit }: Reported): string {
  const lines = judgement.drills.flatMap(({ name, metrics }) =>
    Object.entries(metrics).map(([key, value]) => {
      const own = targets.targets.filter(({ metric, at }) => metricKey(metric, at) === key);
      const [judged] = judgeTargets(own, metrics);
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
  return [head, ...lines].map((line) => `${line.map(cell).join(',')}\r\n`).join('');
}

/** Room of a small multiple in the drawing of all, and how many stand in a row. */
const WIDE = 206;
const TALL = 104;
const ACROSS = 4;

/** The small multiples of the page as one drawing, in the inks of the theme in force. */
function svgOf({ tuning }: Reported): string {
  const style = getComputedStyle(document.documentElement);
  const inked = (markup: string) => markup.replace(/var\((--[\w-]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim());
  const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  const drawn = [...document.querySelectorAll<HTMLElement>('[data-drill]')].flatMap((item) => {
    const picture = item.querySelector('svg');
    const title = item.firstElementChild?.firstChild?.textContent ?? '';
    return picture ? [{ title, markup: picture.innerHTML }] : [];
  });
  const rows = Math.ceil(drawn.length / ACROSS);
  const parts = drawn.map(({ title, markup }, i) => {
    const [x, y] = [(i % ACROSS) * WIDE + 8, Math.floor(i / ACROSS) * TALL + 34];
    return `<g transform="translate(${x} ${y})"><text y="10" font-size="12" font-weight="600">${escaped(title)}</text><g transform="translate(0 16)">${inked(markup)}</g></g>`;
  });
  const size = `width="${ACROSS * WIDE + 8}" height="${rows * TALL + 40}"`;
  const head = `<text x="8" y="20" font-size="14" font-weight="700">${escaped(tuning)}</text>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" ${size} font-family="sans-serif" fill="${style.getPropertyValue('--ink').trim()}">${head}${parts.join('')}</svg>\n`;
}

function jsonOf({ tuning, revision, isChanged, targets, judgement }: Reported): string {
  const told = {
    tuning,
    revision,
    ...(isChanged ? { changedSince: true } : {}),
    targets: judgeTargets(targets.targets, judgement.metrics),
    judgedBy: targets.name,
    at: new Date().toISOString(),
    metrics: judgement.metrics,
    drills: judgement.drills.map(({ name, metrics, not }) => ({ name, metrics, ...(not === null ? {} : { notRun: not }) })),
    snags: judgement.snags,
  };
  return `${JSON.stringify(told, null, 2)}\n`;
}

/** The forms in which a report is taken out. */
export const forms = ['JSON', 'CSV', 'JUnit', 'SVG'] as const;
export type Form = (typeof forms)[number];

/** Gives a report as a file. */
export function takeReportOut(form: Form, report: Reported): void {
  const { tuning, targets, judgement } = report;
  const stem = `${fileStem(tuning)}.drills`;
  if (form === 'JSON') download(`${stem}.json`, jsonOf(report));
  else if (form === 'CSV') download(`${stem}.csv`, csvOf(report), 'text/csv');
  else if (form === 'SVG') download(`${stem}.svg`, svgOf(report), 'image/svg+xml');
  else {
    const xml = junitXml(tuning, judgement.drills, judgeTargets(targets.targets, judgement.metrics), judgement.milliseconds / 1000);
    download(`${stem}.xml`, xml, 'application/xml');
  }
}
