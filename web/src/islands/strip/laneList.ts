import { atom } from 'nanostores';
import { remember } from '../controls/remember.ts';
import { contactLane, facingLane, poseLane } from './encounterLanes.ts';
import { gaitLane, handsLane, type Lane, speedLane, sprintLane, staminaLane } from './lanes.ts';
import { offLane, stepLane, toGoLane } from './wayLanes.ts';

/** All lanes from top to bottom. */
export const lanes: readonly Lane[] = [
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

const STORE = 'zygopod-lanes';
const FIRST = ['Speed', 'Stamina', 'Sprint', 'Gait', 'Facing', 'Contact'];

function stored(): readonly string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(STORE) ?? 'null');
    return Array.isArray(kept) && kept.length > 0 ? kept.map(String) : FIRST;
  } catch {
    return FIRST;
  }
}

/** The names of the lanes that are shown; kept in this browser. */
export const $lanes = atom<readonly string[]>(typeof localStorage === 'undefined' ? FIRST : stored());

export function showLane(name: string, shown: boolean): void {
  const others = $lanes.get().filter((other) => other !== name);
  const next = shown ? [...others, name] : others;
  // The last one stays: an empty strip tells nothing.
  if (next.length === 0) return;
  $lanes.set(next);
  remember(STORE, JSON.stringify(next));
}
