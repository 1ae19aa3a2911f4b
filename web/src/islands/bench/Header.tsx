import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import type { ReactNode } from 'react';
import { Open, revisionWords } from '../frame/Header.tsx';
import { DocumentPicker } from '../frame/Picker.tsx';
import { useTuning } from '../tuning/context.ts';
import type { Command } from '../work/commands.ts';
import { documentActions } from '../work/documentCommands.ts';
import { currentOf } from '../work/work.ts';

/** The tuning on the bench, with its changes, and the ground that it is driven on. */
export function OnBench({ commands, state }: { commands: Command[]; state: ReactNode }) {
  const { editing, saving, opening } = useTuning();
  const tuning = useStore(editing.$plainTuning);
  const before = useStore(editing.$beforeTuning);
  const head = useStore(saving.$head);
  return (
    <Open
      document={<DocumentPicker subject="tuning" name={tuning.file.name} opening={opening} actions={documentActions(commands)} />}
      revision={revisionWords(head, differences(before, tuning).filter(({ isWritten }) => isWritten).length)}
      other={
        <>
          <span className="mr-2 text-ink-soft">on</span>
          <DocumentPicker subject="ground" name={currentOf(opening.ground).name} opening={opening} />
        </>
      }
      state={state}
    />
  );
}

/** The flip between the tuning and its last revision. */
export function Flip() {
  const { editing } = useTuning();
  const flipped = useStore(editing.$flipped);
  return (
    <button
      type="button"
      aria-pressed={flipped}
      title="Flip between now and the last saved revision (B)"
      className="flex border border-ink"
      onClick={() => editing.flip()}
    >
      <span className={`px-2 py-0.5 ${flipped ? 'text-ink-soft' : 'bg-ink text-sheet'}`}>Now</span>
      <span className={`px-2 py-0.5 ${flipped ? 'bg-other text-sheet' : 'text-ink-soft'}`}>Before</span>
    </button>
  );
}
