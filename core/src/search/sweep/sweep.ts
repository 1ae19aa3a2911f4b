import type { Ground } from '../../ground/ground.ts';
import type { Drill } from '../../measure/drills/drill.ts';
import { drills } from '../../measure/drills/list.ts';
import { Prepared } from '../../measure/drills/prepared.ts';
import { absencesOf, type DrillResult, metricsOf, runDrills } from '../../measure/drills/run.ts';
import { type Metrics, metricKey, metricOfKey, metricSpecs } from '../../measure/metricSpecs.ts';
import { traceMetricNames } from '../../measure/metrics.ts';
import { driveTape } from '../../measure/onTape.ts';
import { cellsOver, MOST_CELLS, type SweepAxis, withAxis } from '../../sweeps/axis.ts';
import type { Tape } from '../../tape/tape.ts';
import { judgeTargets, type Target } from '../../targets/targets.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import type { TuningFile } from '../../tuning/schema.ts';
import { resolveTuning, type Tuning } from '../../tuning/tuning.ts';
import { drillsFor } from '../drillsFor.ts';
import { coarseToFine } from './order.ts';

/** A metric of a sweep, by its key: `stopDistance`, `slideKept(45)`. */
export type MetricKey = keyof Metrics;

/** A sweep: a tuning, one or two axes through it, and what is measured of each tuning on them. */
export interface SweepDefinition {
  tuning: Tuning;
  axes: readonly SweepAxis[];
  metrics: readonly MetricKey[];
  targets: readonly Target[];
  ground: Ground | null;
  /** The tapes that metrics name by their numbers, from 1 on; driven on the ground. */
  tapes?: readonly Tape[];
  /** True: of the targets, only whether all are met is kept, and a tuning that misses one isn't compared with the rest. */
  isMetOnly?: boolean;
}

/** A cell without values: its places on the axes, and why. */
export interface Hole {
  at: number[];
  why: string;
}

/** Measured cells: the values of all metrics cell after cell, NaN where there is none, and where each stands with the targets. */
export interface SweepChunk {
  cells: number[];
  values: Float64Array;
  met: Uint8Array;
  holes: Hole[];
}

/** Where a cell stands with the targets. */
export const UNKNOWN = 0;
export const MISSED = 1;
export const MET = 2;

/** Drills that take longest, the longest last: a target of theirs is compared after all others. */
const slow: readonly string[] = ['sprint-to-empty', 'wall-graze', 'gap-series', 'long-sprint-cycle', 'click-tour', 'tick-rates', 'lap'];

/** The drills of targets that metrics don't need anyway, the quick ones first. */
function furtherDrills(metrics: readonly MetricKey[], targets: readonly MetricKey[]): Drill[] {
  const own = new Set(drillsFor(metrics));
  const rank = ({ name }: Drill) => slow.indexOf(name);
  return drillsFor(targets)
    .filter((drill) => !own.has(drill))
    .toSorted((a, b) => rank(a) - rank(b));
}

/** The numbers of the tapes that metrics are of. */
const tapesOf = (metrics: readonly MetricKey[]): number[] => [...new Set(metrics.flatMap((key) => metricOfKey(key).tape ?? []))];

/** The tapes that a sweep drives. */
export const drivenTapes = ({ metrics, tapes = [] }: SweepDefinition): Tape[] =>
  tapesOf(metrics).flatMap((number) => tapes[number - 1] ?? []);

/** All drills that a sweep may run. */
export const drillsOf = ({ metrics, targets }: SweepDefinition): Drill[] =>
  drillsFor([...metrics, ...targets.map(({ metric, at }) => metricKey(metric, at))]);

/** The fault of a metric of a tape; null if it has none. */
function tapeFault(key: MetricKey, { tapes = [], ground }: SweepDefinition): string | null {
  const { metric, tape = 1 } = metricOfKey(key);
  if (!(traceMetricNames as readonly string[]).includes(metric))
    return `${key}: found no such metric of a tape, expected one of ${traceMetricNames.join(', ')}`;
  if (tape > tapes.length) return `${key}: found ${tapes.length} tapes, expected ${tape}`;
  return ground ? null : `${key}: needs a ground that the tape is driven on`;
}

