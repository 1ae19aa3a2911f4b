import { switchTheme } from '../shared/theme.ts';
import type { BenchSession } from './context.ts';

/** Something that the user can ask for, by its key or from the command list. */
export interface Command {
  id: string;
  label: string;
  /** `Ctrl+Z`, `B`; shown as it is and matched by `keyOf`. */
  key: string;
  run(): void;
}

/** What the bench does for itself when a command asks for it. */
export interface BenchActions {
  save(): void;
  list(): void;
  keys(): void;
}

export const figureList = [
  { id: 'pace', title: 'Pace' },
  { id: 'clock', title: 'Clock' },
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
    { id: 'save', label: 'Save revision', key: 'Ctrl+S', run: actions.save },
    { id: 'undo', label: 'Undo', key: 'Ctrl+Z', run: () => editing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl+Shift+Z', run: () => editing.redo() },
    { id: 'theme', label: 'Day or night chart', key: 'T', run: switchTheme },
    { id: 'keys', label: 'List of keys', key: '?', run: actions.keys },
    { id: 'list', label: 'List of commands', key: 'Ctrl+K', run: actions.list },
    ...figureList.map(({ id, title }, i) => ({
      id: `figure-${id}`,
      label: `Show figure: ${title}`,
      key: String(i + 1),
      run: () => showFigure(id),
    })),
  ];
}

/** The name of the key that was pressed, as commands have it. */
export function keyOf(event: KeyboardEvent): string {
  const letter = event.key === '?' ? '?' : event.code.replace(/^(Key|Digit)/, '');
  const modifiers = [event.ctrlKey || event.metaKey ? 'Ctrl' : '', event.shiftKey && letter !== '?' ? 'Shift' : ''].filter(Boolean);
  return [...modifiers, letter].join('+');
}

/** Listens for the keys of commands, except while something else takes text. */
export function listenToCommands(commands: Command[]): () => void {
  const press = (event: KeyboardEvent) => {
    const name = keyOf(event);
    const inField =
      event.target instanceof Element && event.target.closest('input:not([type="checkbox"]), textarea, select, dialog') !== null;
    const command = commands.find(({ key }) => key === name);
    if (!command || event.altKey || (inField && !['Ctrl+S', 'Ctrl+K'].includes(name))) return;
    event.preventDefault();
    if (!event.repeat || command.id === 'undo' || command.id === 'redo') command.run();
  };
  window.addEventListener('keydown', press);
  return () => window.removeEventListener('keydown', press);
}
