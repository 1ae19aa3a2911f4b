import { useStore } from '@nanostores/react';
import type { ReactNode } from 'react';
import { Notice } from '../controls/Notice.tsx';
import type { Steps } from './steps.ts';
import type { Work } from './work.ts';

/** What stands in the way of saving, with the way out; where all is well, what else there is to be told. */
export function SaveNotice<F, S extends Steps<F>>({
  work: { trade, steps, saving },
  otherwise,
}: {
  work: Work<F, S>;
  otherwise: ReactNode;
}) {
  const state = useStore(saving.$state);
  if (state.at === 'offline')
    return (
      <Notice tone="trouble" role="alert">
        ◆ {state.why} Your changes are kept in this browser and are sent as soon as it answers. You can go on.
      </Notice>
    );
  if (state.at !== 'conflict') return otherwise;
  const mine = steps.$now.get();
  const merged = trade.merge?.(state.from, mine, state.theirs);
  const take = (file: F) => {
    saving.settle(file);
    if (state.head !== undefined) steps.$before.set(state.saved ?? state.theirs);
    steps.replace(file, `merge with the other ${trade.subject}`);
  };
  const conflicts = merged?.conflicts ?? [];
  return (
    <Notice tone="trouble" role="alert">
      <span>
        ◆ This {trade.subject} was changed in another tab or by somebody else.{' '}
        {merged && (conflicts.length > 0 ? `Both changed: ${conflicts.join(', ')}.` : 'Nothing was changed by both.')}
      </span>
      <button type="button" className="deed" onClick={() => take(merged?.file ?? mine)}>
        {!merged ? 'Keep mine' : conflicts.length > 0 ? 'Keep both, mine where both changed' : 'Keep both'}
      </button>
      <button type="button" className="deed" onClick={() => take(state.theirs)}>
        Take theirs
      </button>
    </Notice>
  );
}
