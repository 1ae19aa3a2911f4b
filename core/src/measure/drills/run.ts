import type { Ground } from '../../ground/ground.ts';
import { rerun } from '../../replay/rerun.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import type { Metrics } from '../metricSpecs.ts';
import { type Absence, type Absences, reasonOf } from './absences.ts';
import type { Drill, Ran, Run, Scene } from './drill.ts';
import { lap, lapOn } from './lap.ts';
import { bared, layoutOf } from './layout.ts';
import { drills } from './list.ts';
import { Prepared } from './prepared.ts';
import { MOST_TICKS } from './script.ts';

/** The result of a drill: its runs and metrics, or the reason why it was not run. */
export interface DrillResult {
  drill: Drill;
  /** The reason why it does not apply or failed; null if it ran. */
  not: string | null;
  metrics: Metrics;
  runs: readonly Ran[];
  /** The metrics that it has no value for, and why. */
  absent: Absences;
  /** The runs that ended at the limit of ticks, in words; null if none did. */
  cutShort: string | null;
}

interface DrillOptions {
  drills?: readonly Drill[];
  /** The ground whose course a lap is driven on. */
  ground?: Ground | null;
  /** Data shared with earlier runs. */
  prepared?: Prepared;
  /** The metrics that are needed; others may be missing. Null: all. */
  wanted?: ReadonlySet<string> | null;
}

/** Edges are felt in the one drill that is about them. */
const withEdges = (parameters: Parameters): Parameters => ({
  ...bared(parameters),
  bounds: { ...parameters.bounds, frame: 'ground' },
});

/** Removes values that aren't numbers from metrics. */
const known = (metrics: Metrics): Metrics =>
  Object.fromEntries(Object.entries(metrics).filter(([, value]) => value !== undefined && Number.isFinite(value)));

/** The metrics that a drill which ran has no value for. */
function absentFrom(drill: Drill, parameters: Parameters, found: Metrics, cutShort: string | null): Absences {
  const lacks = drill.lacks?.(parameters) ?? {};
  const missing = drill.gives.filter((key) => found[key] === undefined);
  return Object.fromEntries(
    missing.map((key): [string, Absence] => {
      const why = lacks[key];
      return [key, why === undefined ? { why: cutShort ?? reasonOf(key), applies: true } : { why, applies: false }];
    }),
  );
}

/** Runs drills on a tuning, one after the other, the lap on the course of `ground` if it has one; each result comes as soon as it is there. One that fails says so, and the rest still runs. */
export function* runDrills(
  parameters: Parameters,
  { drills: own = drills, ground = null, prepared = new Prepared(), wanted = null }: DrillOptions = {},
): Generator<DrillResult> {
  const drive: Run = (scene: Scene) => {
    const own = scene.parameters ?? bared(parameters);
    const stepping = scene.frames !== undefined ? parameters.clock.stepping : 'fixed';
    const driven = { ...own, clock: { ...own.clock, stepping } };
    const known = prepared.on(scene.ground);
    const world = rerun(scene.tape, driven, scene.ground, {
      known,
      frames: scene.frames,
      most: MOST_TICKS,
      rooms: prepared.rooms ?? undefined,
      until: scene.until,
    });
    prepared.keep(world);
    return { ...scene, world, trace: world.trace };
  };
  let layout: ReturnType<typeof layoutOf> | null = null;
  for (const one of own) {
    prepared.rooms?.free();
    const drill = one === lap && ground?.course ? lapOn(ground, parameters) : one;
    const not = drill.unless(parameters);
    const none = (why: string, applies: boolean): DrillResult => {
      const absent = Object.fromEntries(drill.gives.map((key) => [key, { why, applies }]));
      return { drill, metrics: {}, runs: [], cutShort: null, absent, not: why };
    };
    if (not !== null) {
      yield none(not, false);
      continue;
    }
    try {
      layout ??= layoutOf(parameters, drive, { wanted, prepared });
      const run: Run = drill.name === 'edge-press' ? (scene) => drive({ parameters: withEdges(parameters), ...scene }) : drive;
      const laid = drill.perform ? null : (drill.lay?.(layout, run) ?? []).map((scene) => ('trace' in scene ? scene : run(scene)));
      const done = drill.perform?.(layout, run) ?? { runs: laid ?? [], metrics: drill.measure?.(laid ?? [], layout) ?? {} };
      const { runs, metrics } = done;
      const atLimit = drill.name !== lap.name && runs.some(({ tape }) => tape.ticks >= MOST_TICKS);
      const cutShort = ('cutShort' in done ? done.cutShort : undefined) ?? (atLimit ? `ended at ${MOST_TICKS} ticks` : null);
      const found = known(metrics);
      yield {
        drill,
        not: null,
        metrics: found,
        runs: prepared.rooms ? [] : runs,
        cutShort,
        absent: absentFrom(drill, parameters, found, cutShort),
      };
    } catch (error) {
      yield none(`it failed: ${error instanceof Error ? error.message : String(error)}`, true);
    }
  }
}

/** All metrics of all drills by name; where two give the same one, the first counts. */
export function metricsOf(results: readonly DrillResult[]): Metrics {
  return Object.assign({}, ...results.map(({ metrics }) => metrics).toReversed());
}

/** Why metrics have no value, by name: those that no drill gave one for. */
export function absencesOf(results: readonly Pick<DrillResult, 'metrics' | 'absent'>[]): Absences {
  const measured = new Set(results.flatMap(({ metrics }) => Object.keys(metrics)));
  return Object.fromEntries(results.flatMap(({ absent }) => Object.entries(absent).filter(([key]) => !measured.has(key))));
}
