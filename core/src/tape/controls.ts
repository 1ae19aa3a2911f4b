/** The controls that hands work, under the names used in tapes; the order is the index used in memory. */
export const controls = [
  'up',
  'down',
  'left',
  'right',
  'sprint',
  'sprintToggle',
  'autoRun',
  'plant',
  'action',
  'launch',
  'pointer',
] as const;
export type Control = (typeof controls)[number];

/** The directions of a swipe; hands hold the index + 1 for one tick. */
export const swipes = ['up', 'right', 'down', 'left'] as const;
export type Swipe = (typeof swipes)[number];

export const UP = 0;
export const DOWN = 1;
export const LEFT = 2;
export const RIGHT = 3;
export const SPRINT = 4;
export const SPRINT_TOGGLE = 5;
export const AUTO_RUN = 6;
export const PLANT = 7;
export const ACTION = 8;
export const LAUNCH = 9;
export const POINTER = 10;

/** The bits of the four directions in `Hands.pressed`. */
export const WAY_BITS = (1 << UP) | (1 << DOWN) | (1 << LEFT) | (1 << RIGHT);

/** True if a control went down this tick, even if it is up again. */
export function wentDown(hands: { readonly pressed: number }, control: number): boolean {
  return (hands.pressed & (1 << control)) !== 0;
}
