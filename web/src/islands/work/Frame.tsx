import { useStore } from '@nanostores/react';
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type Painter, Painters } from '../chart/frames.ts';
import { switchTheme } from '../chart/theme.ts';
import { Deed } from '../controls/Deed.tsx';
import { Mark } from '../controls/Mark.tsx';
import { useDroppedFiles } from '../controls/useDroppedFiles.ts';
import { drives } from '../drive/bindings.ts';
import { BindingList } from './BindingList.tsx';
import { BringIn } from './bringIn/BringIn.tsx';
import { CommandList, KeyList } from './CommandOverlays.tsx';
import { type Command, listenToCommands } from './commands.ts';
import type { Place } from './place.ts';
import { $project } from './project.ts';
import { Screens } from './Screens.tsx';
import { isUnfinished } from './unfinished.ts';

/**
 * What every page of the application has: the header with what is shown and the way to the other screens, the commands and their keys, and
 * what lies below.
 */
export function Frame({
  title,
  place,
  painters,
  commands,
  looking = [],
  where,
  state = null,
  deeds = null,
  isShelf = false,
  takesFile,
  broughtIn = nothing,
  children,
}: {
  title: string;
  place: Place;
  painters: Set<Painter>;
  /** The commands of the screen; those that every page has come after them. */
  commands: readonly Command[];
  /** What can be done with pointer and keys besides, for the list of keys. */
  looking?: readonly (readonly [string, string])[];
  /** What is shown, in the header's line of crumbs. */
  where: ReactNode;
  /** How it stands. */
  state?: ReactNode;
  deeds?: ReactNode;
  /** The project stands in the crumbs by itself. */
  isShelf?: boolean;
  /** Takes a dropped file on the screen itself, or says that it does not; then it is brought in. */
  takesFile?(file: File): Promise<boolean>;
  /** Documents were brought in. */
  broughtIn?(): void;
  children: ReactNode;
}) {
  const [dropped, drop] = useState<readonly File[] | null>(null);
  const take = useRef(takesFile);
  take.current = takesFile;
  const onDrop = useCallback((files: readonly File[]) => {
    const only = files.length === 1 ? files[0] : undefined;
    void Promise.resolve(only && take.current?.(only)).then((isTaken) => {
      if (!isTaken) drop(files);
    });
  }, []);
  useDroppedFiles(onDrop);
  const [asking, ask] = useState<'list' | 'keys' | 'bindings' | null>(null);
  const all = useMemo<Command[]>(
    () => [
      ...commands,
      { id: 'theme', label: 'Day or night chart', key: 'T', run: switchTheme },
      { id: 'bindings', label: 'Driving keys', key: 'K', run: () => ask('bindings') },
      { id: 'keys', label: 'List of keys', key: '?', run: () => ask('keys') },
      { id: 'list', label: 'List of commands', key: 'Ctrl+K', run: () => ask('list') },
    ],
    [commands],
  );
  useEffect(() => listenToCommands(all, drives), [all]);
  useEffect(() => {
    const asking = (event: BeforeUnloadEvent) => {
      if (isUnfinished()) event.preventDefault();
    };
    window.addEventListener('beforeunload', asking);
    return () => window.removeEventListener('beforeunload', asking);
  }, []);
  return (
    <Painters value={painters}>
      <div className="flex h-screen min-h-[620px] min-w-[960px] flex-col">
        <header className="flex h-11 shrink-0 items-center gap-3 border-b border-ink px-4">
          <Mark />
          <span className="text-[17px] font-bold tracking-tight">Zygopod</span>
          <p className="ml-2 min-w-0 truncate text-ink-soft">
            {!isShelf && (
              <span className="max-[1140px]:hidden">
                <ProjectName /> <span aria-hidden="true">/</span>{' '}
              </span>
            )}
            {where}
          </p>
          {state}
          <div className="ml-auto flex h-full shrink-0 items-center gap-4">
            <Screens place={place} />
            {deeds}
            <Deed spare label="Keys" title="List of keys (?)" run={() => ask('keys')} />
            <Deed spare label="Day/night" title="Day or night chart (T)" run={switchTheme} />
            <button type="button" className="keycap" title="List of commands" onClick={() => ask('list')}>
              Ctrl K
            </button>
          </div>
        </header>
        <main className="relative flex min-h-0 flex-1 flex-col">
          <h1 className="sr-only">{title}</h1>
          {children}
        </main>
      </div>
      {dropped && <BringIn files={dropped} close={() => drop(null)} done={broughtIn} />}
      {asking === 'list' && <CommandList commands={all} close={() => ask(null)} />}
      {asking === 'bindings' && <BindingList commands={all} close={() => ask(null)} />}
      {asking === 'keys' && <KeyList commands={all} more={looking} close={() => ask(null)} />}
    </Painters>
  );
}

/** Nothing on the screen shows what else is in the project. */
const nothing = () => undefined;

/** The project that the page is about: leads to its shelf. */
function ProjectName() {
  const project = useStore($project);
  return (
    <a href={project ? `/shelf/${project.id}` : '/shelf'} className="hover:text-ink" title="The shelf of this project">
      {project?.name}
    </a>
  );
}
