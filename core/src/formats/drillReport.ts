import type { Metrics } from '../measure/metricSpecs.ts';
import type { Snag } from '../measure/snags/snag.ts';
import type { JudgedTarget } from '../targets/targets.ts';

/** The results of drills in a report. */
interface Reported {
  tuning: string;
  /** The name of the ground whose snags are among them; null: none was given. */
  ground: string | null;
  drills: readonly { name: string; not: string | null; metrics: Metrics; cutShort: string | null }[];
  metrics: Metrics;
  targets: readonly JudgedTarget[];
  snags: readonly Snag[];
}

/** The report of a tuning's drills for machines: what `./zygopod drill --json` prints, and what a page exports. */
export const drillReport = ({ tuning, ground, drills, metrics, targets, snags }: Reported): Record<string, unknown> => ({
  tuning,
  ground,
  drills: drills.map(({ name, not, metrics: own, cutShort }) => ({
    name,
    ...(not === null ? { metrics: own } : { metrics: {}, notRun: not }),
    ...(cutShort ? { cutShort } : {}),
  })),
  metrics,
  targets: targets.map(({ metric, at, min, max, value, ok, why, fault }) => ({
    metric,
    at,
    min,
    max,
    value,
    ok,
    ...(why ? { why } : {}),
    ...(fault ? { fault } : {}),
  })),
  snags,
});
