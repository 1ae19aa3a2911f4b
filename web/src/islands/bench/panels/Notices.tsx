import { useStore } from '@nanostores/react';
import { numberAt, shortNumber, specOf } from '@zygopod/core';
import { Notice } from '../../controls/Notice.tsx';
import { useTuning } from '../../tuning/context.ts';

/** Notices for the driver: a number being tried, or an older revision being driven. */
export function Notices() {
  const { editing } = useTuning();
  const flipped = useStore(editing.$flipped);
  const trial = useStore(editing.$trial);
  const { parameters } = useStore(editing.$tuning);
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
