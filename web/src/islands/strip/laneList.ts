import type { Parameters } from '@zygopod/core';
import { atom } from 'nanostores';
import { remember, rememberedJson } from '../controls/remember.ts';
import { contactLane, facingLane, poseLane } from './encounterLanes.ts';
import { gaitLane, handsLane, type Lane, speedLane, sprintLane, staminaLane } from './lanes.ts';
import { offLane, stepLane, toGoLane } from './wayLanes.ts';

/** All lanes from top to bottom. */
const lanes: readonly Lane[] = [
  speedLane,
  staminaLane,
  sprintLane,
  gaitLane,
  poseLane,
  facingLane,
  contactLane,
  toGoLane,
  offLane,
  stepLane,
  handsLane,
];

/** Lanes that were shown or hidden by hand, by name. */
type Chosen = Readonly<Record<string, boolean>>;

const STORE = 'zygopod-shown-lanes';

function stored(): Chosen {
  const kept = rememberedJson(STORE);
  return kept && typeof kept === 'object' ? (kept as Chosen) : {};
}

/** The choices made by hand; kept in this browser. */
export const $chosenLanes = atom<Chosen>(stored());

/** The lanes that a tuning makes use of. */
export const usedLanes = (parameters: Parameters): Lane[] => lanes.filter(({ isUsed }) => isUsed?.(parameters) ?? true);

/** The lanes that are shown: of those that the tuning uses the chosen ones, else all but the extra ones. Never none: speed stays. */
export function shownLanes(parameters: Parameters, chosen: Chosen): Lane[] {
  const shown = usedLanes(parameters).filter(({ name, isExtra }) => chosen[name] ?? !isExtra);
  return shown.length > 0 ? shown : [speedLane];
}

export function showLane(name: string, isShown: boolean): void {
  const next = { ...$chosenLanes.get(), [name]: isShown };
  $chosenLanes.set(next);
  remember(STORE, JSON.stringify(next));
}
