import {
  isLink,
  type Metrics,
  matters,
  numberAt,
  rawAt,
  resolveTuning,
  specs,
  type Tuning,
  type TuningFile,
  withValue,
} from '@zygopod/core';

/** How a number moves a metric: by so much for a tenth more of it. */
export interface Moved {
  path: string;
  by: number;
  /** Only one side could be tried: the other is out of its range. */
  isOneSided: boolean;
}

/** The share by which numbers are tried. */
const STEP = 0.1;
/** Changes of a metric (relative) that are none. */
const NONE = 1e-6;

/** A number a tenth up or down, held in its range; a link keeps what it follows and changes its ratio. Null where there is nothing to try. */
function tried({ file, parameters }: Tuning, path: string, factor: number): TuningFile | null {
  const spec = specs.get(path);
  if (spec?.kind !== 'number') return null;
  const raw = rawAt(file, path);
  const value = numberAt(parameters, path);
  const wanted = value * factor;
  if (wanted < spec.min || wanted > spec.max || value === 0) return null;
  const next = isLink(raw)
    ? { ...raw, times: (raw.times ?? 1) * factor, ...(raw.plus === undefined ? {} : { plus: raw.plus * factor }) }
    : wanted;
  const made = withValue(file, path, next);
  return resolveTuning(made).ok ? made : null;
}

/**
 * The numbers that move a metric of a drill, those that move it most first: central differences over a tenth up and a tenth down, one-sided
 * at the end of a range. `measure` gives the drill's metrics for each of some tunings.
 */
export async function whatMoves(
  tuning: Tuning,
  metric: keyof Metrics,
  measure: (files: readonly TuningFile[]) => Promise<readonly Metrics[]>,
): Promise<Moved[]> {
  const candidates = [...specs.keys()].filter((path) => matters(path, tuning.parameters) && !path.startsWith('clock.'));
  const trials = candidates.flatMap((path) => {
    const [up, down] = [tried(tuning, path, 1 + STEP), tried(tuning, path, 1 - STEP)];
    return up || down ? [{ path, up, down }] : [];
  });
  const files = [tuning.file, ...trials.flatMap(({ up, down }) => [up, down].filter((file) => file !== null))];
  const values = (await measure(files)).map((metrics) => metrics[metric]);
  const now = values[0];
  if (now === undefined) return [];
  let next = 1;
  const found = trials.map(({ path, up, down }): Moved | null => {
    const above = up ? values[next++] : undefined;
    const below = down ? values[next++] : undefined;
    if (above === undefined && below === undefined) return null;
    const by =
      above !== undefined && below !== undefined ? (above - below) / 2 : above !== undefined ? above - now : now - (below as number);
    return Math.abs(by) > NONE * Math.max(Math.abs(now), 1e-6)
      ? { path, by, isOneSided: above === undefined || below === undefined }
      : null;
  });
  return found.filter((one) => one !== null).sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
}
