import type { Ground } from '../../ground/ground.ts';
import { lap } from '../../measure/drills/lap.ts';
import { drills } from '../../measure/drills/list.ts';
import { Prepared } from '../../measure/drills/prepared.ts';
import { metricsOf, runDrills } from '../../measure/drills/run.ts';
import { type Metrics, metricKey } from '../../measure/metricSpecs.ts';
import { isLink } from '../../tuning/links.ts';
import { rawAt, resolveTuning, type Tuning } from '../../tuning/tuning.ts';
import { candidatesOf, STEP, slope, tried } from './moves.ts';

/** A number's effect on an outcome. */
export interface Effect {
  /** Change of the outcome for +10 % of the number, in the outcome's unit. */
  by: number;
  /** The same relative to the outcome; null where that is 0. */
  share: number | null;
  /** True where one side could not be tried: the number is at a limit. */
  isOneSided: boolean;
}

/** The effects of one number: one entry for each outcome of the table, null where there is none. */
export interface EffectRow {
  path: string;
  /** True if the number follows another one: its ratio to that is varied. */
  isLinked: boolean;
  effects: (Effect | null)[];
}

/** Numbers against outcomes. */
export interface EffectTable {
  outcomes: { metric: keyof Metrics; value: number }[];
  rows: EffectRow[];
  /** Numbers that change no outcome. */
  without: string[];
}

/** The size of an effect for sorting: relative to the outcome, 1 for one that was 0. */
const sizeOf = (effect: Effect | null): number => (effect === null ? 0 : Math.min(1, Math.abs(effect.share ?? 1)));

/**
 * The change of the main metric of each drill for +10 % of each number: central differences over a tenth up and a tenth down, (f(1.1 p) −
 * f(0.9 p)) / 2, one-sided at the end of a range. The rows with the largest effects come first. A lap is not among the outcomes: it takes
 * longer than all others together. `measured` is called after each number, with the share that is done.
 */
export function effectTable(tuning: Tuning, ground: Ground | null, measured: (share: number) => void = () => undefined): EffectTable {
  const applying = drills.filter((drill) => drill !== lap && drill.unless(tuning.parameters) === null);
  const prepared = new Prepared(false);
  const mains = [...new Set(applying.map(({ main, at }) => metricKey(main, at)))];
  const wanted = new Set<string>(mains);
  const measure = ({ parameters }: Tuning) => metricsOf([...runDrills(parameters, { drills: applying, ground, prepared, wanted })]);
  const now = measure(tuning);
  const outcomes = mains.flatMap((metric) => {
    const value = now[metric];
    return value === undefined ? [] : [{ metric, value }];
  });
  const paths = candidatesOf(tuning);
  const rows = paths.flatMap((path, i): EffectRow[] => {
    const sides = [1 + STEP, 1 - STEP].map((factor) => {
      const file = tried(tuning, path, factor);
      const read = file && resolveTuning(file);
      return read?.ok ? measure(read.value) : null;
    });
    measured((i + 1) / paths.length);
    const [above, below] = sides as [Metrics | null, Metrics | null];
    if (!above && !below) return [];
    const effects = outcomes.map(({ metric, value }): Effect | null => {
      const moved = slope(value, above?.[metric], below?.[metric]);
      return moved && { ...moved, share: value === 0 ? null : moved.by / Math.abs(value) };
    });
    return [{ path, isLinked: isLink(rawAt(tuning.file, path)), effects }];
  });
  const largest = ({ effects }: EffectRow) => effects.reduce((sum, effect) => sum + sizeOf(effect), 0);
  const moving = rows.filter(({ effects }) => effects.some((effect) => effect !== null));
  return {
    outcomes,
    rows: moving.toSorted((a, b) => largest(b) - largest(a)),
    without: rows.filter((row) => !moving.includes(row)).map(({ path }) => path),
  };
}
