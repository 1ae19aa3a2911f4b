import { isLapDetail } from '../../measure/drills/lap.ts';
import type { Metrics } from '../../measure/metricSpecs.ts';
import { matters, specs } from '../../tuning/catalogue/catalogue.ts';
import { isLink } from '../../tuning/links.ts';
import type { TuningFile } from '../../tuning/schema.ts';
import { numberAt, rawAt, resolveTuning, type Tuning, withValue } from '../../tuning/tuning.ts';

/** How a number moves a metric: by so much for a tenth more of it. */
export interface Moved {
  path: string;
  by: number;
  /** Only one side could be tried: the other is out of its range. */
  isOneSided: boolean;
  /** It follows another number: its ratio to that was tried. */
  isTied: boolean;
}

/** How a metric is moved by a number: by so much for a tenth more of that. */
export interface Outcome {
  metric: keyof Metrics;
  by: number;
  /** The same as a share of what the metric is now; of the change where that is 0. */
  share: number;
  isOneSided: boolean;
}

/** The share by which numbers are tried. */
export const STEP = 0.1;
/** Changes of a metric (relative) that are none. */
const NONE = 1e-6;

/** A number a tenth up or down, held in its range; a link keeps what it follows and changes its ratio. Null if there is nothing to try. */
export function tried({ file, parameters }: Tuning, path: string, factor: number): TuningFile | null {
  const spec = specs.get(path);
  if (spec?.kind !== 'number') return null;
  const raw = rawAt(file, path);
  const value = numberAt(parameters, path);
  const wanted = value * factor;
  if (wanted < spec.min || wanted > spec.max || value === 0) return null;
  const next = isLink(raw)
    ? { ...raw, times: (raw.times ?? 1) * factor, ...(raw.plus === undefined ? {} : { plus: raw.plus * factor }) }
    : wanted;
  const changed = withValue(file, path, next);
  return resolveTuning(changed).ok ? changed : null;
}

/** The parameters that matter in a tuning, but for those of its clock. */
export const candidatesOf = ({ parameters }: Tuning) =>
  [...specs.keys()].filter((path) => matters(path, parameters) && !path.startsWith('clock.'));

/**
 * The numbers that move a metric of a drill, those that move it most first: central differences over a tenth up and a tenth down, one-sided
 * at the end of a range. `measure` gives the drill's metrics for each of some tunings.
 */
export async function whatMoves(
  tuning: Tuning,
  metric: keyof Metrics,
  measure: (files: readonly TuningFile[]) => Promise<readonly Metrics[]>,
): Promise<Moved[]> {
  const trials = candidatesOf(tuning).flatMap((path) => {
    const [up, down] = [tried(tuning, path, 1 + STEP), tried(tuning, path, 1 - STEP)];
    return up || down ? [{ path, up, down }] : [];
  });
  const files = [tuning.file, ...trials.flatMap(({ up, down }) => [up, down].filter((file) => file !== null))];
  const values = (await measure(files)).map((metrics) => metrics[metric]);
  const now = values[0];
  if (now === undefined) throw new Error('the drill ends before it can be measured');
  let next = 1;
  const found = trials.map(({ path, up, down }): Moved | null => {
    const moved = slope(now, up ? values[next++] : undefined, down ? values[next++] : undefined);
    return moved && { path, ...moved, isTied: isLink(rawAt(tuning.file, path)) };
  });
  return found.filter((one) => one !== null).sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
}

/** By how much a metric goes for a tenth more: the central difference, or that to the one side there is; null if it stays. */
export function slope(now: number, above: number | undefined, below: number | undefined): { by: number; isOneSided: boolean } | null {
  if (above === undefined && below === undefined) return null;
  const by = above !== undefined && below !== undefined ? (above - below) / 2 : above !== undefined ? above - now : now - (below as number);
  if (Math.abs(by) <= NONE * Math.max(Math.abs(now), 1e-6)) return null;
  return { by, isOneSided: above === undefined || below === undefined };
}

/** The numbers of a tuning that can be tried a tenth up or down. */
export const triedPaths = (tuning: Tuning): string[] =>
  candidatesOf(tuning).filter((path) => tried(tuning, path, 1 + STEP) ?? tried(tuning, path, 1 - STEP));

/**
 * The metrics that a number moves, those that it moves most (relatively) first; of a lap only its time. Differences as `whatMoves` takes them.
 * `measure` gives all metrics for each of some tunings.
 */
export async function whatIsMoved(
  tuning: Tuning,
  path: string,
  measure: (files: readonly TuningFile[]) => Promise<readonly Metrics[]>,
): Promise<Outcome[]> {
  const [up, down] = [tried(tuning, path, 1 + STEP), tried(tuning, path, 1 - STEP)];
  const [now = {}, ...rest] = await measure([tuning.file, ...[up, down].filter((file) => file !== null)]);
  const above = up ? rest[0] : undefined;
  const below = down ? rest[up ? 1 : 0] : undefined;
  const found = (Object.entries(now) as [keyof Metrics, number][]).flatMap(([metric, value]): Outcome[] => {
    if (isLapDetail(metric)) return [];
    const moved = slope(value, above?.[metric], below?.[metric]);
    return moved ? [{ metric, ...moved, share: moved.by / (Math.abs(value) || Math.abs(moved.by)) }] : [];
  });
  return found.sort((a, b) => Math.abs(b.share) - Math.abs(a.share));
}
