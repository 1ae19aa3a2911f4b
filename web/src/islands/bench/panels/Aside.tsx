import { useStore } from '@nanostores/react';
import { useEffect, useState } from 'react';
import { Judge } from '../../judging/judge.ts';
import { useTuning } from '../../tuning/context.ts';
import type { HandLaps } from '../laps/handLaps.ts';
import { LapList } from '../laps/LapList.tsx';
import { Calipers } from './Calipers.tsx';
import { Changes } from './Changes.tsx';
import { Effects } from './Effects.tsx';
import { Partings } from './Partings.tsx';
import { Snags } from './Snags.tsx';
import { StartHere } from './StartHere.tsx';

/** Right of the yard: the calipers while they measure, the changes, their effects, and what is wrong. */
export function Aside({ laps, loop }: { laps: HandLaps; loop(tape: unknown): void }) {
  const { editing, drive, saving, opening } = useTuning();
  const isUnsaved = useStore(saving.$head) === 0;
  const file = useStore(editing.$now);
  const isFlipped = useStore(editing.$flipped);
  const [judge] = useState(() => new Judge());
  const { ground } = drive.world;
  useEffect(() => judge.ask(file, ground), [judge, file, ground]);
  useEffect(() => () => judge.stop(), [judge]);
  return (
    <aside
      aria-label="Calipers, changes, effects, snags and laps"
      className="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-rule bg-paper px-3 py-2"
    >
      {isUnsaved && <StartHere project={opening.project.id} unit={file.unit} />}
      <Calipers />
      {!isUnsaved && <Changes />}
      {!isFlipped && <Effects judge={judge} />}
      <Snags judge={judge} />
      <Partings />
      {laps.hasCourse && <LapList laps={laps} loop={loop} />}
    </aside>
  );
}
