import type { Ground } from '../../ground/ground.ts';
import { log } from '../../math/functions.ts';
import type { Drill } from '../../measure/drills/drill.ts';
import { Prepared } from '../../measure/drills/prepared.ts';
import { absencesOf, metricsOf, runDrills } from '../../measure/drills/run.ts';
import { metricKey } from '../../measure/metricSpecs.ts';
import { type JudgedTarget, judgeTargets, type Target } from '../../targets/targets.ts';
import type { TuningFile } from '../../tuning/schema.ts';
import { resolveTuning, type Tuning } from '../../tuning/tuning.ts';
import { drillsFor } from '../drillsFor.ts';
import { outside } from './leastSquares.ts';
import { type FitNumber, fileWith, placeOf, valueAt } from './numbers.ts';

/** A measured point of a fit. */
export interface Measured {
  /** Where each target’s value stands on the scale of its band; NaN without a value. */
  values: number[];
  judged: JudgedTarget[];
  isMet: boolean;
}

/** The scale on which a target’s value is compared: its logarithm where the band is above 0, since most outcomes are products of powers; else its share of a size. */
interface Scale {
  isLog: boolean;
  size: number;
  band: readonly [number, number];
}

/** The smallest share of a band’s end that a logarithm is taken of. */
const LEAST = 1e-3;
/** The share of a band that is kept free at its ends, and how much that is at most: what meets the edge of a band by a hair’s breadth is met with certainty. */
const MARGIN = 0.05;
const MOST_MARGIN = 0.002;

function scaleOf({ min, max }: Target, now: number): Scale {
  const ends = [min, max].filter((end) => end !== undefined);
  const isLog = ends.every((end) => end > 0) && now > 0;
  const size = isLog ? Math.min(...ends) : Math.max(...ends.map(Math.abs), 0.1 * Math.abs(now)) || 1;
  const on = (end: number) => (isLog ? log(end) : end / size);
  return { isLog, size, band: [min === undefined ? -Infinity : on(min), max === undefined ? Infinity : on(max)] };
}

/** Bands with some room kept at their ends. */
export function withMargin([low, high]: readonly [number, number]): [number, number] {
  const room = Math.min(MOST_MARGIN, MARGIN * (high - low));
  return [low + room, high - room];
}

/** A tuning, the numbers that may move, and the targets to meet. Points are coordinates of the numbers; 0 is the tuning as it is. */
export class FitProblem {
  readonly tuning: Tuning;
  readonly numbers: readonly FitNumber[];
  /** The targets that apply to the tuning. */
  readonly targets: readonly Target[];
  readonly #ground: Ground | null;
  readonly #drills: readonly Drill[];
  readonly #wanted: ReadonlySet<string>;
  readonly #prepared = new Prepared(false);
  readonly #scales: readonly Scale[];
  readonly #known = new Map<string, Measured>();
  readonly low: readonly number[];
  readonly high: readonly number[];
  /** Tunings measured so far. */
  measurements = 0;

  constructor(tuning: Tuning, numbers: readonly FitNumber[], targets: readonly Target[], ground: Ground | null) {
    this.tuning = tuning;
    this.numbers = numbers;
    this.#ground = ground;
    const keys = targets.map(({ metric, at }) => metricKey(metric, at));
    this.#drills = drillsFor(keys);
    this.#wanted = new Set(keys);
    const now = this.#judge(tuning.file, targets);
    const applying = now.filter(({ ok }) => ok !== null);
    this.targets = targets.filter((_, i) => now[i]?.ok !== null);
    this.#scales = this.targets.map((target, i) => scaleOf(target, applying[i]?.value ?? Number.NaN));
    this.low = numbers.map((number) => placeOf(number, number.min));
    this.high = numbers.map((number) => placeOf(number, number.max));
  }

  /** The bands on the scales of the values. */
  get bands(): (readonly [number, number])[] {
    return this.#scales.map(({ band }) => band);
  }

  /** The tuning’s file at a point. */
  fileAt(point: readonly number[]): TuningFile {
    return fileWith(this.tuning.file, this.numbers, this.valuesAt(point));
  }

  /** The values of the numbers at a point. */
  valuesAt(point: readonly number[]): number[] {
    return this.numbers.map((number, i) => valueAt(number, point[i] as number));
  }

  /** Measures a point: the same as a report of the tuning there. A point where the tuning is invalid has no values. */
  at(point: readonly number[]): Measured {
    const key = point.join(' ');
    const known = this.#known.get(key);
    if (known) return known;
    this.measurements++;
    const judged = this.#judge(this.fileAt(point), this.targets);
    const values = judged.map(({ value }, i) => this.#on(value, this.#scales[i] as Scale));
    const measured = { values, judged, isMet: judged.every(({ ok }) => ok === true) };
    this.#known.set(key, measured);
    return measured;
  }

  /** Weighs what is missed: the sum of squares of the distances to the bands, each times the target’s weight, 1 for a target without a value. */
  missed(
    { values }: Measured,
    bands: readonly (readonly [number, number])[],
    targets?: ReadonlySet<number>,
    weights?: readonly number[],
  ): number {
    return values.reduce((sum, value, i) => {
      if (targets && !targets.has(i)) return sum;
      const distance = Number.isNaN(value) ? 1 : outside(value, bands[i] as readonly [number, number]);
      return sum + (weights?.[i] ?? 1) * distance ** 2;
    }, 0);
  }

  #judge(file: TuningFile, targets: readonly Target[]): JudgedTarget[] {
    const read = resolveTuning(file);
    if (!read.ok) return targets.map((target) => ({ ...target, value: null, ok: false, why: null, fault: null }));
    const results = [
      ...runDrills(read.value.parameters, {
        drills: this.#drills,
        ground: this.#ground,
        prepared: this.#prepared,
        wanted: this.#wanted,
      }),
    ];
    return judgeTargets(targets, metricsOf(results), absencesOf(results));
  }

  #on(value: number | null, { isLog, size }: Scale): number {
    if (value === null) return Number.NaN;
    return isLog ? log(Math.max(value, LEAST * size)) : value / size;
  }
}
