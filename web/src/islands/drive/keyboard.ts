import type { Control } from '@zygopod/core';
import { $bindings } from './bindings.ts';
import type { DeviceHub } from './hub.ts';

/**
 * True if a key pressed on this element belongs to it: any in a field that takes text, in a list and in an open dialog;
 * the arrows alone on a handle, so that the body can be driven right after a drag.
 */
function takesKey(target: EventTarget | null, code: string): boolean {
  if (!(target instanceof Element)) return false;
  if (target.closest('input:not([type="checkbox"]), textarea, select, [contenteditable], dialog')) return true;
  return code.startsWith('Arrow') && target.closest('[role="slider"], [role="separator"]') !== null;
}

/**
 * Turns key presses into controls. Two keys on one control count as one press, until both are up. Leaving the page lets go
 * of everything, so that no key stays down.
 */
export function listenToKeyboard(target: Window, hub: DeviceHub): () => void {
  const down = new Map<string, Control>();

  const press = (event: KeyboardEvent) => {
    const control = $bindings.get()[event.code];
    if (!control || event.ctrlKey || event.metaKey || event.altKey || takesKey(event.target, event.code)) return;
    event.preventDefault();
    if (event.repeat || down.has(event.code)) return;
    down.set(event.code, control);
    hub.press('keyboard', control);
  };
  const release = (event: KeyboardEvent) => {
    const control = down.get(event.code);
    if (!control) return;
    down.delete(event.code);
    if (![...down.values()].includes(control)) hub.release('keyboard', control);
  };
  const letGo = () => {
    down.clear();
    hub.letGo('keyboard');
  };
  const hidden = () => {
    if (document.visibilityState === 'hidden') letGo();
  };

  target.addEventListener('keydown', press);
  target.addEventListener('keyup', release);
  target.addEventListener('blur', letGo);
  document.addEventListener('visibilitychange', hidden);
  return () => {
    letGo();
    target.removeEventListener('keydown', press);
    target.removeEventListener('keyup', release);
    target.removeEventListener('blur', letGo);
    document.removeEventListener('visibilitychange', hidden);
  };
}
