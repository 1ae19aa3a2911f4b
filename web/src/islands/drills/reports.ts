import { judgeTargets, type Metrics, metricKey, type Snag, type TargetSet, VERSION } from '@zygopod/core';
import type { Judgement } from '../../workers/drills.ts';
import { askServer } from '../work/server.ts';

/** A document at one of its revisions; a target set may be in none. */
interface Named<Id = string> {
  id: Id;
  revision: number;
  name: string;
}

/** Drill results of a tuning, as saved and exported. */
export interface Report {
  tuning: Named;
  /** True if it was drilled with unsaved changes. */
  changedSince: boolean;
  ground: Named;
  targets: Named<string | null>;
  core: string;
  metrics: Metrics;
  judged: { metric: string; min?: number; max?: number; ok: boolean | null }[];
  snags: { id: string; severity: Snag['severity'] }[];
}

export interface KeptReport extends Report {
  id: string;
  createdAt: string;
}

/** The report of a judgement by a set of targets. */
export function reportOf(
  of: Pick<Report, 'tuning' | 'changedSince' | 'ground'>,
  { id, head, set }: { id: string | null; head: number; set: TargetSet },
  { metrics, absent }: Pick<Judgement, 'metrics' | 'absent'>,
  snags: readonly Snag[],
): Report {
  return {
    ...of,
    targets: { id, revision: head, name: set.name },
    core: VERSION,
    metrics,
    judged: judgeTargets(set.targets, metrics, absent).map(({ metric, at, min, max, ok }) => ({
      metric: metricKey(metric, at),
      ...(min === undefined ? {} : { min }),
      ...(max === undefined ? {} : { max }),
      ok,
    })),
    snags: snags.map(({ id, severity }) => ({ id, severity })),
  };
}

/** How a report stands: targets met, and targets missed. */
export function countsOf({ judged }: Report): { met: number; missed: number } {
  const count = (ok: boolean) => judged.filter((one) => one.ok === ok).length;
  return { met: count(true), missed: count(false) };
}

/** Keeps a report; says why it cannot. */
export async function keepReport(report: Report): Promise<KeptReport | { why: string }> {
  const answer = await askServer<KeptReport>('POST', '/api/v1/reports', { body: report });
  return 'why' in answer ? answer : answer.body;
}

/** The reports that are kept of a tuning, newest first; none where the server cannot be reached. */
export async function keptReports(tuning: string): Promise<KeptReport[]> {
  const answer = await askServer<{ items: KeptReport[] }>('GET', `/api/v1/reports?tuning=${tuning}`);
  return 'why' in answer ? [] : answer.body.items;
}
