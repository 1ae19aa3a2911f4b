import { rerun } from '../../replay/rerun.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import type { Metrics } from '../metricSpecs.ts';
import { bared, courseOf } from './course.ts';
import type { Drill, Ran, Run, Scene } from './drill.ts';
import { drills } from './list.ts';
import { MOST_TICKS } from './script.ts';

/** What came of a drill: its runs and metrics, or why it was not run. */
export interface DrillResult {
  drill: Drill;
  /** Why it does not apply, or what went wrong; null where it was run. */
  not: string | null;
  metrics: Metrics;
  runs: readonly Ran[];
  /** What ended at the limit of ticks, in words; null where nothing did. */
  cutShort: string | null;
}

/** Edges are felt in the one drill that is about them. */
const withEdges = (parameters: Parameters): Parameters => ({
  ...bared(parameters),
  bounds: { ...parameters.bounds, frame: 'ground' },
});

/** Takes what is not a number out of metrics. */
const known = (metrics: Metrics): Metrics =>
  Object.fromEntries(Object.entries(metrics).filter(([, value]) => value !== undefined && Number.isFinite(value)));

/** Runs drills on a tuning, one after the other; each result comes as soon as it is there. One that fails says so, and the rest still runs. */
export function* runDrills(parameters: Parameters, wanted: readonly Drill[] = drills): Generator<DrillResult> {
  const drive: Run = (scene: Scene) => {
    const own = scene.parameters ?? bared(parameters);
    const stepping = scene.frames !== undefined ? parameters.clock.stepping : 'fixed';
    const driven = { ...own, clock: { ...own.clock, stepping } };
    const world = rerun(scene.tape, driven, scene.ground, { frames: scene.frames, most: MOST_TICKS });
    return { ...scene, world, trace: world.trace };
  };
  let course: ReturnType<typeof courseOf> | null = null;
  for (const drill of wanted) {
    const not = drill.unless(parameters);
    const nothing = { drill, metrics: {}, runs: [], cutShort: null };
    if (not !== null) {
      yield { ...nothing, not };
      continue;
    }
    try {
      course ??= courseOf(parameters, drive);
      const own: Run = drill.name === 'edge-press' ? (scene) => drive({ parameters: withEdges(parameters), ...scene }) : drive;
      const laid = drill.perform ? null : (drill.lay?.(course, own) ?? []).map((scene) => ('trace' in scene ? scene : own(scene)));
      const { runs, metrics } = drill.perform?.(course, own) ?? { runs: laid ?? [], metrics: drill.measure?.(laid ?? [], course) ?? {} };
      const cut = runs.some(({ tape }) => tape.ticks >= MOST_TICKS);
      yield { drill, not: null, metrics: known(metrics), runs, cutShort: cut ? `ended at ${MOST_TICKS} ticks` : null };
    } catch (error) {
      yield { ...nothing, not: `it failed: ${error instanceof Error ? error.message : String(error)}` };
    }
  }
}

/** All metrics of all drills by name; where two give the same one, the first counts. */
export function metricsOf(results: readonly DrillResult[]): Metrics {
  return Object.assign({}, ...results.map(({ metrics }) => metrics).toReversed());
}
