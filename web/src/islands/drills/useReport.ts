import { useStore } from '@nanostores/react';
import { useDrills } from './drillsWork.ts';
import { useFound } from './found.ts';
import { type Report, reportOf } from './reports.ts';

/** Makes the report of what is judged now; null while nothing is. */
export function useReport(): () => Report | null {
  const { work, now, $judging } = useDrills();
  const judged = useStore(now.$judged);
  const found = useFound();
  return () => {
    if (!judged) return null;
    const { tuning, ground } = work.opening;
    const file = work.editing.$now.get();
    const of = {
      tuning: { id: tuning.id, revision: work.saving.$head.get(), name: file.name },
      changedSince: JSON.stringify(file) !== JSON.stringify(work.editing.$before.get()),
      ground: { id: ground.id, revision: ground.head, name: work.drive.world.ground.name },
    };
    return reportOf(of, $judging.get(), judged.judgement, found);
  };
}
