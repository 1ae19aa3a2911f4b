import type { Drill } from '../measure/drills/drill.ts';
import { drills } from '../measure/drills/list.ts';
import type { Metrics } from '../measure/metricSpecs.ts';

/** The drills that are needed for metrics: of several that give one, the first counts, as in a report. */
export function drillsFor(metrics: readonly (keyof Metrics)[]): Drill[] {
  const needed = new Set(metrics.map((key) => drills.find(({ gives }) => gives.includes(key))));
  return drills.filter((drill) => needed.has(drill));
}
