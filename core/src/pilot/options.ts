import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** The devices that a pilot can drive with. */
export const pilotDevices = ['keys8', 'keys4', 'stick', 'pointer', 'cells'] as const;
export type PilotDevice = (typeof pilotDevices)[number];

/** When the pilot sprints. */
export const sprintPolicies = ['never', 'straights', 'always'] as const;
export type SprintPolicy = (typeof sprintPolicies)[number];

/** The line that the pilot drives: in the middle of narrow passages and off walls, or the planned path itself. */
export const pilotLines = ['middle', 'shortest'] as const;
export type PilotLine = (typeof pilotLines)[number];

/** How a pilot drives. Times in s. */
export interface PilotOptions {
  device: PilotDevice;
  /** Age of what it sees of the body. */
  reaction: number;
  /** Least time between two changes of the keys. */
  handSpeed: number;
  /** Travel that it looks ahead. */
  lookAhead: number;
  sprint: SprintPolicy;
  line: PilotLine;
  /** Relative spread of reaction, aim and key times; 0 for none. */
  jitter: number;
  seed: number;
}

/** The device that suits a tuning: cells for grid steps, the pointer for click to go, else keys. */
function deviceFor({ scheme, route, input }: Parameters): PilotDevice {
  if (scheme === 'step') return 'cells';
  if (route.enabled) return 'pointer';
  return input.directions === '4' ? 'keys4' : 'keys8';
}

export const defaultOptions = (parameters: Parameters): PilotOptions => ({
  device: deviceFor(parameters),
  reaction: 0.2,
  handSpeed: 0.09,
  lookAhead: 0.3,
  sprint: 'straights',
  line: 'middle',
  jitter: 0,
  seed: 1,
});

/** Why a tuning can't be driven with a device; null if it can. */
export function deviceFault({ scheme, route }: Parameters, device: PilotDevice): string | null {
  if (scheme === 'step') return device === 'cells' ? null : 'grid steps need the device cells';
  if (device === 'pointer') return route.enabled ? null : 'the pointer needs click to go';
  return device === 'cells' ? 'the device cells needs the scheme step' : null;
}
