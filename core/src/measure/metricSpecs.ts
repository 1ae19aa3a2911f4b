import type { Quantity } from '../tuning/catalogue/specs.ts';

/**
 * The description of a metric: its words, the measured quantity, and the better direction, if there is one (`near`: near to a value known
 * beforehand).
 */
export interface MetricSpec {
  words: string;
  quantity: Quantity;
  better: 'lower' | 'higher' | 'near' | null;
  /** The value that is right by itself, where `better` is near. */
  near?: number;
}

/** All metrics by their names in files and reports; the formula of each is in the drill that measures it. */
export const metricSpecs = {
  riseTime: { words: 'Reaches speed after', quantity: 'time', better: 'lower' },
  riseDistance: { words: 'Reaches speed within', quantity: 'length', better: 'lower' },
  stopTime: { words: 'Stops after', quantity: 'time', better: 'lower' },
  stopDistance: { words: 'Stops within', quantity: 'length', better: 'lower' },
  inputLatency: { words: 'Ticks to first motion', quantity: 'count', better: 'lower' },
  travelled: { words: 'Distance', quantity: 'length', better: null },
  meanSpeed: { words: 'Mean speed', quantity: 'speed', better: null },
  peakSpeed: { words: 'Peak speed', quantity: 'speed', better: null },
  timeStanding: { words: 'Standing', quantity: 'time', better: null },
  timeWalking: { words: 'Walking', quantity: 'time', better: null },
  timeSprinting: { words: 'Sprinting', quantity: 'time', better: null },
  timeSpent: { words: 'Spent', quantity: 'time', better: null },
  contacts: { words: 'Contacts', quantity: 'count', better: null },
  contactTime: { words: 'In contact', quantity: 'time', better: null },
  turned: { words: 'Facing turned', quantity: 'angle', better: null },
  reverseTime: { words: 'Reverses after', quantity: 'time', better: 'lower' },
  reverseOvershoot: { words: 'Reversal overshoot', quantity: 'length', better: 'lower' },
  turn90Radius: { words: 'Corners within', quantity: 'length', better: 'lower' },
  diagonalRatio: { words: 'Diagonal to straight', quantity: 'ratio', better: 'near', near: 1 },
  facingErrors: { words: 'Wrong facings', quantity: 'count', better: 'lower' },
  sprintTime: { words: 'Sprint lasts', quantity: 'time', better: null },
  sprintDistance: { words: 'Distance on one bar', quantity: 'length', better: null },
  recoverTime: { words: 'Sprints again after', quantity: 'time', better: null },
  sprintShare: { words: 'Sprint share', quantity: 'ratio', better: null },
  slideKept: { words: 'Slide keeps', quantity: 'ratio', better: 'higher' },
  seamCatches: { words: 'Catches on seams', quantity: 'count', better: 'lower' },
  cornerTremble: { words: 'Trembles in a corner', quantity: 'length', better: 'lower' },
  tightestGap: { words: 'Tightest gap', quantity: 'length', better: 'lower' },
  edgeOvershoot: { words: 'Overshoots the edge', quantity: 'length', better: 'lower' },
  edgeTremble: { words: 'Trembles at the edge', quantity: 'length', better: 'lower' },
  facingLag: { words: 'Facing settles after', quantity: 'time', better: 'lower' },
  facingFlips: { words: 'Facing flips', quantity: 'rate', better: 'lower' },
  pathRatio: { words: 'Path ÷ shortest path', quantity: 'ratio', better: 'near', near: 1 },
  arriveError: { words: 'Misses the point by', quantity: 'length', better: 'lower' },
  arriveOvershoot: { words: 'Overshoots the point', quantity: 'length', better: 'lower' },
  arriveTime: { words: 'Arrives after', quantity: 'time', better: 'lower' },
  stuckCount: { words: 'Gives up', quantity: 'count', better: 'lower' },
  followError: { words: 'Lags the pointer by', quantity: 'length', better: 'lower' },
  reclickKept: { words: 'Keeps on a new click', quantity: 'ratio', better: 'higher' },
  plantTurn: { words: 'Planted turn takes', quantity: 'time', better: 'lower' },
  plantDrift: { words: 'Planted drift', quantity: 'length', better: 'lower' },
  stepTime: { words: 'A step takes', quantity: 'time', better: null },
  stepLatency: { words: 'Steps after', quantity: 'time', better: 'lower' },
  stepDrift: { words: 'Off the cell centre', quantity: 'length', better: 'lower' },
  deadZoneDrift: { words: 'Drifts at rest', quantity: 'length', better: 'lower' },
  swipesTaken: { words: 'Swipes recognised of 4', quantity: 'count', better: 'higher' },
  autoRunEnds: { words: 'Auto-run ends after', quantity: 'time', better: 'lower' },
  cameraLag: { words: 'View lags by', quantity: 'length', better: null },
  lapTime: { words: 'Lap', quantity: 'time', better: 'lower' },
  lapSplit: { words: 'Split', quantity: 'time', better: 'lower' },
  lapTouches: { words: 'Touches in the lap', quantity: 'count', better: 'lower' },
  lapContactTime: { words: 'In contact in the lap', quantity: 'time', better: 'lower' },
  lapCorrections: { words: 'Corrections', quantity: 'rate', better: 'lower' },
  lapPath: { words: 'Lap ÷ planned path', quantity: 'ratio', better: 'near', near: 1 },
  lapSprint: { words: 'Sprint share of the lap', quantity: 'ratio', better: null },
  rateSensitivity: { words: 'Varies with tick rate', quantity: 'ratio', better: 'lower' },
} as const satisfies Record<string, MetricSpec>;

