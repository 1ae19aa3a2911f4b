import type { Ground } from '../../ground/ground.ts';
import type { Trace } from '../../motion/trace.ts';
import type { World } from '../../motion/world.ts';
import type { FramePattern } from '../../tape/frames.ts';
import type { Tape } from '../../tape/tape.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import type { MetricName, Metrics } from '../metricSpecs.ts';
import type { Prepared } from './prepared.ts';

/** One run of a drill: a ground, and hands on it. */
export interface Scene {
  ground: Ground;
  tape: Tape;
  /** Where it is driven with other numbers than the drill's own. */
  parameters?: Parameters;
  /** Frames that a tuning which steps per frame gets. */
  frames?: FramePattern;
  /** Ends it early, once its trace has what the wanted metrics need. */
  until?: (trace: Trace) => boolean;
}

/** A run that is over. */
export interface Ran extends Scene {
  world: World;
  trace: Trace;
}

/** Drives a scene. */
export type Run = (scene: Scene) => Ran;

/** The basis of the drills' layout: the tuning's numbers, and quantities derived from them. */
export interface DrillLayout {
  parameters: Parameters;
  hz: number;
  /** Larger side of the body, unit. */
  width: number;
  walk: number;
  sprint: number;
  /** Seconds from rest to full walking speed, from a run; the limit if it is never reached. */
  rise: number;
  /** Distance of the rise, unit. */
  riseDistance: number;
  /** The metrics that are needed; runs for others may be left out. Null: all. */
  wanted: ReadonlySet<string> | null;
  /** Grounds that were laid out before. */
  prepared: Prepared;
}

/** Kinds of small drawings: the path over the ground, or a column over time. */
type Drawing = 'path' | 'speed' | 'stamina' | 'facing' | 'across';

/** A fixed, scripted test with its own metrics. */
export interface Drill {
  name: string;
  title: string;
  /** The actions, in a sentence. */
  words: string;
  /** The metric that says most. */
  main: MetricName;
  /** The angle of the main one. */
  at?: number;
  drawing: Drawing;
  /** The metrics that it measures if it applies. */
  gives: readonly (keyof Metrics)[];
  /** Those of them that a tuning has nothing for, each with the reason. One that is missing without a reason could not be measured. */
  lacks?(parameters: Parameters): Partial<Record<keyof Metrics, string>>;
  /** Why it does not apply; null if it does. */
  unless(parameters: Parameters): string | null;
  /** The runs that it takes. `run` drives a scene at once, for runs that depend on earlier ones. */
  lay?(layout: DrillLayout, run: Run): (Scene | Ran)[];
  measure?(runs: readonly Ran[], layout: DrillLayout): Metrics;
  /** Both at once, for drills laid out in several variants. */
  perform?(layout: DrillLayout, run: Run): { runs: Ran[]; metrics: Metrics; cutShort?: string };
}
