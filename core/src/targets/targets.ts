import { z } from 'zod';
import { type Format, readDocument, readJson } from '../document/document.ts';
import type { Reading } from '../document/fault.ts';
import type { Absences } from '../measure/drills/absences.ts';
import { GRAZES, type Metrics, metricKey, metricOfKey, metricSpecs } from '../measure/metricSpecs.ts';

const number = z.number().min(-1e9).max(1e9);

const target = z
  .strictObject({
    /** The name of a metric; an unknown one is reported when the target is judged. */
    metric: z.string().regex(/^[A-Za-z]\w{0,60}$/, 'the name of a metric'),
    /** The angle, degrees, or the gate, if the metric has one. */
    at: z.number().int().min(0).max(500).optional(),
    min: number.optional(),
    max: number.optional(),
  })
  .refine(({ min, max }) => min !== undefined || max !== undefined, 'min, max or both')
  .refine(({ min, max }) => min === undefined || max === undefined || min <= max, 'a min that is not above the max')
  .refine(({ metric, at }) => at === undefined || metric === 'slideKept' || metric === 'lapSplit', 'at with slideKept or lapSplit alone')
  .refine(({ metric, at }) => metric !== 'slideKept' || at === undefined || at <= 90, { path: ['at'], message: 'an angle of at most 90°' });

/** The band in which a metric is good; an end that is absent is open. */
export type Target = z.infer<typeof target>;

const schema = z.strictObject({
  format: z.literal('zygopod/targets'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(120).default('Targets'),
  note: z.string().max(2000).default(''),
  targets: z.array(target).max(200),
});

/** A named set of targets, used by any tuning. */
export type TargetSet = z.infer<typeof schema>;

/** The format of a target set. */
export const targetsFormat: Format<TargetSet> = { format: 'zygopod/targets', version: 1, migrations: [], schema };

/** The faults of well-formed targets, by their places: names of no metric, and bands that leave no value in both. */
export function targetFaults(targets: readonly Target[]): (string | null)[] {
  const isKnown = ({ metric }: Target) => Object.hasOwn(metricSpecs, metric);
  const key = ({ metric, at }: Target) => metricKey(metric, at);
  return targets.map((one, i) => {
    if (!isKnown(one)) return `no metric is called ${one.metric}`;
    if (one.metric === 'lapSplit' && one.at === 0) return 'gates are counted from 1';
    if (one.metric === 'slideKept' && one.at !== undefined && !GRAZES.includes(one.at)) return `walls are met at ${GRAZES.join('°, ')}°`;
    const apart = ({ min = -Infinity, max = Infinity }: Target) => min > (one.max ?? Infinity) || max < (one.min ?? -Infinity);
    const other = targets.findIndex((another, j) => j !== i && isKnown(another) && key(another) === key(one) && apart(another));
    return other < 0 ? null : `no value is in this band and in that of target ${other + 1}`;
  });
}

/** Reads a parsed JSON value as a target set. */
export function readTargets(value: unknown): Reading<TargetSet> {
  return readDocument(targetsFormat, value);
}

/** Reads the text of a `*.targets.json`. */
export function parseTargets(text: string): Reading<TargetSet> {
  const json = readJson(text);
  return json.ok ? readTargets(json.value) : json;
}

/**
 * A target compared with metrics: the value, and whether it is in its band. Without a value it is missed if the tuning has its subject but it
 * couldn't be measured, and neither met nor missed (null) if it does not apply.
 */
export interface JudgedTarget extends Target {
  value: number | null;
  ok: boolean | null;
  /** The reason for a missing value; null if there is a value, or no known reason. */
  why: string | null;
  /** The fault of the target itself; null if there is none. It is judged all the same, as far as possible. */
  fault: string | null;
}

/** Slack on the ends of a band, as a share of the larger of its end and 1e-9: a value that was written with its own digits is in it. */
const SLACK = 1e-9;

export function judgeTargets(targets: readonly Target[], metrics: Metrics, absent: Absences = {}): JudgedTarget[] {
  const faults = targetFaults(targets);
  return targets.map((one, i) => {
    const fault = faults[i] ?? null;
    const key = metricKey(one.metric, one.at);
    const value = metrics[key] ?? null;
    const absence = absent[key];
    if (value === null) return { ...one, value, ok: absence?.applies ? false : null, why: absence?.why ?? null, fault };
    const [low, high] = [one.min ?? -Infinity, one.max ?? Infinity];
    return {
      ...one,
      value,
      why: null,
      fault,
      ok: value >= low - SLACK * Math.abs(low || 1) && value <= high + SLACK * Math.abs(high || 1),
    };
  });
}

/** Digits that the ends of a band are written with. */
const DIGITS = 4;

/** Bands of a given relative width round the present metrics, to keep them. A metric of 0 may rise to a thousandth. */
export function keepAsTargets(metrics: Metrics, share = 0.05): Target[] {
  const rounded = (value: number, mode: 'floor' | 'ceil') => {
    if (value === 0) return 0;
    const scale = 10 ** (DIGITS - 1 - Math.floor(Math.log10(Math.abs(value))));
    return Math[mode](value * scale) / scale;
  };
  return Object.entries(metrics).flatMap(([key, value]): Target[] => {
    if (value === undefined) return [];
    const room = Math.abs(value) * share;
    const band = value === 0 ? { max: 0.001 } : { min: rounded(value - room, 'floor'), max: rounded(value + room, 'ceil') };
    return [{ ...metricOfKey(key), ...band }];
  });
}