/** Angles (degrees) of the walls for which `slideKept` is measured. */
export const GRAZES: readonly number[] = [5, 15, 25, 35, 45, 55, 65, 75, 85];

export type MetricName = keyof typeof metricSpecs;

/**
 * Values by metric; a metric measured at an angle or a gate has it behind its name: `slideKept(45)`, `lapSplit(2)`; one of a tape has the tape's
 * number: `peakSpeed@1`.
 */
export type Metrics = Partial<
  Record<MetricName | `slideKept(${number})` | `lapSplit(${number})` | `${string}@${number}`, number | undefined>
>;

/** The key of a metric in values: its name, and its angle or gate if it has one. */
export const metricKey = (metric: string, at?: number): keyof Metrics =>
  metric === 'slideKept' ? `slideKept(${at ?? 45})` : metric === 'lapSplit' ? `lapSplit(${at ?? 1})` : (metric as MetricName);

/** The metric of a key in values, and its angle or gate, or the number of its tape, if it has one. */
export function metricOfKey(key: string): { metric: string; at?: number; tape?: number } {
  const [, onTape, tape] = /^(\w+)@([1-9]\d?)$/.exec(key) ?? [];
  if (onTape !== undefined) return { metric: onTape, tape: Number(tape) };
  const [, metric = key, at] = /^(\w+)\((\d+)\)$/.exec(key) ?? [];
  return { metric, ...(at === undefined ? {} : { at: Number(at) }) };
}

/** The spec of a key in values. */
export function metricSpecOf(key: string): MetricSpec {
  const { metric: name, at, tape } = metricOfKey(key);
  const spec: MetricSpec | undefined = Object.hasOwn(metricSpecs, name) ? metricSpecs[name as MetricName] : undefined;
  if (!spec) throw new Error(`no metric is called ${key}`);
  if (tape !== undefined) return { ...spec, words: `${spec.words} on ${tape === 1 ? 'the tape' : `tape ${tape}`}` };
  if (at === undefined) return spec;
  return { ...spec, words: name === 'lapSplit' ? `${spec.words} to gate ${at}` : `${spec.words} at ${at}°` };
}