/** The faults of a definition, in words: axes, cells and metrics that can't be swept. */
export function sweepFaults(definition: SweepDefinition): string[] {
  const { tuning, axes, metrics, targets, ground } = definition;
  const faults: string[] = [];
  if (axes.length < 1 || axes.length > 2) faults.push(`found ${axes.length} axes, expected one or two`);
  if (axes.length === 2 && axes[0]?.path === axes[1]?.path) faults.push(`found ${axes[0]?.path} on both axes, expected two parameters`);
  const cells = cellsOver(axes);
  if (cells > MOST_CELLS) faults.push(`found ${cells} cells, expected at most ${MOST_CELLS}`);
  if (metrics.length + targets.length === 0) faults.push('found no metric, expected one or more');
  const judged = [...metrics, ...targets.map(({ metric, at }) => metricKey(metric, at))];
  for (const key of new Set(judged)) {
    const { metric, tape } = metricOfKey(key);
    if (tape !== undefined) {
      const fault = tapeFault(key, definition);
      if (fault !== null) faults.push(fault);
      continue;
    }
    if (!Object.hasOwn(metricSpecs, metric)) {
      faults.push(`${key}: found no such metric, expected one of a report, such as stopDistance`);
      continue;
    }
    const own = drills.filter(({ gives }) => gives.includes(key));
    const [first] = own;
    if (!first) faults.push(`${key}: found no drill that measures it`);
    else if (
      metrics.includes(key) &&
      own.every((drill) => drill.unless(tuning.parameters) !== null) &&
      !axes.some(({ path }) => path === 'scheme' || path.endsWith('.enabled'))
    )
      faults.push(
        `${key}: doesn’t apply to this tuning: ${first.name === 'lap' && !ground?.course ? 'needs a ground with a course' : first.unless(tuning.parameters)}`,
      );
  }
  return faults;
}

/** The values of a sweep as they come in: a number for each cell and metric, NaN where there is none (yet). */
export class Sweep {
  readonly definition: SweepDefinition;
  readonly width: number;
  readonly height: number;
  /** The metrics, those of the targets among them. */
  readonly metrics: readonly MetricKey[];
  /** Values by metric, cell by cell, row by row. */
  readonly values: ReadonlyMap<MetricKey, Float64Array>;
  readonly met: Uint8Array;
  readonly holes: Hole[] = [];
  readonly #drills: readonly Drill[];
  /** The drills of further targets, run only until one is missed. */
  readonly #further: readonly Drill[];
  /** The targets by the drill that measures them. */
  readonly #targets = new Map<Drill, Target[]>();
  /** The numbers of the tapes that are driven. */
  readonly #tapes: readonly number[];
  readonly #prepared = new Prepared(false);
  readonly #wanted: ReadonlySet<string>;
  readonly #order: Generator<number>;
  readonly #isDone: Uint8Array;
  #cellsInOrder: Int32Array | null = null;
  /** Cells that are done. */
  done = 0;

