import { useStore } from '@nanostores/react';
import { numberAt, shortNumber, specOf } from '@zygopod/core';
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
      <p role="alert" className="border-b border-ink bg-solid px-4 py-1.5 text-ink">
        ◆ {state.why} Your changes are kept in this browser and are sent as soon as it answers. You can go on.
      </p>
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
      <div role="alert" className="flex items-baseline gap-4 border-b border-ink bg-solid px-4 py-1.5 text-ink">
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
      </div>
    );
  }
  if (trial)
    return (
      <p role="status" className="border-b border-now bg-sheet px-4 py-1 text-now">
        ◆ Trying {specOf(trial.path).label} × {trial.factor}: <b className="digits">{shortNumber(numberAt(parameters, trial.path))}</b>, as
        long as the key is held.
      </p>
    );
  if (flipped)
    return (
      <p role="status" className="border-b border-other bg-sheet px-4 py-1 text-other">
        ◇ You are driving the last saved revision. Press B to come back to your changes.
      </p>
    );
  return null;
}
