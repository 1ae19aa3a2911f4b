import { type Command, isText } from '../shared/commands.ts';
import { switchTheme } from '../shared/theme.ts';
import type { BenchSession } from './context.ts';
import { $calipers } from './strip/calipers.ts';

/** What the bench does for itself when a command asks for it. */
interface BenchActions {
  save(): void;
  list(): void;
  keys(): void;
  bindings(): void;
}

/** The figures there are, with their numbers in the order of work. */
export const figureList = [
  { id: 'pace', number: 1, title: 'Pace' },
  { id: 'stamina', number: 2, title: 'Stamina' },
  { id: 'walls', number: 3, title: 'Walls' },
  { id: 'edges', number: 4, title: 'Edges' },
  { id: 'facing', number: 5, title: 'Facing' },
  { id: 'clicks', number: 6, title: 'Clicks' },
  { id: 'steps', number: 7, title: 'Grid steps' },
  { id: 'hands', number: 8, title: 'Hands' },
  { id: 'body', number: 9, title: 'Body' },
  { id: 'camera', number: 10, title: 'Camera' },
  { id: 'clock', number: 11, title: 'Clock' },
] as const;

export function showFigure(id: string): void {
  const figure = document.getElementById(`figure-${id}`);
  figure?.scrollIntoView({ inline: 'start', block: 'nearest' });
  document.getElementById(`figure-${id}-title`)?.focus({ preventScroll: true });
}

/** Everything that has a key. None of the keys drives. */
export function benchCommands({ editing, drive }: BenchSession, actions: BenchActions): Command[] {
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
