import { newTuning, type TuningFile } from '@zygopod/core';
import { switchTheme } from '../chart/theme.ts';
import { type Command, isText } from '../work/commands.ts';
import { createDocument, putAway } from '../work/deeds.ts';
import type { BenchSession } from './context.ts';
import { figureList } from './figures/figureList.ts';
import { $calipers } from './strip/calipers.ts';

/** What the bench does for itself when a command asks for it. */
interface BenchActions {
  save(): void;
  list(): void;
  keys(): void;
  bindings(): void;
  rename(): void;
  /** Says why something could not be done. */
  trouble(why: string): void;
}

export function showFigure(id: string): void {
  const figure = document.getElementById(`figure-${id}`);
  figure?.scrollIntoView({ inline: 'start', block: 'nearest' });
  document.getElementById(`figure-${id}-title`)?.focus({ preventScroll: true });
}

/** Opens a tuning on the bench. */
const open = (id: string) => window.location.assign(`/bench/${id}`);

/** What can be done with the tuning as a whole; none of it has a key. */
export function tuningDeeds({ editing, saving }: BenchSession, { rename, trouble }: BenchActions): Command[] {
  const make = async (file: TuningFile, note: string) => {
    await saving.flush();
    const made = await createDocument('tunings', file, note);
    if ('why' in made) trouble(made.why);
    else open(made.id);
  };
  const away = async () => {
    await saving.flush();
    const why = await putAway('tunings', saving.id, saving.$head.get());
    if (why) trouble(why);
    else window.location.assign('/');
  };
  return [
    { id: 'new', label: 'New tuning', key: '', run: () => void make(newTuning('New tuning', editing.$now.get().unit), '') },
    {
      id: 'duplicate',
      label: 'Duplicate this one',
      key: '',
      run: () => {
        const file = editing.$now.get();
        void make({ ...file, name: `${file.name.slice(0, 112)}, a copy` }, `From ${file.name}`);
      },
    },
    { id: 'rename', label: 'Rename this one', key: '', run: rename },
    { id: 'away', label: 'Put this one away', key: '', run: () => void away() },
  ];
}

/** Everything that has a key. None of the keys drives. */
export function benchCommands(session: BenchSession, actions: BenchActions): Command[] {
  const { editing, drive } = session;
  return [
    { id: 'flip', label: 'Flip between now and before', key: 'B', run: () => editing.flip() },
    { id: 'restart', label: 'Back to the start', key: 'R', run: () => drive.restart() },
    { id: 'start-here', label: 'Start here from now on', key: 'N', run: () => drive.startHere(true) },
    { id: 'measured', label: 'Forget what the calipers measure', key: 'M', run: () => $calipers.set(null) },
    {
      id: 'through',
      label: 'Through the camera',
      key: 'V',
      run: () => drive.$throughCamera.set(!drive.$throughCamera.get()),
    },
    { id: 'save', label: 'Save revision', key: 'Ctrl+S', run: actions.save },
    { id: 'undo', label: 'Undo', key: 'Ctrl+Z', run: () => editing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl+Shift+Z', run: () => editing.redo() },
    { id: 'theme', label: 'Day or night chart', key: 'T', run: switchTheme },
    { id: 'bindings', label: 'Driving keys', key: 'K', run: actions.bindings },
    { id: 'keys', label: 'List of keys', key: '?', run: actions.keys },
    { id: 'list', label: 'List of commands', key: 'Ctrl+K', run: actions.list },
    ...tuningDeeds(session, actions),
    ...figureList.map(({ id, number, title }) => ({
      id: `figure-${id}`,
      label: `Show figure: ${title}`,
      key: number < 10 ? String(number) : number === 10 ? '0' : 'Shift+0',
      run: () => showFigure(id),
    })),
  ];
}

/** Keys that try a multiple of the number last looked at, for as long as they are held. */
const trialFactors: Readonly<Record<string, number>> = { Minus: 0.25, BracketLeft: 0.5, BracketRight: 2, Equal: 4 };

/** Tries extremes: a held key multiplies the number, letting go gives it back. */
export function listenToTrials({ editing }: BenchSession): () => void {
  const press = (event: KeyboardEvent) => {
    const factor = trialFactors[event.code];
    if (factor === undefined || isText(event.target) || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
    event.preventDefault();
    editing.$trial.set({ path: editing.$subject.get(), factor });
  };
  const end = () => editing.$trial.set(null);
  const lift = (event: KeyboardEvent) => {
    if (trialFactors[event.code] !== undefined) end();
  };
  window.addEventListener('keydown', press);
  window.addEventListener('keyup', lift);
  window.addEventListener('blur', end);
  return () => {
    end();
    window.removeEventListener('keydown', press);
    window.removeEventListener('keyup', lift);
    window.removeEventListener('blur', end);
  };
}
