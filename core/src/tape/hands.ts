import { type Control, controls, RIGHT, type Swipe, swipes } from './controls.ts';

/** One change of the hands, as devices give it and tapes keep it. */
export type HandsEvent =
  | { press: Control }
  | { release: Control }
  | { stick: readonly [number, number] }
  | { point: readonly [number, number] }
  | { swipe: Swipe };

/** The player's input in this tick. */
export interface Hands {
  /** By control: 0 when up, else the order number of its press, so that the newest press is the largest. */
  readonly held: Float64Array;
  /** By control: the order number of its last press, also when it is up again. */
  readonly order: Float64Array;
  /** Bit 1 << control is set when the control went down this tick, even if it is up again. */
  pressed: number;
  /** Stick deflection, each part in [−1, 1]; y grows downwards. */
  stickX: number;
  stickY: number;
  /** Pointer in world coordinates. */
  pointX: number;
  pointY: number;
  /** True after the first pointer event. */
  pointed: boolean;
  /** 0, or the index in `swipes` + 1 of the swipe that ended this tick. */
  swipe: number;
  presses: number;
  /** The device of directions used last: 0 none yet, 1 keys, 2 the stick. */
  spoke: number;
  /** True in a tick with an event. */
  changed: boolean;
}

/** Hands at rest. */
export function newHands(): Hands {
  return {
    held: new Float64Array(controls.length),
    order: new Float64Array(controls.length),
    pressed: 0,
    stickX: 0,
    stickY: 0,
    pointX: 0,
    pointY: 0,
    pointed: false,
    swipe: 0,
    presses: 0,
    spoke: 0,
    changed: false,
  };
}

/** Clears the input of a single tick; call before the events of a tick. */
export function beginTick(hands: Hands): void {
  hands.pressed = 0;
  hands.swipe = 0;
  hands.changed = false;
}

/** Applies one event. A press of a control that is down, or a release of one that is up, changes nothing. */
export function applyEvent(hands: Hands, event: HandsEvent): void {
  hands.changed = true;
  if ('press' in event) {
    const index = controls.indexOf(event.press);
    if (hands.held[index] !== 0) return;
    hands.held[index] = ++hands.presses;
    hands.order[index] = hands.presses;
    if (index <= RIGHT) hands.spoke = 1;
    hands.pressed |= 1 << index;
  } else if ('release' in event) {
    const index = controls.indexOf(event.release);
    hands.held[index] = 0;
    if (index <= RIGHT) hands.spoke = 1;
  } else if ('stick' in event) {
    hands.stickX = event.stick[0];
    hands.stickY = event.stick[1];
    hands.spoke = 2;
  } else if ('point' in event) {
    hands.pointX = event.point[0];
    hands.pointY = event.point[1];
    hands.pointed = true;
  } else hands.swipe = swipes.indexOf(event.swipe) + 1;
}
