import { resolveTuning, type Tuning } from '@zygopod/core';
import type { Opening } from '../../server/data/openings.ts';
import { currentOf } from '../work/work.ts';
import type { SideRef } from './address.ts';

/** The tuning that the page was opened with, as it is: its draft, else its newest revision. */
export function openedTuning({ tuning }: Opening, rate: SideRef['rate']): { ref: SideRef; name: string; revision: string; tuning: Tuning } {
  const read = resolveTuning(currentOf(tuning));
  if (!read.ok) throw new Error(`the tuning ${tuning.id} does not resolve`);
  const { head, draft } = tuning;
  return {
    // A draft is in no revision: no address can name it but by the newest state.
    ref: { id: tuning.id, revision: draft ? null : head, rate },
    name: read.value.file.name,
    revision: draft ? `rev ${draft.base}, changed` : `rev ${head}`,
    tuning: read.value,
  };
}
