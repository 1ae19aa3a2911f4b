import { useStore } from '@nanostores/react';
import { numberAt, shortNumber, specOf } from '@zygopod/core';
import { Notice } from '../../controls/Notice.tsx';
import { useBench } from '../context.ts';
import { merge } from '../session/merge.ts';

/** What stands in the way of saving, with the way out. */
export function Banner() {
  const { editing, saving } = useBench();
  const state = useStore(saving.$state);
  const flipped = useStore(editing.$flipped);
  const trial = useStore(editing.$trial);
  const { parameters } = useStore(editing.$tuning);
  if (state.at === 'offline')
    return (
      <Notice tone="trouble" role="alert">
        ◆ {state.why} Your changes are kept in this browser and are sent as soon as it answers. You can go on.
      </Notice>
    );
  if (state.at === 'conflict') {
    const mine = editing.$now.get();
    const take = (file: typeof mine) => {
      saving.settle(file);
      if (state.head !== undefined) editing.$before.set(state.saved ?? state.theirs);
      editing.replace(file, 'merge with the other draft');
    };
    const { file, conflicts } = merge(state.from, mine, state.theirs);
    return (
      <Notice tone="trouble" role="alert">
        <span>
          ◆ This tuning was changed in another tab or by somebody else.{' '}
          {conflicts.length > 0 ? `Both changed: ${conflicts.join(', ')}.` : 'Nothing was changed by both.'}
        </span>
        <button type="button" className="deed" onClick={() => take(file)}>
          {conflicts.length > 0 ? 'Keep both, mine where both changed' : 'Keep both'}
        </button>
        <button type="button" className="deed" onClick={() => take(state.theirs)}>
          Take theirs
        </button>
      </Notice>
    );
  }
  if (trial)
    return (
      <Notice tone="now" role="status">
        <span>
          ◆ Trying {specOf(trial.path).label} × {trial.factor}: <b className="digits">{shortNumber(numberAt(parameters, trial.path))}</b>,
          as long as the key is held.
        </span>
      </Notice>
    );
  if (flipped)
    return (
      <Notice tone="other" role="status">
        ◇ You are driving the last saved revision. Press B to come back to your changes.
      </Notice>
    );
  return null;
}
