import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Painters } from '../chart/frames.ts';
import { switchTheme } from '../chart/theme.ts';
import { Trouble } from '../controls/Trouble.tsx';
import { drives } from '../drive/bindings.ts';
import { BindingList } from './BindingList.tsx';
import { CommandList, KeyList, SaveRevision } from './CommandOverlays.tsx';
import { type Command, listenToCommands } from './commands.ts';
import { documentCommands } from './documentCommands.ts';
import { Naming } from './Naming.tsx';
import { useScreens } from './place.ts';
import { SaveNotice } from './SaveNotice.tsx';
import { ScreenHeader } from './ScreenHeader.tsx';
import type { Steps } from './steps.ts';
import type { Work } from './work.ts';

/** What a screen's shell is doing besides: asking for something over the screen. */
type Asking = 'save' | 'list' | 'keys' | 'bindings' | 'rename' | null;

/**
 * What all screens have: the header, saving, undo, the keys, the commands, driving, and what is asked over the screen. `work` runs as long as
 * the shell is there. A screen brings its own commands and what lies below the header.
 */
export function Shell<F extends { name: string }, S extends Steps<F>>({
  title,
  work,
  own,
  looking = [],
  unchanged,
  where,
  deeds,
  notice = null,
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
  children: ReactNode;
}) {
  const { here } = useScreens();
  const [asking, ask] = useState<Asking>(null);
  const [trouble, tell] = useState<string | null>(null);
  const commands = useMemo<Command[]>(
    () => [
      ...own,
      { id: 'restart', label: 'Back to the start', key: 'R', run: () => work.drive.restart() },
      { id: 'save', label: 'Save revision', key: 'Ctrl+S', run: () => ask('save') },
      { id: 'undo', label: 'Undo', key: 'Ctrl+Z', run: () => work.steps.undo() },
      { id: 'redo', label: 'Redo', key: 'Ctrl+Shift+Z', run: () => work.steps.redo() },
      ...documentCommands(work, here, { rename: () => ask('rename'), trouble: tell }),
      { id: 'theme', label: 'Day or night chart', key: 'T', run: switchTheme },
      { id: 'bindings', label: 'Driving keys', key: 'K', run: () => ask('bindings') },
      { id: 'keys', label: 'List of keys', key: '?', run: () => ask('keys') },
      { id: 'list', label: 'List of commands', key: 'Ctrl+K', run: () => ask('list') },
    ],
    [own, work, here],
  );
  useEffect(() => work.start(), [work]);
  useEffect(() => listenToCommands(commands, drives), [commands]);
  const close = () => ask(null);
  return (
    <Painters value={work.painters}>
      <div className="flex h-screen min-h-[620px] min-w-[960px] flex-col">
        <ScreenHeader work={work} unchanged={unchanged ?? false} commands={commands} where={where(commands)}>
          {deeds?.(commands)}
        </ScreenHeader>
        <main className="relative flex min-h-0 flex-1 flex-col">
          <h1 className="sr-only">{title}</h1>
          <SaveNotice work={work} otherwise={notice} />
          {children}
        </main>
      </div>
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
      {asking === 'list' && <CommandList commands={commands} close={close} />}
      {asking === 'bindings' && <BindingList commands={commands} close={close} />}
      {asking === 'keys' && <KeyList commands={commands} more={looking} close={close} />}
    </Painters>
  );
}
