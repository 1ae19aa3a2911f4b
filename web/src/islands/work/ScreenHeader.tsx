import { useStore } from '@nanostores/react';
import type { ReactNode } from 'react';
import { Deed } from '../controls/Deed.tsx';
import { Mark } from '../controls/Mark.tsx';
import type { Command } from './commands.ts';
import { placeOf } from './place.ts';
import { Screens } from './Screens.tsx';
import { saveWords } from './saveWords.ts';
import type { Steps } from './steps.ts';
import type { Work } from './work.ts';

/** The head of a screen: what is under work, how it stands, the way to the other screens, and the deeds that concern all of it. */
export function ScreenHeader<F, S extends Steps<F>>({
  where,
  work: { opening, steps, saving },
  unchanged = false,
  commands,
  children,
}: {
  /** What is under work, in the line of crumbs. */
  where: ReactNode;
  work: Work<F, S>;
  /** True where the file is the last revision's, whatever was sent meanwhile. */
  unchanged?: boolean;
  commands: Command[];
  /** Deeds of the screen's own. */
  children: ReactNode;
}) {
  const history = useStore(steps.$history);
  const state = useStore(saving.$state);
  const run = (id: string) => commands.find((command) => command.id === id)?.run();
  return (
    <header className="flex h-11 shrink-0 items-center gap-3 border-b border-ink px-4">
      <Mark />
      <span className="text-[17px] font-bold tracking-tight">Zygopod</span>
      <p className="ml-2 min-w-0 truncate text-ink-soft">
        <span className="max-[1140px]:hidden">
          Saltmarsh Post <span aria-hidden="true">/</span>{' '}
        </span>
        {where}
      </p>
      <p className="digits ml-1 shrink-0 text-xs text-ink-soft" role="status" data-testid="save-state" data-state={state.at}>
        {unchanged && state.at === 'draft' ? saveWords.saved : saveWords[state.at]}
      </p>
      <div className="ml-auto flex h-full shrink-0 items-center gap-4">
        <Screens place={placeOf(opening)} />
        {children}
        <Deed
          label="Undo"
          title={history.undo ? `Undo: ${history.undo} (Ctrl+Z)` : 'Nothing to undo'}
          off={!history.undo}
          run={() => run('undo')}
        />
        <Deed
          label="Redo"
          title={history.redo ? `Redo: ${history.redo} (Ctrl+Shift+Z)` : 'Nothing to redo'}
          off={!history.redo}
          run={() => run('redo')}
        />
        <button type="button" className="deed" title="Save revision (Ctrl+S)" onClick={() => run('save')}>
          Save revision
        </button>
        <Deed label="Keys" title="List of keys (?)" spare run={() => run('keys')} />
        <Deed label="Day/night" title="Day or night chart (T)" spare run={() => run('theme')} />
        <button type="button" className="keycap" title="List of commands" onClick={() => run('list')}>
          Ctrl K
        </button>
      </div>
    </header>
  );
}
