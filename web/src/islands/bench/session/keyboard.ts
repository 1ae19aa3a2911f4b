import type { Control, HandsEvent } from '@zygopod/core';

/** Keys by their place on the keyboard (KeyboardEvent.code), so that another layout drives with the same fingers. */
export const drivingKeys: Readonly<Record<string, Control>> = {
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
};

/**
 * Whether a key pressed on this element belongs to it: any in a field that takes text, in a list and in an open dialog;
 * the arrows alone on a handle, so that the body can be driven right after a drag.
 */
function takesKey(target: EventTarget | null, code: string): boolean {
  if (!(target instanceof Element)) return false;
  if (target.closest('input:not([type="checkbox"]), textarea, select, [contenteditable], dialog')) return true;
  return code.startsWith('Arrow') && target.closest('[role="slider"], [role="separator"]') !== null;
}

/**
 * Turns key presses into hands events. Two keys on one control count as one press, until both are up. Leaving the page
 * lets go of everything, so that no key stays down.
 */
export function listenToKeyboard(target: Window, say: (event: HandsEvent) => void): () => void {
  const down = new Map<string, Control>();
  const holds = (control: Control) => [...down.values()].includes(control);

  const press = (event: KeyboardEvent) => {
    const control = drivingKeys[event.code];
    if (!control || event.ctrlKey || event.metaKey || event.altKey || takesKey(event.target, event.code)) return;
    event.preventDefault();
    if (event.repeat || down.has(event.code)) return;
    if (!holds(control)) say({ press: control });
    down.set(event.code, control);
  };
  const lift = (code: string) => {
    const control = down.get(code);
    if (!control) return;
    down.delete(code);
    if (!holds(control)) say({ release: control });
  };
  const release = (event: KeyboardEvent) => lift(event.code);
  const letGo = () => [...down.keys()].forEach(lift);
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
