import type { Control } from '@zygopod/core';
import type { DeviceHub } from './hub.ts';

/** Buttons of the standard mapping (W3C Gamepad, 2024): the lower face button acts, the left one stops, and so on. */
const buttons: Readonly<Record<number, Control>> = {
  0: 'action',
  1: 'launch',
  2: 'plant',
  3: 'autoRun',
  5: 'sprint',
  7: 'sprint',
  10: 'sprintToggle',
  12: 'up',
  13: 'down',
  14: 'left',
  15: 'right',
};

/** Steps into which a stick is read: it trembles in its last bits, and a tape need not hold that. */
const STEPS = 128;

/**
 * Reads the pads once a frame. Of several pads the one with the largest deflection steers; a button is down while any pad
 * holds it. A pad that is unplugged lets go of all its controls. Only pads with the standard mapping are known.
 */
export function pollPads(hub: DeviceHub, pads: () => readonly (Gamepad | null)[] = () => navigator.getGamepads()): void {
  // Two windows must not both drive by one pad: the one in front has it.
  const known = (document.hasFocus() ? pads() : []).filter((pad): pad is Gamepad => pad?.connected === true && pad.mapping === 'standard');
  if (known.length === 0) {
    const { held, x, y } = hub.state('pad');
    if (held.size > 0 || x !== 0 || y !== 0) hub.letGo('pad');
    return;
  }
  let [x, y] = [0, 0];
  for (const { axes } of known) {
    const [px, py] = [Math.round((axes[0] ?? 0) * STEPS) / STEPS, Math.round((axes[1] ?? 0) * STEPS) / STEPS];
    if (Math.hypot(px, py) > Math.hypot(x, y)) [x, y] = [px, py];
  }
  hub.stick('pad', x, y);
  const down = new Set<Control>();
  for (const pad of known)
    for (const [index, control] of Object.entries(buttons)) if (pad.buttons[Number(index)]?.pressed) down.add(control);
  for (const control of new Set(Object.values(buttons))) {
    if (down.has(control)) hub.press('pad', control);
    else hub.release('pad', control);
  }
}
