import type { MetricName } from '../metricSpecs.ts';
import { metricOfKey } from '../metricSpecs.ts';

/** Why a metric has no value: it does not apply to the tuning, or it could not be measured though it does. */
export interface Absence {
  why: string;
  applies: boolean;
}

/** Absences by the keys of metrics. */
export type Absences = Readonly<Record<string, Absence>>;

/** The reason why an applicable drill that ran has no value. */
const reasons: Partial<Record<MetricName, string>> = {
  riseTime: 'it did not reach full speed',
  riseDistance: 'it did not reach full speed',
  inputLatency: 'it did not move',
  stopTime: 'it did not come to rest',
  stopDistance: 'it did not come to rest',
  reverseTime: 'it did not reach full speed in the other direction',
  reverseOvershoot: 'it did not move',
  turn90Radius: 'it did not turn by 90°',
  diagonalRatio: 'it did not move',
  facingLag: 'it did not turn to its target',
  autoRunEnds: 'auto-run did not end',
  sprintTime: 'the bar did not run out during the drill',
  sprintDistance: 'the bar did not run out during the drill',
  recoverTime: 'stamina did not recover during the drill',
  slideKept: 'it did not move',
  tightestGap: 'it passed none of the gaps',
  arriveTime: 'it did not arrive',
  plantTurn: 'it did not turn',
  stepTime: 'it did not step',
  stepLatency: 'it did not step',
  stepDrift: 'it did not come to rest',
};

/** Why a drill that ran has no value for a metric that applies. */
export const reasonOf = (key: string): string => reasons[metricOfKey(key).metric as MetricName] ?? 'its drill measured no value';
