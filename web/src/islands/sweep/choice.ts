import {
  axisText,
  isLink,
  type MetricKey,
  metricOfKey,
  metricSpecs,
  numberAt,
  rawAt,
  type Sweep,
  specOf,
  specs,
  spread,
  type Tuning,
  type TuningFile,
  withAxis,
} from '@zygopod/core';

/** The subject of the chart: a metric, or where all targets are met. */
export type Shown = MetricKey | 'met';

/** A sweep as it is chosen on the page and stored in its address. */
export interface SweepChoice {
  /** One or two axes, as `readAxis` reads them. */
  over: readonly string[];
  metrics: readonly MetricKey[];
  shown: Shown;
  /** The id of the tape that metrics are of, driven on the ground; null: none. */
  tape: string | null;
}

/** The parameter of an address that names the kept sweep whose results are shown. */
export const KEPT = 'kept';
/** The parameter of an address that opens the fit. */
export const FIT = 'fit';
/** Values of an axis at first: across and down. */
export const COUNTS = [40, 30] as const;
/** Metrics of a sweep at most. */
export const MOST_METRICS = 12;
/** An axis reaches from this share of the present number to its inverse. */
const REACH = 0.45;

const isMetric = (key: string): key is MetricKey => Object.hasOwn(metricSpecs, metricOfKey(key).metric);

/** Reads the choice of an address' search; parts that aren't there or aren't readable are empty. */
export function readChoice(search: string): SweepChoice {
  const query = new URLSearchParams(search);
  const metrics = query.getAll('metric').filter(isMetric).slice(0, MOST_METRICS);
  const shown = query.get('shown') ?? '';
  return {
    over: query.getAll('over').slice(0, 2),
    tape: query.get('tape') || null,
    metrics,
    shown: shown === 'met' || (metrics as readonly string[]).includes(shown) ? (shown as Shown) : (metrics[0] ?? 'met'),
  };
}

/** An address with a choice in its search; the rest of that stays. */
export function withChoice(search: string, { over, metrics, shown, tape }: SweepChoice): string {
  const query = new URLSearchParams(search);
  for (const name of ['over', 'metric', 'shown', 'tape']) query.delete(name);
  for (const axis of over) query.append('over', axis);
  for (const metric of metrics) query.append('metric', metric);
  query.set('shown', shown);
  if (tape !== null) query.set('tape', tape);
  return query.toString();
}

/** A number in two significant digits. */
const round = (value: number) => Number(value.toPrecision(2));

/** An axis through a tuning's present value of a parameter, as text: about half of it to about twice as much, or all options. */
export function axisThrough(path: string, tuning: Tuning, count: number): string {
  const isFactor = path.endsWith('.times');
  const of = isFactor ? path.slice(0, -'.times'.length) : path;
  const spec = specOf(of);
  if (spec.kind === 'flag' || spec.kind === 'choice') return `${path}=*`;
  const raw = rawAt(tuning.file, of);
  const value = isFactor && isLink(raw) ? (raw.times ?? 1) : numberAt(tuning.parameters, of);
  const [least, most] = spec.kind === 'number' && !isFactor ? [spec.min, spec.max] : [0.01, 100];
  const [low, high] = value > 0 ? [round(value * REACH), round(value / REACH)] : [0, 1];
  const [from, to] = [Math.max(least, low), Math.min(most, high)];
  return axisText({ path, values: spread(from, Math.max(to, from + 1e-6), count, false), isLog: false });
}

/** The parameters that can be an axis: all but texts and curves; a linked number by its factor, too. */
export function axisPaths({ file }: Tuning): string[] {
  return [...specs].flatMap(([path, { kind }]) => {
    if (kind !== 'number' && kind !== 'flag' && kind !== 'choice') return [];
    return kind === 'number' && isLink(rawAt(file, path)) ? [path, `${path}.times`] : [path];
  });
}

/** True if a tuning has changed in another number than those on the axes since a sweep of it. */
export function isStale({ definition: { axes, tuning } }: Sweep, file: TuningFile): boolean {
  const plain = (one: TuningFile) => {
    const { name, ...rest } = axes.reduce<TuningFile>((own, axis) => withAxis(own, axis, axis.values[0] as number), one);
    return JSON.stringify(rest);
  };
  return plain(tuning.file) !== plain(file);
}
