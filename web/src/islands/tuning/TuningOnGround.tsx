import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import type { ReactNode } from 'react';
import { Open, revisionWords } from '../frame/Header.tsx';
import { DocumentPicker } from '../frame/Picker.tsx';
import type { Command } from '../work/commands.ts';
import { documentActions } from '../work/documentCommands.ts';
import { currentOf } from '../work/work.ts';
import { useTuning } from './context.ts';

/** The tuning under work, by its revision and the changes since. */
export function useRevisionWords(): string {
  const { editing, saving } = useTuning();
  const tuning = useStore(editing.$plainTuning);
  const before = useStore(editing.$beforeTuning);
  const head = useStore(saving.$head);
  return revisionWords(head, differences(before, tuning).filter(({ isWritten }) => isWritten).length);
}

/** The tuning under work, with its changes, and the ground that it is driven on: for the header. */
export function TuningOnGround({ commands, state }: { commands: Command[]; state: ReactNode }) {
  const { editing, opening } = useTuning();
  const { file } = useStore(editing.$plainTuning);
  const revision = useRevisionWords();
  return (
    <Open
      document={<DocumentPicker subject="tuning" name={file.name} opening={opening} actions={documentActions(commands)} />}
      revision={revision}
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
