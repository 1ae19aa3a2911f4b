import { useStore } from '@nanostores/react';
import { numberAt, shortNumber, specOf } from '@zygopod/core';
import { Notice } from '../../controls/Notice.tsx';
import { useTuning } from '../../tuning/context.ts';
import { SaveNotice } from '../../work/SaveNotice.tsx';

/** What the driver has to know: trouble with saving, a number that is tried, an older revision under the feet. */
export function Notices() {
  const work = useTuning();
  const { editing, saving } = work;
  const { at } = useStore(saving.$state);
  const flipped = useStore(editing.$flipped);
  const trial = useStore(editing.$trial);
  const { parameters } = useStore(editing.$tuning);
  if (at === 'offline' || at === 'conflict') return <SaveNotice work={work} />;
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
