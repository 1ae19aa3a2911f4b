import type { Control } from '../tape/controls.ts';
import type { HandsEvent } from '../tape/hands.ts';
import type { Recorder } from '../tape/recorder.ts';
import type { Skills } from './skills.ts';

/** The pilot's hands: emits events only for what changes. */
export class PilotHands {
  readonly #recorder: Recorder;
  readonly #sprint: Skills['sprintControl'];
  #held: readonly Control[] = [];
  #stickX = 0;
  #stickY = 0;
  #sprints = false;
  /** Changes so far. */
  changes = 0;

  constructor(recorder: Recorder, skills: Skills) {
    this.#recorder = recorder;
    this.#sprint = skills.sprintControl;
  }

  #emit(event: HandsEvent): void {
    this.#recorder.push(event);
    this.changes++;
  }

  /** Holds just these direction keys. */
  hold(keys: readonly Control[]): void {
    if (keys === this.#held) return;
    for (const key of this.#held) if (!keys.includes(key)) this.#emit({ release: key });
    for (const key of keys) if (!this.#held.includes(key)) this.#emit({ press: key });
    this.#held = keys;
  }

  stick(x: number, y: number): void {
    if (x === this.#stickX && y === this.#stickY) return;
    this.#stickX = x;
    this.#stickY = y;
    this.#emit({ stick: [x, y] });
  }

  press(control: Control): void {
    this.#emit({ press: control });
  }

  release(control: Control): void {
    this.#emit({ release: control });
  }

  point(x: number, y: number): void {
    this.#emit({ point: [x, y] });
  }

  get sprints(): boolean {
    return this.#sprints;
  }

  /** Sprints or not: holds the control, or taps it. */
  sprint(wanted: boolean): void {
    const sprint = this.#sprint;
    if (!sprint || wanted === this.#sprints) return;
    this.#sprints = wanted;
    if (!sprint.isHeld) {
      this.#emit({ press: sprint.control });
      this.#emit({ release: sprint.control });
    } else if (wanted) this.#emit({ press: sprint.control });
    else this.#emit({ release: sprint.control });
  }
}
