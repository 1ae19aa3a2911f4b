import {
  isLapDetail,
  judgeTargets,
  type Metrics,
  metricKey,
  metricSpecOf,
  shortNumber,
  significant,
  type Target,
  unitOf,
} from '@zygopod/core';

/** A metric that differs between two tunings. */
export interface Moved {
  key: keyof Metrics;
  words: string;
  /** `2.96 → 2.41 px` */
  change: string;
  /** True if it is in its band now; null if it has none. */
  isIn: boolean | null;
  /** Its band: `at most 17 s`. */
  wanted: string;
}

/** The ends of a band in words. */
function bandWords({ min, max }: Target, unit: string): string {
  const end = (value: number) => `${shortNumber(value)} ${unit}`.trim();
  if (min !== undefined && max !== undefined) return `${shortNumber(min)} to ${end(max)}`;
  return max !== undefined ? `at most ${end(max)}` : min !== undefined ? `at least ${end(min)}` : '';
}

/** Metrics that differ in so many significant digits, those that differ most first; of a lap its time, and what has a band. */
export function movedMetrics(
  before: Metrics,
  after: Metrics,
  { unit, targets, digits }: { unit: 'px' | 'm'; targets: readonly Target[]; digits: number },
): Moved[] {
  const bands = new Map(judgeTargets(targets, after).map((one) => [metricKey(one.metric, one.at), one]));
  const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])] as (keyof Metrics)[];
  const rows = keys.flatMap((key) => {
    if (isLapDetail(key) && !bands.has(key)) return [];
    const [was, now] = [before[key] ?? null, after[key] ?? null];
    const text = (value: number | null) => (value === null ? 'not measured' : significant(value, digits));
    if (text(was) === text(now)) return [];
    const { words, quantity } = metricSpecOf(key);
    const own = unitOf(quantity, unit);
    const band = bands.get(key);
    const size = Math.abs((now ?? 0) - (was ?? 0)) / Math.max(Math.abs(now ?? 0), Math.abs(was ?? 0), 1e-9);
    const row: Moved = {
      key,
      words,
      change: `${text(was)} → ${text(now)}${own ? ` ${own}` : ''}`,
      isIn: band?.ok ?? null,
      wanted: band ? bandWords(band, own) : '',
    };
    return [{ row, size, isOut: band?.ok === false }];
  });
  return rows.sort((a, b) => Number(b.isOut) - Number(a.isOut) || b.size - a.size).map(({ row }) => row);
}
