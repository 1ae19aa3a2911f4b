/** A figure of the siege: a measurement in words, and whether it is within its limit. */
export interface Figure {
  part: string;
  name: string;
  figure: string;
  reach: string;
  isGood: boolean;
}

/** A count that has to be nought. */
export const none = (part: string, name: string, count: number): Figure => ({
  part,
  name,
  figure: String(count),
  reach: '0',
  isGood: count === 0,
});

/** A figure that has to stay under a limit. */
export const under = (part: string, name: string, value: number, limit: number, unit: string): Figure => ({
  part,
  name,
  figure: `${value.toFixed(value < 10 ? 1 : 0)} ${unit}`,
  reach: `< ${limit} ${unit}`,
  isGood: value < limit,
});

/** A figure with a limit. */
export const atLeast = (part: string, name: string, value: number, limit: number, unit = ''): Figure => ({
  part,
  name,
  figure: `${Math.round(value)}${unit && ` ${unit}`}`,
  reach: `≥ ${limit}${unit && ` ${unit}`}`,
  isGood: value >= limit,
});

/** A figure without a limit. */
export const unbounded = (part: string, name: string, figure: string): Figure => ({ part, name, figure, reach: '', isGood: true });

/** The value under which a share of the values lie. */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}

/** The figures as a table of Markdown, which is as good to read on a terminal. */
export function tableOf(figures: readonly Figure[]): string {
  const rows = [
    ['part', 'what', 'measured', 'reach', ''],
    ...figures.map((f) => [f.part, f.name, f.figure, f.reach, f.reach && (f.isGood ? 'met' : 'NOT met')]),
  ];
  const widths = [0, 1, 2, 3, 4].map((column) => Math.max(3, ...rows.map((row) => (row[column] as string).length)));
  const line = (row: readonly string[]) => `| ${row.map((cell, column) => cell.padEnd(widths[column] as number)).join(' | ')} |`;
  return [line(rows[0] as string[]), line(widths.map((width) => '-'.repeat(width))), ...rows.slice(1).map(line)].join('\n');
}
