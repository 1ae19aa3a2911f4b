import type { Ground, Metrics, TuningFile } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import { Desk } from '../../workers/desk.ts';
import type { DrillsApi } from '../../workers/drills.ts';

/** Milliseconds without a change after which drills are run, and seconds after which they are given up. */
const REST = 150;
const PATIENCE = 20;

/** A worker of its own for drills, as long as a component is there. */
export function useDrillsDesk(): Desk<DrillsApi> {
  const desk = useMemo(
    () => new Desk<DrillsApi>(() => new Worker(new URL('../../workers/drills.ts', import.meta.url), { type: 'module' })),
    [],
  );
  useEffect(() => () => desk.stop(), [desk]);
  return desk;
}

/** Of what the metrics are, or why there are none. */
type Known = { key: string; ground: Ground | null } & ({ metrics: Metrics[] } | { why: string });

/**
 * The metrics of some tunings, drilled at a desk: null until they are known, or why they aren't. They are those of `files` as they were last. A lap
 * is driven on `ground`, if that has a course.
 */
export function useMetrics(
  desk: Desk<DrillsApi>,
  files: readonly TuningFile[] | null,
  ground: Ground | null,
): { metrics: Metrics[] } | { why: string } | null {
  const [known, set] = useState<Known | null>(null);
  const key = files === null ? '' : JSON.stringify(files);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the files are named by their key
  useEffect(() => {
    if (files === null) return;
    let isCurrent = true;
    const timer = setTimeout(() => {
      desk
        .call((remote) => remote.all(files, ground), PATIENCE)
        .then(
          (metrics) => isCurrent && set({ key, ground, metrics }),
          (error) => isCurrent && set({ key, ground, why: error instanceof Error ? error.message : String(error) }),
        );
    }, REST);
    return () => {
      isCurrent = false;
      clearTimeout(timer);
    };
  }, [key, ground, desk]);
  return known?.key === key && known.ground === ground ? known : null;
}
