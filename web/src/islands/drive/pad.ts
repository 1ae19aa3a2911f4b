import { type Control, controls } from '@zygopod/core';
import type { DeviceHub } from './hub.ts';
import { $padMaps, kindOf, mapOf } from './padBindings.ts';

/** Steps into which a stick is read: it trembles in its last bits, and a tape need not hold that. */
const STEPS = 128;

/** The pads that this window has: two windows must not both drive by one, so it is the one in front. */
export function padsHere(pads = () => navigator.getGamepads() as readonly (Gamepad | null)[]): Gamepad[] {
  return (document.hasFocus() ? pads() : []).filter((pad): pad is Gamepad => pad?.connected === true);
}

/**
 * Reads the pads once a frame. Of several pads the one with the largest deflection steers; a button is down while any pad holds it. An unplugged pad
 * releases all its controls. A pad without the standard mapping needs one from the user.
 */
export function pollPads(hub: DeviceHub, pads?: () => readonly (Gamepad | null)[]): void {
  const known = padsHere(pads);
  if (known.length === 0) {
    const { held, x, y } = hub.state('pad');
    if (held.size > 0 || x !== 0 || y !== 0) hub.letGo('pad');
    return;
  }
  const maps = $padMaps.get();
  let [x, y] = [0, 0];
  const down = new Set<Control>();
  for (const pad of known) {
    const { buttons, stick } = mapOf(maps, kindOf(pad));
    if (stick) {
      const [px, py] = stick.map((axis) => Math.round((pad.axes[axis] ?? 0) * STEPS) / STEPS) as [number, number];
      if (Math.hypot(px, py) > Math.hypot(x, y)) [x, y] = [px, py];
    }
    for (const [index, control] of Object.entries(buttons)) if (pad.buttons[Number(index)]?.pressed) down.add(control);
  }
  hub.stick('pad', x, y);
  for (const control of controls) {
    if (down.has(control)) hub.press('pad', control);
    else hub.release('pad', control);
  }
}
