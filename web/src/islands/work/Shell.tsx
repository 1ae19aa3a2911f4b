import { useStore } from '@nanostores/react';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Deed } from '../controls/Deed.tsx';
import { Trouble } from '../controls/Trouble.tsx';
import { SaveRevision } from './CommandOverlays.tsx';
import type { Command } from './commands.ts';
import { documentCommands } from './documentCommands.ts';
import { Frame } from './Frame.tsx';
import { Naming } from './Naming.tsx';
import { placeOf, useScreens } from './place.ts';
import { SaveNotice } from './saving/SaveNotice.tsx';
import { saveWords } from './saving/saveWords.ts';
import type { Steps } from './steps.ts';
import type { Work } from './work.ts';

/**
 * What all screens have on which a document is worked: the frame of every page, saving, undo, driving, and what is asked over the screen.
 * `work` runs as long as the shell is there. A screen brings its own commands and what lies below the header.
 */
export function Shell<F extends { name: string }, S extends Steps<F>>({
  title,
  work,
  own,
  looking = [],
  unchanged = false,
  where,
  deeds,
  notice = null,
  takesFile,
  children,
}: {
  title: string;
  work: Work<F, S>;
  /** The screen's own commands. */
  own: readonly Command[];
  /** What can be done with pointer and keys besides, for the list of keys. */
  looking?: readonly (readonly [string, string])[];
  /** True where the file is the last revision's, whatever was sent meanwhile. */
  unchanged?: boolean;
  /** What is under work, in the header's line. */
  where(commands: Command[]): ReactNode;
  /** The screen's own deeds in the header. */
  deeds?(commands: Command[]): ReactNode;
  /** What else there is to be told over the screen, where saving is in no trouble. */
  notice?: ReactNode;
  /** Whether the screen takes a dropped file itself. */
  takesFile?(file: File): Promise<boolean>;
  children: ReactNode;
}) {
  const { here } = useScreens();
  const [asking, ask] = useState<'save' | 'rename' | null>(null);
  const [trouble, tell] = useState<string | null>(null);
  const commands = useMemo<Command[]>(
    () => [
      ...own,
      { id: 'restart', label: 'Back to the start', key: 'R', run: () => work.drive.restart() },
      { id: 'save', label: 'Save revision', key: 'Ctrl+S', run: () => ask('save') },
      { id: 'undo', label: 'Undo', key: 'Ctrl+Z', run: () => work.steps.undo() },
      { id: 'redo', label: 'Redo', key: 'Ctrl+Shift+Z', run: () => work.steps.redo() },
      ...documentCommands(work, here, { rename: () => ask('rename'), trouble: tell }),
    ],
    [own, work, here],
  );
  useEffect(() => work.start(), [work]);
  const close = () => ask(null);
  return (
    <>
      <Frame
        title={title}
        place={placeOf(work.opening)}
        painters={work.painters}
        commands={commands}
        looking={looking}
        {...(takesFile ? { takesFile } : {})}
        where={where(commands)}
        state={<State work={work} unchanged={unchanged} />}
        deeds={
          <>
            {deeds?.(commands)}
            <Deeds work={work} save={() => ask('save')} />
          </>
        }
      >
        <SaveNotice work={work} otherwise={notice} />
        {children}
      </Frame>
      {asking === 'rename' && (
        <Naming
          title={`Rename the ${work.trade.subject}`}
          verb="Rename"
          name={work.steps.$now.get().name}
          take={async (name) => {
            work.steps.replace({ ...work.steps.$now.get(), name }, 'rename');
            return null;
          }}
          close={close}
        />
      )}
      <Trouble why={trouble} close={() => tell(null)} />
      {asking === 'save' && <SaveRevision save={work.save} close={close} />}
    </>
  );
}

/** How the work stands with the server. */
function State<F extends object, S extends Steps<F>>({ work, unchanged }: { work: Work<F, S>; unchanged: boolean }) {
  const state = useStore(work.saving.$state);
  return (
    <p className="digits ml-1 shrink-0 text-xs text-ink-soft" role="status" data-testid="save-state" data-state={state.at}>
      {unchanged && state.at === 'draft' ? saveWords.saved : saveWords[state.at]}
    </p>
  );
}

/** The deeds that concern all of a document. */
function Deeds<F extends object, S extends Steps<F>>({ work: { steps }, save }: { work: Work<F, S>; save(): void }) {
  const { undo, redo } = useStore(steps.$history);
  return (
    <>
      <Deed label="Undo" title={undo ? `Undo: ${undo} (Ctrl+Z)` : 'Nothing to undo'} off={!undo} run={() => steps.undo()} />
      <Deed label="Redo" title={redo ? `Redo: ${redo} (Ctrl+Shift+Z)` : 'Nothing to redo'} off={!redo} run={() => steps.redo()} />
      <button type="button" className="deed" title="Save revision (Ctrl+S)" onClick={save}>
        Save revision
      </button>
    </>
  );
}
