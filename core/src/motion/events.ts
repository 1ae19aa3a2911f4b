/**
 * What happened in a tick, as bits of the trace's `events` column; the order of the list is the order of the bits.
 * Each has the words with which a strip or a report tells it.
 */
export const eventNames = [
  ['sprintBegan', 'Sprint began'],
  ['sprintEnded', 'Sprint ended'],
  ['sprintRefused', 'Sprint refused'],
  ['emptied', 'Stamina empty'],
  ['recovered', 'Recovered'],
  ['toggledOn', 'Sprint switched on'],
  ['toggledOff', 'Sprint switched off'],
  ['autoRunOn', 'Auto-run on'],
  ['autoRunOff', 'Auto-run off'],
  ['sprintCancelled', 'Sprint key cancelled'],
  ['actionPressed', 'Action pressed'],
  ['actionHeld', 'Action held'],
  ['actionReleased', 'Action released'],
] as const;

export const SPRINT_BEGAN = 1;
export const SPRINT_ENDED = 2;
export const SPRINT_REFUSED = 4;
export const EMPTIED = 8;
export const RECOVERED = 16;
export const TOGGLED_ON = 32;
export const TOGGLED_OFF = 64;
export const AUTO_RUN_ON = 128;
export const AUTO_RUN_OFF = 256;
export const SPRINT_CANCELLED = 512;
export const ACTION_PRESSED = 1024;
export const ACTION_HELD = 2048;
export const ACTION_RELEASED = 4096;
