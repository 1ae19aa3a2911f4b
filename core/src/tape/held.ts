import { type Control, controls } from './controls.ts';
import type { Hands } from './hands.ts';

/** Hands as they are held between two ticks, as a tape that begins in the middle keeps them. */
export interface HeldHands {
  /** The controls that are down, in the order of their presses. */
  held?: Control[] | undefined;
  stick?: [number, number] | undefined;
  /** The pointer's place; absent before its first event. */
  point?: [number, number] | undefined;
  /** The device of directions used last; absent if none was used. */
  spoke?: 'keys' | 'stick' | undefined;
}

/** The controls that hands hold; null if they hold none and no device was used. */
export function holdingOf(hands: Hands): HeldHands | null {
  const order = (control: Control) => hands.held[controls.indexOf(control)] as number;
  const held = controls.filter((control) => order(control) !== 0).sort((a, b) => order(a) - order(b));
  const holding: HeldHands = {
    ...(held.length > 0 ? { held } : {}),
    ...(hands.stickX !== 0 || hands.stickY !== 0 ? { stick: [hands.stickX, hands.stickY] as [number, number] } : {}),
    ...(hands.pointed ? { point: [hands.pointX, hands.pointY] as [number, number] } : {}),
    ...(hands.spoke !== 0 ? { spoke: hands.spoke === 1 ? ('keys' as const) : ('stick' as const) } : {}),
  };
  return Object.keys(holding).length > 0 ? holding : null;
}

/** Lets new hands hold the same controls; none of them counts as pressed in the next tick. */
export function hold(hands: Hands, { held = [], stick, point, spoke }: HeldHands): void {
  for (const control of held) hands.held[controls.indexOf(control)] = ++hands.presses;
  if (stick) [hands.stickX, hands.stickY] = stick;
  if (point) {
    [hands.pointX, hands.pointY] = point;
    hands.pointed = true;
  }
  hands.spoke = spoke === 'keys' ? 1 : spoke === 'stick' ? 2 : 0;
}
