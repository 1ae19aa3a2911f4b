import { type Control, controls } from '@zygopod/core';
import { atom } from 'nanostores';
import { remember, rememberedJson } from '../controls/remember.ts';

/** Keys by their place on the keyboard (KeyboardEvent.code), each with the control it works. */
export type Bindings = Readonly<Record<string, Control>>;

export const defaultBindings: Bindings = {
  KeyW: 'up',
  KeyA: 'left',
  KeyS: 'down',
  KeyD: 'right',
  ArrowUp: 'up',
  ArrowLeft: 'left',
  ArrowDown: 'down',
  ArrowRight: 'right',
  ShiftLeft: 'sprint',
  ShiftRight: 'sprint',
  KeyC: 'sprintToggle',
  KeyQ: 'autoRun',
  KeyX: 'plant',
  KeyE: 'action',
  KeyG: 'launch',
};

/** Names of the controls on screen. */
export const controlWords: Record<Control, string> = {
  up: 'Up',
  down: 'Down',
  left: 'Left',
  right: 'Right',
  sprint: 'Sprint',
  sprintToggle: 'Sprint on/off',
  autoRun: 'Auto-run',
  plant: 'Plant, stop',
  action: 'Action',
  launch: 'Throw',
  pointer: 'Pointer',
};

const STORE = 'zygopod-bindings';

function stored(): Bindings {
  const kept = rememberedJson(STORE);
  if (typeof kept !== 'object' || kept === null) return defaultBindings;
  const valid = Object.entries(kept).filter((entry): entry is [string, Control] => controls.includes(entry[1] as Control));
  return valid.length > 0 ? Object.fromEntries(valid) : defaultBindings;
}

/** The bindings in force; kept in this browser. */
export const $bindings = atom<Bindings>(stored());

export function setBindings(bindings: Bindings): void {
  $bindings.set(bindings);
  remember(STORE, JSON.stringify(bindings));
}

/** True if a key, by its place, works a control. */
export const drives = (code: string): boolean => Object.hasOwn($bindings.get(), code);

/** The keys of a control. */
export function keysOf(bindings: Bindings, control: Control): string[] {
  return Object.keys(bindings).filter((code) => bindings[code] === control);
}

/** Name of a key: `W`, `←`, `Shift`. */
export function keyWord(code: string): string {
  const arrows: Record<string, string> = { ArrowUp: '↑', ArrowDown: '↓', ArrowLeft: '←', ArrowRight: '→' };
  return arrows[code] ?? code.replace(/^(Key|Digit)/, '').replace(/(Left|Right)$/, '');
}

/** The same, distinguishing the two of a pair: `Left Shift`. */
export function keyName(code: string): string {
  const side = /(Left|Right)$/.exec(code)?.[1];
  return side && !code.startsWith('Arrow') ? `${side} ${keyWord(code)}` : keyWord(code);
}

/** Why a key cannot be bound to a control, or null: it works another control, or a command of the bench has it. */
export function bindingConflict(bindings: Bindings, code: string, control: Control, commandKeys: readonly string[]): string | null {
  const other = bindings[code];
  if (other && other !== control) return `${keyWord(code)} works “${controlWords[other]}”`;
  if (commandKeys.includes(keyWord(code))) return `${keyWord(code)} is a command of the bench`;
  if (/^(Space|Tab|Escape|Enter|Control|Alt|Meta|F\d+)/.test(code)) return `${keyWord(code)} is kept for the browser and for panels`;
  return null;
}
