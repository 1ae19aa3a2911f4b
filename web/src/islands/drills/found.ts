import { useStore } from '@nanostores/react';
import { bySeverity, type Snag, tuningSnags } from '@zygopod/core';
import { useMemo } from 'react';
import { useDrills } from './drillsWork.ts';

/** The snags of the tuning, of the ground and of the drills, worst first, each kind once. */
export function useFound(): readonly Snag[] {
  const { work, now } = useDrills();
  const judged = useStore(now.$judged);
  const tuning = useStore(work.editing.$plainTuning);
  return useMemo(() => {
    const all = bySeverity([...tuningSnags(tuning, work.drive.world.ground), ...(judged?.judgement.snags ?? [])]);
    return [...new Map(all.map((snag): [string, Snag] => [snag.id, snag])).values()];
  }, [tuning, judged, work]);
}
