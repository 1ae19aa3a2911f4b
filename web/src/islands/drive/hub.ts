import { type Control, controls, type HandsEvent } from '@zygopod/core';
import type { Swipe } from './swipe.ts';

/** The devices that can work the hands. */
export const devices = ['keyboard', 'pad', 'screen', 'pointer'] as const;
type Device = (typeof devices)[number];

interface State {
  held: Set<Control>;
  x: number;
  y: number;
}

/**
 * Combines several devices into one pair of hands. A control is down while any device holds it; the stick is the one with the larger deflection,
 * never a sum. Only changes are emitted, as hands events.
 */
export class DeviceHub {
  readonly #states = Object.fromEntries(devices.map((name) => [name, { held: new Set(), x: 0, y: 0 }])) as unknown as Record<Device, State>;
  readonly #say: (event: HandsEvent) => void;
  #stick = { x: 0, y: 0 };
  /** The last stroke over the yard, for whoever shows it; a swipe only if it has a direction. */
  lastSwipe: Swipe | null = null;

  constructor(say: (event: HandsEvent) => void) {
    this.#say = say;
  }

  /** Passes on a device's input. */
  state(device: Device): Readonly<State> {
    return this.#states[device];
  }

  press(device: Device, control: Control): void {
    const { held } = this.#states[device];
    if (held.has(control)) return;
    const was = this.#isHeld(control);
    held.add(control);
    if (!was) this.#say({ press: control });
  }

  release(device: Device, control: Control): void {
    if (!this.#states[device].held.delete(control)) return;
    if (!this.#isHeld(control)) this.#say({ release: control });
  }

  /** Deflection with parts in [−1, 1]; y grows downwards. */
  stick(device: Device, x: number, y: number): void {
    const state = this.#states[device];
    state.x = Math.min(1, Math.max(-1, x));
    state.y = Math.min(1, Math.max(-1, y));
    const largest = devices.map((name) => this.#states[name]).reduce((a, b) => (Math.hypot(b.x, b.y) > Math.hypot(a.x, a.y) ? b : a));
    if (largest.x === this.#stick.x && largest.y === this.#stick.y) return;
    this.#stick = { x: largest.x, y: largest.y };
    this.#say({ stick: [largest.x, largest.y] });
  }

  point(x: number, y: number): void {
    this.#say({ point: [x, y] });
  }

  swipe(swipe: Swipe): void {
    this.lastSwipe = swipe;
    if (swipe.direction) this.#say({ swipe: swipe.direction });
  }

  /** A device went away or lost the attention: everything it held is let go. */
  letGo(device: Device): void {
    for (const control of controls) this.release(device, control);
    this.stick(device, 0, 0);
  }

  #isHeld(control: Control): boolean {
    return devices.some((name) => this.#states[name].held.has(control));
  }
}
