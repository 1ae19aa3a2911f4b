import { axisLabel, type MetricKey, metricSpecOf, pathOf, type SweepAxis, shortNumber, specOf, unitOf } from '@zygopod/core';
import { readingOf } from '../judging/readings.ts';
import type { Shown } from './choice.ts';

/** The name of what is shown. */
export const shownWords = (shown: Shown): string => (shown === 'met' ? 'All targets met' : metricSpecOf(shown).words);

/** A value of an axis with its unit. */
export function valueWords(axis: SweepAxis, value: number | boolean | string, unit: string): string {
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (typeof value === 'string') return value;
  return `${shortNumber(Number(value.toPrecision(4)), 4)} ${axisUnit(axis, unit)}`.trim();
}

/** The unit of an axis; empty for ratios and options. */
export function axisUnit(axis: SweepAxis, unit: string): string {
  const spec = specOf(pathOf(axis));
  return spec.kind !== 'number' || axis.path.endsWith('.times') ? '' : unitOf(spec.quantity, unit);
}

/** The title of an axis: its parameter and unit. */
export function axisTitle(axis: SweepAxis, unit: string): string {
  const own = axisUnit(axis, unit);
  return own === '' ? axisLabel(axis.path) : `${axisLabel(axis.path)}, ${own}`;
}

/** A metric's value with its unit. */
export const metricWords = (key: MetricKey, value: number | undefined, unit: string): string =>
  value === undefined || Number.isNaN(value) ? '–' : `${readingOf(value)} ${unitOf(metricSpecOf(key).quantity, unit)}`.trim();

/** The values of a place on the axes, in words: `Walk 188 px/s, Slows at 2050 px/s²`. */
export const placeWords = (axes: readonly SweepAxis[], values: readonly (number | boolean | string)[], unit: string): string =>
  axes.map((axis, i) => `${axisLabel(axis.path)} ${valueWords(axis, values[i] ?? '', unit)}`).join(', ');

/** A number of a tuning in words: `Decelerate 1780 px/s²`. */
export function numberWords(path: string, value: number, unit: string): string {
  const axis: SweepAxis = { path, values: [], isLog: false };
  return `${axisLabel(path)} ${valueWords(axis, value, unit)}`;
}
