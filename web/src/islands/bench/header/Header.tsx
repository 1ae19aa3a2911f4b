import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import type { Named, Opening } from '../../../server/openings.ts';
import type { Command } from '../commands.ts';
import { useBench } from '../context.ts';
import type { SaveState } from '../session/saving.ts';

const words: Record<SaveState['at'], string> = {
  saved: 'saved',
  keeping: 'keeping …',
  draft: 'draft kept',
  offline: 'kept here only',
  conflict: 'changed elsewhere',
};

/** The mark: a foot with two toes ahead and two behind. */
function Mark() {
  return (
    <svg width="22" height="24" viewBox="0 0 22 24" fill="none" strokeLinecap="round" strokeWidth="3.2" aria-hidden="true">
      <path d="M4 3c1 4 4 7 7 9 3 2 6 5 7 9M18 3c-1 4-4 7-7 9" className="stroke-ink" />
      <path d="M11 12c-3 2-6 5-7 9" className="stroke-now" />
    </svg>
  );
}

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
        <Picker label="Tuning" here={opening.id} options={opening.tunings} go={(id) => `/bench/${id}?ground=${opening.ground.id}`} />{' '}
        <span className="digits text-xs">rev {head}</span> on{' '}
        <Picker label="Ground" here={opening.ground.id} options={opening.grounds} go={(id) => `/bench/${opening.id}?ground=${id}`} />
      </p>
      <p className="digits ml-1 shrink-0 text-xs text-ink-soft" role="status" data-testid="save-state" data-state={state.at}>
        {changed || state.at !== 'saved' ? words[state.at] : 'saved'}
      </p>
      <div className="ml-auto flex shrink-0 items-center gap-4">
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

/** A name that opens another tuning or ground. Work is kept as a draft before the page is left. */
function Picker({ label, here, options, go }: { label: string; here: string; options: Named[]; go(id: string): string }) {
  return (
    <select
      aria-label={label}
      className="field-sizing-content max-w-48 border-b border-rule bg-transparent font-semibold text-ink"
      value={here}
      onChange={(event) => window.location.assign(go(event.target.value))}
    >
      {options.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** A word in the header; a `spare` one, which has a key, makes room on a narrow page. */
function Deed({
  label,
  title,
  off = false,
  spare = false,
  run,
}: {
  label: string;
  title: string;
  off?: boolean;
  spare?: boolean;
  run(): void;
}) {
  return (
    <button
      type="button"
      title={title}
      disabled={off}
      className={`text-ink-soft hover:text-ink disabled:opacity-45 ${spare ? 'max-[1140px]:hidden' : ''}`}
      onClick={run}
    >
      {label}
    </button>
  );
}
