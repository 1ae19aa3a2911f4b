import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import type { Opening } from '../../../server/openings.ts';
import type { Command } from '../../shared/commands.ts';
import { Deed } from '../../shared/Deed.tsx';
import { Mark } from '../../shared/Mark.tsx';
import { Picker } from '../../shared/Picker.tsx';
import { Screens } from '../../shared/Screens.tsx';
import { saveWords } from '../../shared/saveWords.ts';
import { useBench } from '../context.ts';

/** What is on the bench, how it stands, and the deeds that concern all of it. */
export function Header({ commands, project, opening }: { commands: Command[]; project: string; opening: Opening }) {
  const { editing, saving } = useBench();
  const tuning = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning);
  const flipped = useStore(editing.$flipped);
  const history = useStore(editing.$history);
  const head = useStore(saving.$head);
  const state = useStore(saving.$state);
  const run = (id: string) => commands.find((command) => command.id === id)?.run();
  const changed = flipped || differences(before, tuning).length > 0;

  return (
    <header className="flex h-11 shrink-0 items-center gap-3 border-b border-ink px-4">
      <Mark />
      <span className="text-[17px] font-bold tracking-tight">Zygopod</span>
      <p className="ml-2 min-w-0 truncate text-ink-soft">
        {project} <span aria-hidden="true">/</span>{' '}
        <Picker
          label="Tuning"
          here={opening.id}
          options={opening.tunings}
          go={(id) => window.location.assign(`/bench/${id}?ground=${opening.ground.id}`)}
        />{' '}
        <span className="digits text-xs">rev {head}</span> on{' '}
        <Picker
          label="Ground"
          here={opening.ground.id}
          options={opening.grounds}
          go={(id) => window.location.assign(`/bench/${opening.id}?ground=${id}`)}
        />
      </p>
      <p className="digits ml-1 shrink-0 text-xs text-ink-soft" role="status" data-testid="save-state" data-state={state.at}>
        {changed || state.at !== 'saved' ? saveWords[state.at] : 'saved'}
      </p>
      <div className="ml-auto flex h-full shrink-0 items-center gap-4">
        <Screens
          here="bench"
          bench={`/bench/${opening.id}?ground=${opening.ground.id}`}
          grounds={`/grounds/${opening.ground.id}?tuning=${opening.id}`}
        />
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
        <button
          type="button"
          aria-pressed={flipped}
          title="Flip between now and the last saved revision (B)"
          className="flex border border-ink"
          onClick={() => run('flip')}
        >
          <span className={`px-2 py-0.5 ${flipped ? 'text-ink-soft' : 'bg-ink text-sheet'}`}>Now</span>
          <span className={`px-2 py-0.5 ${flipped ? 'bg-other text-sheet' : 'text-ink-soft'}`}>Before</span>
        </button>
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
