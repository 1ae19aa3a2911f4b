import {
  type Absences,
  absencesOf,
  bucketWalls,
  bySeverity,
  type DrillResult,
  drillSnags,
  drills,
  type Ground,
  groundSnags,
  type Metrics,
  metricsOf,
  type Parameters,
  type Ran,
  readTuning,
  runDrills,
  type Snag,
  type Survey,
  surveyGround,
  surveyKey,
  type Tape,
  type TuningFile,
  turnTo,
} from '@zygopod/core';
import { expose } from 'comlink';

/** A run as it is drawn small: places or values, and the gait in each. */
export interface DrawnRun {
  points: [number, number][];
  gaits: number[];
}

/** The parts of a drill that a page needs. */
export interface DrilledPart {
  name: string;
  not: string | null;
  cutShort: string | null;
  metrics: Metrics;
  /** Why it has no value for other metrics of its own. */
  absent: Absences;
  runs: DrawnRun[];
  /** The first run's walls about its start, as lines; none on open ground. */
  walls: { points: [number, number][]; isSolid: boolean }[];
}

/** Results of a tuning: its drills, all metrics, and the snags of the ground and of the drills. */
export interface Judgement {
  drills: DrilledPart[];
  metrics: Metrics;
  /** Why other metrics have no value. */
  absent: Absences;
  snags: Snag[];
  milliseconds: number;
  ticks: number;
}

/** Points of a run at most, and runs of a drill that are drawn. */
const POINTS = 160;
const RUNS = 10;

/** The rows of a run that are drawn: evenly spread, both ends among them. */
function rowsOf({ trace }: Ran): number[] {
  const count = Math.min(POINTS, trace.end);
  return Array.from({ length: count }, (_, i) => Math.round((i * (trace.end - 1)) / Math.max(1, count - 1)));
}

function drawn(ran: Ran, drawing: DrillResult['drill']['drawing']): DrawnRun {
  const { trace, ground } = ran;
  const rows = rowsOf(ran);
  let turned = 0;
  let last = trace.at('facing', 0);
  const points = rows.map((row): [number, number] => {
    const time = trace.at('time', row);
    if (drawing === 'path') return [trace.at('x', row) - ground.start.x, trace.at('y', row) - ground.start.y];
    if (drawing === 'across') return [trace.at('x', row) - ground.start.x, time];
    if (drawing !== 'facing') return [time, trace.at(drawing, row)];
    const facing = trace.at('facing', row);
    // Angles go on where they would jump from one end to the other.
    turned += turnTo(last, facing);
    last = facing;
    return [time, turned];
  });
  return { points, gaits: rows.map((row) => trace.at('gait', row)) };
}

function partOf({ drill, not, cutShort, metrics, absent, runs }: DrillResult): DrilledPart {
  const [first] = runs;
  const walls = first && drill.drawing === 'path' ? first.ground.walls : [];
  const start = first?.ground.start ?? { x: 0, y: 0 };
  return {
    name: drill.name,
    not,
    cutShort,
    metrics,
    absent,
    runs: runs.slice(0, RUNS).map((ran) => drawn(ran, drill.drawing)),
    walls: walls.map(({ points, closed }) => {
      const placed = points.map(([x, y]) => [x - start.x, y - start.y] as [number, number]);
      return { points: closed ? [...placed, placed[0] as [number, number]] : placed, isSolid: closed === true };
    }),
  };
}

function parametersOf(file: TuningFile) {
  const read = readTuning(file);
  if (!read.ok) throw new Error(`the tuning does not resolve: ${read.faults[0]?.path}`);
  return read.value.parameters;
}

/** The last survey, and of what it is: a number that leaves body, walls and edges as they are needs no other. */
let surveyed: { key: string; survey: Survey } | null = null;

function surveyOf(ground: Ground, parameters: Parameters): Survey {
  const key = JSON.stringify([ground, surveyKey(parameters)]);
  if (surveyed?.key !== key) surveyed = { key, survey: surveyGround(ground, parameters, bucketWalls(ground)) };
  return surveyed.survey;
}

/** Drills away from the page. */
const api = {
  /** Runs all drills; the ground’s own snags, which need a survey, only if `finds` says so. */
  judge(file: TuningFile, ground: Ground | null, finds = true): Judgement {
    const parameters = parametersOf(file);
    const begun = performance.now();
    const results = [...runDrills(parameters, { ground })];
    const milliseconds = performance.now() - begun;
    return {
      drills: results.map(partOf),
      metrics: metricsOf(results),
      absent: absencesOf(results),
      snags: bySeverity([
        ...(ground && finds ? groundSnags(ground, parameters, surveyOf(ground, parameters)) : []),
        ...drillSnags(results),
      ]),
      milliseconds,
      ticks: results.reduce((sum, { runs }) => sum + runs.reduce((ticks, { trace }) => ticks + trace.end - 1, 0), 0),
    };
  },

  /** The metrics of one drill for each of some tunings; the lap needs a ground with a course. */
  metrics(files: readonly TuningFile[], name: string, ground: Ground | null): Metrics[] {
    const wanted = drills.filter((drill) => drill.name === name);
    return files.map((file) => metricsOf([...runDrills(parametersOf(file), { drills: wanted, ground })]));
  },

  /** All metrics for each of some tunings. */
  all(files: readonly TuningFile[], ground: Ground | null): Metrics[] {
    return files.map((file) => metricsOf([...runDrills(parametersOf(file), { ground })]));
  },

  /** The grounds and tapes of a drill's runs. */
  scenes(file: TuningFile, name: string, ground: Ground | null): { ground: Ground; tape: Tape }[] {
    const [result] = [...runDrills(parametersOf(file), { drills: drills.filter((drill) => drill.name === name), ground })];
    return (result?.runs ?? []).map(({ ground, tape }) => ({ ground, tape }));
  },
};
export type DrillsApi = typeof api;

expose(api);
