import type { MetricName } from '../metricSpecs.ts';
import { metricOfKey } from '../metricSpecs.ts';

/** Why a metric has no value: it does not apply to the tuning, or it could not be measured though it does. */
export interface Absence {
  why: string;
  applies: boolean;
}

/** Absences by the keys of metrics. */
export type Absences = Readonly<Record<string, Absence>>;

/** Why a drill gave no value, where it ran and the metric applies. */
const reasons: Partial<Record<MetricName, string>> = {
  riseTime: 'it did not come up to speed',
  riseDistance: 'it did not come up to speed',
  inputLatency: 'it did not move',
  stopTime: 'it did not come to rest',
  stopDistance: 'it did not come to rest',
  reverseTime: 'it did not come up to speed the other way',
  reverseOvershoot: 'it did not move',
  turn90Radius: 'it did not turn by 90°',
  diagonalRatio: 'it did not move',
  facingLag: 'it did not turn to where it was asked to',
  autoRunEnds: 'auto-run did not end',
  sprintTime: 'the bar did not run out while it was watched',
  sprintDistance: 'the bar did not run out while it was watched',
  recoverTime: 'stamina was not back while it was watched',
  slideKept: 'it did not move',
  tightestGap: 'it came through none of the gaps',
  arriveTime: 'it did not arrive',
  plantTurn: 'it did not turn',
  stepTime: 'it made no steps',
  stepLatency: 'it made no steps',
  stepDrift: 'it did not come to rest',
};

/** Why a drill that ran has no value for a metric that applies. */
export const reasonOf = (key: string): string => reasons[metricOfKey(key).metric as MetricName] ?? 'its drill gave no number';
