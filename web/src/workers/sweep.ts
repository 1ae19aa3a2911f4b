import {
  type Absences,
  absencesOf,
  drills,
  driveTape,
  type EffectTable,
  effectTable,
  type Ground,
  type MetricKey,
  type Metrics,
  metricKey,
  metricOfKey,
  metricsOf,
  Prepared,
  resolveTuning,
  runDrills,
  Sweep,
  type SweepChunk,
  type SweepDefinition,
  type Tape,
  type Tuning,
  type TuningFile,
  triedPaths,
  whatMoves,
} from '@zygopod/core';
import { expose, transfer } from 'comlink';

/** A drive in the drill, or on the tape, that a metric is of: a column each, a row for each tick, and where it is driven. */
export interface Motion {
  title: string;
  columns: Readonly<Record<'time' | 'x' | 'y' | 'speed' | 'facing' | 'gait', Float64Array>>;
}

/** One tuning in full: its metrics, why others have no value, and its motion in the drill of a metric. */
export interface Sounding {
  metrics: Metrics;
  absent: Absences;
  motion: Motion | null;
}

/** The drills whose main metrics a sweep begins with, the first ones that apply. */
const first = ['hard-stop', 'turn-round', 'standing-start', 'sprint-to-empty', 'click-tour', 'edge-press', 'wall-graze', 'grid-walk'];
const SHOWN = 4;

let sweep: Sweep | null = null;

function tuningOf(file: TuningFile): Tuning {
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(`${read.faults[0]?.path}: found ${read.faults[0]?.found}, expected ${read.faults[0]?.expected}`);
  return read.value;
}

/** Measures cells of a sweep, and single tunings, away from the page. */
const api = {
  begin(definition: SweepDefinition): void {
    sweep = new Sweep(definition);
  },

  measure(cells: readonly number[]): SweepChunk {
    if (!sweep) throw new Error('no sweep has begun');
    const chunk = sweep.measure(cells);
    return transfer(chunk, [chunk.values.buffer, chunk.met.buffer]);
  },

  /** Measures one tuning: the drills of these metrics and targets, the motion in the first one of `shown`; and a tape, if keys name it. */
  sound(file: TuningFile, keys: readonly MetricKey[], shown: MetricKey | null, ground: Ground | null, tape: Tape | null): Sounding {
    const wanted = drills.filter(({ gives }) => keys.some((key) => gives.includes(key)));
    const { parameters } = tuningOf(file);
    const results = [...runDrills(parameters, { drills: wanted, ground })];
    const isTaped = tape !== null && ground !== null && keys.some((key) => metricOfKey(key).tape !== undefined);
    const taped = isTaped ? driveTape(tape, 1, parameters, { ground, prepared: new Prepared() }) : null;
    const drilled = results.find(({ drill, runs }) => runs.length > 0 && (shown === null || drill.gives.includes(shown)));
    const own =
      taped && shown !== null && metricOfKey(shown).tape !== undefined
        ? { title: `on the tape ${tape?.name}`, trace: taped.world.trace }
        : drilled && { title: `in the drill ${drilled.drill.title.toLowerCase()}`, trace: drilled.runs[0]?.trace };
    const trace = own?.trace;
    const columns = trace && {
      time: trace.values('time'),
      x: trace.values('x'),
      y: trace.values('y'),
      speed: trace.values('speed'),
      facing: trace.values('facing'),
      gait: trace.values('gait'),
    };
    return {
      metrics: { ...metricsOf(results), ...taped?.metrics },
      absent: absencesOf(results),
      motion: own && columns ? { title: own.title, columns } : null,
    };
  },

  /** Metrics and parameters to begin with: main metrics that apply, unless there are `metrics`, and the two numbers that move the first of them most. */
  async open(file: TuningFile, metrics: readonly MetricKey[], ground: Ground | null): Promise<{ metrics: MetricKey[]; paths: string[] }> {
    const tuning = tuningOf(file);
    const applying = first.flatMap((name) => drills.filter((drill) => drill.name === name && drill.unless(tuning.parameters) === null));
    const own = metrics.length > 0 ? [...metrics] : applying.slice(0, SHOWN).map(({ main, at }) => metricKey(main, at));
    const [metric] = own;
    if (!metric) return { metrics: [], paths: [] };
    const wanted = drills.filter(({ gives }) => gives.includes(metric)).slice(0, 1);
    const prepared = new Prepared();
    const measure = async (files: readonly TuningFile[]) =>
      files.map((one) => metricsOf([...runDrills(tuningOf(one).parameters, { drills: wanted, ground, prepared })]));
    const moved = await whatMoves(tuning, metric, measure).catch(() => []);
    const paths = moved.slice(0, 2).map(({ path, isTied }) => (isTied ? `${path}.times` : path));
    return { metrics: own, paths: paths.length > 0 ? paths : triedPaths(tuning).slice(0, 1) };
  },

  /** The effects of all numbers on all outcomes. */
  effects: (file: TuningFile, ground: Ground | null): EffectTable => effectTable(tuningOf(file), ground),
};
export type SweepApi = typeof api;

expose(api);
