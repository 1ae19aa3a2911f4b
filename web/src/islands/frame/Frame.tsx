import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type Painter, Painters } from '../chart/frames.ts';
import { switchTheme } from '../chart/theme.ts';
import { useDroppedFiles } from '../controls/useDroppedFiles.ts';
import { drives } from '../drive/bindings.ts';
import { type Command, listenToCommands } from '../work/commands.ts';
import { ImportFiles } from '../work/importing/ImportFiles.tsx';
import { type Place, useScreens } from '../work/place.ts';
import { isUnfinished } from '../work/unfinished.ts';
import { About } from './About.tsx';
import { AppMenu } from './AppMenu.tsx';
import { BindingList } from './BindingList.tsx';
import { CommandList, KeyList } from './CommandOverlays.tsx';
import { ScreenIndex, ScreenMenu } from './ScreenIndex.tsx';

/** The frame of every screen: the thumb index at the left edge, the header for what is open, the commands and their keys, and below them the screen. */
export function Frame({
  title,
  place,
  painters,
  commands,
  looking = [],
  open,
  actions = null,
  takesFile,
  onImport = nothing,
  children,
}: {
  title: string;
  place: Place;
  painters: Set<Painter>;
  /** The commands of the screen; those of every page come after them. */
  commands: readonly Command[];
  /** Keys and gestures that are no commands, for the list of keys. */
  looking?: readonly (readonly [string, string])[];
  /** The left half of the header: the open documents. */
  open: ReactNode;
  /** The actions on it, in the right half. */
  actions?: ReactNode;
  /** Takes a dropped file on the screen itself, or says that it does not; then it is imported. */
  takesFile?(file: File): Promise<boolean>;
  /** Called after documents were imported. */
  onImport?(): void;
  children: ReactNode;
}) {
  const { screens, here } = useScreens();
  const [dropped, drop] = useState<readonly File[] | null>(null);
  const take = useRef(takesFile);
  useEffect(() => {
    take.current = takesFile;
  }, [takesFile]);
  const onDrop = useCallback((files: readonly File[]) => {
    const only = files.length === 1 ? files[0] : undefined;
    const taken = Promise.resolve(only ? take.current?.(only) : false);
    void taken.catch(() => false).then((isTaken) => !isTaken && drop(files));
  }, []);
  useDroppedFiles(onDrop);
  const [asking, ask] = useState<'list' | 'keys' | 'bindings' | 'about' | null>(null);
  const own = useMemo<Command[]>(
    () => [
      { id: 'theme', label: 'Light or dark', key: 'T', run: switchTheme },
      { id: 'bindings', label: 'Driving keys', key: 'K', run: () => ask('bindings') },
      { id: 'keys', label: 'List of keys', key: '?', run: () => ask('keys') },
      { id: 'about', label: 'About Zygopod', key: '', run: () => ask('about') },
    ],
    [],
  );
  const all = useMemo<Command[]>(
    () => [...commands, ...own, { id: 'list', label: 'List of commands', key: 'Ctrl+K', run: () => ask('list') }],
    [commands, own],
  );
  useEffect(() => listenToCommands(all, drives), [all]);
  useEffect(() => {
    const asking = (event: BeforeUnloadEvent) => {
      if (isUnfinished()) event.preventDefault();
    };
    window.addEventListener('beforeunload', asking);
    return () => window.removeEventListener('beforeunload', asking);
  }, []);
  const index = { screens, here, place };
  return (
    <Painters value={painters}>
      <div className="flex h-screen min-h-[620px]">
        <ScreenIndex {...index} />
        <div className="flex min-w-0 flex-1 flex-col">
          <header className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-4 border-b border-ink px-4">
            <ScreenMenu {...index} />
            {open}
            <div className="ml-auto flex min-h-8 flex-wrap items-center gap-x-3">
              {actions}
              <button type="button" className="keycap min-h-6" title="List of commands" onClick={() => ask('list')}>
                Ctrl K
              </button>
              <AppMenu commands={own} />
            </div>
          </header>
          {/* A screen that is wider than the window scrolls below its header. */}
          <div className="flex min-h-0 flex-1 overflow-x-auto">
            <main className="relative flex min-h-0 min-w-[930px] flex-1 flex-col">
              <h1 className="sr-only">{title}</h1>
              {children}
            </main>
          </div>
        </div>
      </div>
      {dropped && <ImportFiles files={dropped} close={() => drop(null)} done={onImport} />}
      {asking === 'list' && <CommandList commands={all} close={() => ask(null)} />}
      {asking === 'bindings' && <BindingList commands={all} close={() => ask(null)} />}
      {asking === 'keys' && <KeyList commands={all} more={looking} close={() => ask(null)} />}
      {asking === 'about' && <About close={() => ask(null)} />}
    </Painters>
  );
}

/** Nothing on the screen shows what else is in the project. */
const nothing = () => undefined;