  constructor(definition: SweepDefinition) {
    this.definition = definition;
    const [across, down] = definition.axes;
    this.width = across?.values.length ?? 0;
    this.height = down?.values.length ?? 1;
    const own = definition.targets.map(({ metric, at }) => metricKey(metric, at));
    this.metrics = definition.isMetOnly ? definition.metrics : [...new Set([...definition.metrics, ...own])];
    this.values = new Map(this.metrics.map((key) => [key, new Float64Array(this.cells).fill(Number.NaN)]));
    this.met = new Uint8Array(this.cells);
    this.#drills = drillsFor(this.metrics);
    this.#tapes = tapesOf(this.metrics);
    this.#wanted = new Set([...this.metrics, ...own]);
    this.#further = furtherDrills(this.metrics, own);
    for (const drill of [...this.#drills, ...this.#further])
      this.#targets.set(
        drill,
        definition.targets.filter(({ metric, at }) => drillsFor([metricKey(metric, at)])[0] === drill),
      );
    this.#order = coarseToFine(this.width, this.height);
    this.#isDone = new Uint8Array(this.cells);
  }

  get cells(): number {
    return this.width * this.height;
  }

  /** The file of a cell's tuning. */
  fileAt(cell: number): TuningFile {
    const { axes, tuning } = this.definition;
    return axes.reduce((file, axis, i) => withAxis(file, axis, axis.values[this.placesOf(cell)[i] as number] as number), tuning.file);
  }

  /** The places of a cell on the axes. */
  placesOf(cell: number): number[] {
    return [cell % this.width, Math.floor(cell / this.width)].slice(0, this.definition.axes.length);
  }

  isDone(cell: number): boolean {
    return this.#isDone[cell] === 1;
  }

  /** The measured cell whose values stand for a cell until it is measured itself: the nearest one of a coarser level at its upper left; −1 if there is none. */
  standIn(cell: number): number {
    const [x, y] = [cell % this.width, Math.floor(cell / this.width)];
    for (let step = 1; step <= 2 * Math.max(this.width, this.height); step *= 2) {
      const coarser = (y - (y % step)) * this.width + (x - (x % step));
      if (this.#isDone[coarser] === 1) return coarser;
    }
    return -1;
  }

  /** The next cells from coarse to fine, so many at most; none once all have been given out. */
  next(most: number): number[] {
    const cells: number[] = [];
    while (cells.length < most) {
      const next = this.#order.next();
      if (next.done) break;
      cells.push(next.value);
    }
    return cells;
  }

  /** The cells of a chunk, counted from coarse to fine: chunk n of a size holds those from n × size on. */
  chunk(number: number, size: number): number[] {
    this.#cellsInOrder ??= Int32Array.from(coarseToFine(this.width, this.height));
    return [...this.#cellsInOrder.subarray(number * size, (number + 1) * size)];
  }

  /** Measures cells; the result is the same wherever, and however often, that is done. */
  measure(cells: readonly number[]): SweepChunk {
    const { metrics } = this;
    const values = new Float64Array(cells.length * metrics.length).fill(Number.NaN);
    const met = new Uint8Array(cells.length);
    const holes: Hole[] = [];
    for (const [i, cell] of cells.entries()) {
      const read = resolveTuning(this.fileAt(cell));
      if (!read.ok) {
        const [fault] = read.faults;
        holes.push({ at: this.placesOf(cell), why: `${fault?.path}: found ${fault?.found}, expected ${fault?.expected}` });
        continue;
      }
      const measured = this.measured(read.value.parameters);
      for (const [k, key] of metrics.entries()) values[i * metrics.length + k] = measured.metrics[key] ?? Number.NaN;
      met[i] = measured.met;
    }
    return { cells: [...cells], values, met, holes };
  }

  /** Takes measured cells; one that is there already is left out. */
  take({ cells, values, met, holes }: SweepChunk): void {
    const { metrics } = this;
    const holed = new Map(holes.map((hole) => [(hole.at[1] ?? 0) * this.width + (hole.at[0] as number), hole]));
    for (const [i, cell] of cells.entries()) {
      if (this.#isDone[cell] === 1) continue;
      this.#isDone[cell] = 1;
      this.done++;
      const hole = holed.get(cell);
      if (hole) this.holes.push(hole);
      for (const [k, key] of metrics.entries()) (this.values.get(key) as Float64Array)[cell] = values[i * metrics.length + k] as number;
      this.met[cell] = met[i] as number;
    }
  }

  /** Measures so many cells more right here; returns false once all are done. */
  run(most: number): boolean {
    const cells = this.next(most);
    this.take(this.measure(cells));
    return cells.length > 0 && this.done < this.cells;
  }

  /** The metrics of a tuning, and how it stands with the targets. */
  measured(parameters: Parameters): { metrics: Metrics; met: number } {
    const { ground, targets, tapes = [] } = this.definition;
    const results: DrillResult[] = [];
    let isMissed = false;
    for (const wanted of [this.#drills, this.#further]) {
      if (isMissed) break;
      for (const result of runDrills(parameters, { drills: wanted, ground, prepared: this.#prepared, wanted: this.#wanted })) {
        results.push(result);
        isMissed ||= this.#misses(result, wanted);
        if (isMissed && wanted === this.#further) break;
      }
    }
    const metrics = metricsOf(results);
    for (const number of this.#tapes) {
      const tape = tapes[number - 1];
      if (tape && ground) Object.assign(metrics, driveTape(tape, number, parameters, { ground, prepared: this.#prepared }).metrics);
    }
    return { metrics, met: targets.length === 0 ? UNKNOWN : isMissed ? MISSED : MET };
  }

  /** True if the result of a drill misses a target. */
  #misses(result: DrillResult, wanted: readonly Drill[]): boolean {
    // A lap is run under the same name as another drill object.
    const drill = wanted.find(({ name }) => name === result.drill.name);
    const own = (drill && this.#targets.get(drill)) ?? [];
    return own.length > 0 && judgeTargets(own, result.metrics, absencesOf([result])).some(({ ok }) => ok === false);
  }
}
