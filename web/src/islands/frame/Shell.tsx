import { useStore } from '@nanostores/react';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Trouble } from '../controls/Trouble.tsx';
import type { Command } from '../work/commands.ts';
import { documentCommands } from '../work/documentCommands.ts';
import { Naming } from '../work/Naming.tsx';
import { placeOf, useScreens } from '../work/place.ts';
import { SaveNotice } from '../work/saving/SaveNotice.tsx';
import { saveWords } from '../work/saving/saveWords.ts';
import type { Steps } from '../work/steps.ts';
import type { Work } from '../work/work.ts';
import { SaveRevision } from './CommandOverlays.tsx';
import { Frame } from './Frame.tsx';

/**
 * The shared frame of all screens with a document: header, saving, undo, driving, and dialogs. `work` runs as long as the shell is mounted. A screen
 * adds its own commands and the content below the header.
 */
export function Shell<F extends { name: string }, S extends Steps<F>>({
  title,
  work,
  own,
  looking = [],
  unchanged = false,
  open,
  actions,
  notice = null,
  takesFile,
  children,
}: {
  title: string;
  work: Work<F, S>;
  /** The screen's own commands. */
  own: readonly Command[];
  /** Other pointer and key gestures, for the list of keys. */
  looking?: readonly (readonly [string, string])[];
  /** True where the file is the last revision's, whatever was sent meanwhile. */
  unchanged?: boolean;
  /** Renders the open documents for the header: names, revision and saving state. */
  open(commands: Command[], state: ReactNode): ReactNode;
  /** The screen's own actions in the header. */
  actions?(commands: Command[]): ReactNode;
  /** Other notices, shown while saving has no problem. */
  notice?: ReactNode;
  /** True if the screen takes a dropped file itself. */
  takesFile?(file: File): Promise<boolean>;
  children: ReactNode;
}) {
  const { here } = useScreens();
  const [asking, ask] = useState<'save' | 'rename' | null>(null);
  const [trouble, setProblem] = useState<string | null>(null);
  const commands = useMemo<Command[]>(
    () => [
      ...own,
      { id: 'restart', label: 'Back to the start', key: 'R', run: () => work.drive.restart() },
      { id: 'save', label: 'Save revision', key: 'Ctrl+S', run: () => ask('save') },
      { id: 'undo', label: 'Undo', key: 'Ctrl+Z', run: () => work.steps.undo() },
      { id: 'redo', label: 'Redo', key: 'Ctrl+Shift+Z', run: () => work.steps.redo() },
      ...documentCommands(work, here, { rename: () => ask('rename'), trouble: setProblem }),
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
        open={open(commands, <State work={work} unchanged={unchanged} />)}
        actions={
          <>
            {actions?.(commands)}
            <Actions work={work} save={() => ask('save')} />
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
      <Trouble why={trouble} close={() => setProblem(null)} />
      {asking === 'save' && <SaveRevision save={work.save} close={close} />}
    </>
  );
}

/** How the work stands with the server. */
function State<F extends object, S extends Steps<F>>({ work, unchanged }: { work: Work<F, S>; unchanged: boolean }) {
  const head = useStore(work.saving.$head);
  const state = useStore(work.saving.$state);
  return (
    <p className="digits text-xs whitespace-nowrap text-ink-soft" role="status" data-testid="save-state" data-state={state.at}>
      {/* Unsaved work is shown beside its name. */}
      {head === 0 && state.at === 'saved' ? '' : unchanged && state.at === 'draft' ? saveWords.saved : saveWords[state.at]}
    </p>
  );
}

/** The actions on the document as a whole. */
function Actions<F extends object, S extends Steps<F>>({ work: { steps }, save }: { work: Work<F, S>; save(): void }) {
  const { undo, redo } = useStore(steps.$history);
  return (
    <>
      <span className="flex gap-1.5">
        <IconButton
          label="Undo"
          title={undo ? `Undo: ${undo} (Ctrl+Z)` : 'Nothing to undo'}
          off={!undo}
          path="M3.5 5.5h7a3.5 3.5 0 0 1 0 7H8M6.5 2.5l-3 3 3 3"
          run={() => steps.undo()}
        />
        <IconButton
          label="Redo"
          title={redo ? `Redo: ${redo} (Ctrl+Shift+Z)` : 'Nothing to redo'}
          off={!redo}
          path="M12.5 5.5h-7a3.5 3.5 0 0 0 0 7H8M9.5 2.5l3 3-3 3"
          run={() => steps.redo()}
        />
      </span>
      <button type="button" className="action" title="Save revision (Ctrl+S)" onClick={save}>
        Save revision
      </button>
    </>
  );
}

/** A button with a drawing of 16 × 16 in place of a word. */
function IconButton({ label, title, off, path, run }: { label: string; title: string; off: boolean; path: string; run(): void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={title}
      disabled={off}
      className="grid size-6 place-items-center border border-rule bg-sheet text-ink hover:border-ink disabled:text-ink-soft disabled:opacity-45"
      onClick={run}
    >
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true" className="fill-none stroke-current" strokeWidth="1.4">
        <path d={path} />
      </svg>
    </button>
  );
}
