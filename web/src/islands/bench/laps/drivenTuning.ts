import type { HandLap } from '../../laps/lapStore.ts';
import type { TuningWork } from '../../tuning/context.ts';

/** The tuning that drives at the moment, as a lap records it: the last revision, or the draft with the numbers as they are. */
export function drivenTuning({ editing, saving }: TuningWork): HandLap['tuning'] {
  const { file } = editing.$tuning.get();
  const revision = saving.$head.get();
  return { id: saving.id, revision, isDraft: revision === 0 || JSON.stringify(file) !== JSON.stringify(editing.$before.get()), file };
}
