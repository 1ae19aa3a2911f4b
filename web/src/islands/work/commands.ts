/** Something that the user can ask for, by its key or from the command list. */
export interface Command {
  id: string;
  label: string;
  /** `Ctrl+Z`, `B`; shown as it is and matched by `keyOf`. */
  key: string;
  run(): void;
}

type Pressed = Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey'>;

/** The name of the key that was pressed, as commands have it: the letter on it, on every layout; its place where that is no Latin letter. */
export function keyOf(event: Pressed): string {
  const letter = event.key === '?' ? '?' : /^[a-z]$/i.test(event.key) ? event.key.toUpperCase() : event.code.replace(/^(Key|Digit)/, '');
  const modifiers = [event.ctrlKey || event.metaKey ? 'Ctrl' : '', event.shiftKey && letter !== '?' ? 'Shift' : ''].filter(Boolean);
  return [...modifiers, letter].join('+');
}

/** True if a key pressed on this element is text for it. */
export function isText(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('input:not([type="checkbox"]), textarea, select, dialog') !== null;
}

/** Listens for the keys of commands, except while something else takes text, and but for those whose place drives. */
export function listenToCommands(commands: Command[], drives: (code: string) => boolean): () => void {
  const press = (event: KeyboardEvent) => {
    const name = keyOf(event);
    const command = commands.find(({ key }) => key === name);
    const isPlain = !event.ctrlKey && !event.metaKey;
    if (!command || event.altKey || (isPlain && drives(event.code)) || (isText(event.target) && !['Ctrl+S', 'Ctrl+K'].includes(name)))
      return;
    event.preventDefault();
    if (!event.repeat || command.id === 'undo' || command.id === 'redo') command.run();
  };
  window.addEventListener('keydown', press);
  return () => window.removeEventListener('keydown', press);
}
