import type { PilotHands } from './hands.ts';
import type { PilotOptions } from './options.ts';
import type { Briefing, Progress } from './round.ts';
import type { Seen } from './seen.ts';

/** A look at the body, from which a driver decides what its hands do. */
export interface Look {
  /** Time of the tick that follows, s. */
  time: number;
  seen: Seen;
  progress: Progress;
  /** Crossings so far. */
  crossed: number;
  /** New plans so far. */
  plans: number;
  /** True after a while without progress: slowly now. */
  isCareful: boolean;
  /** Deviation of the aim, radians. */
  shake: number;
}

/** Drives with one device. `decide` is called when the hands may change; it returns true if they did. */
export interface Driver {
  /** The reason why the device can't drive this course; null if it may. */
  fault?: string | null;
  begin(): void;
  decide(look: Look): boolean;
}

export type DriverOf = (briefing: Briefing, options: PilotOptions, hands: PilotHands) => Driver;

/** Stamina, as fractions of the bar, at which the pilot begins and ends a sprint. */
const FRESH = 0.35;
const TIRED = 0.08;

/** True if the pilot sprints now: on a straight that is long enough for it, with stamina left. */
export function wantsSprint({ skills, parameters }: Briefing, { sprint }: PilotOptions, look: Look, sprints: boolean): boolean {
  const { seen, progress } = look;
  if (look.isCareful || sprint === 'never' || skills.sprint <= skills.walk) return false;
  if (parameters.stamina.enabled && seen.stamina < (sprints ? TIRED : FRESH) * parameters.stamina.max) return false;
  if (sprint === 'always') return true;
  const free = progress.limitAhead(skills.sprint * (0.25 + skills.lag));
  return free >= (sprints ? 0.85 : 1) * skills.sprint;
}

/** Distance to look ahead: travel in `lookAhead` seconds and while the velocity follows, at least one and a half bodies. */
export const aheadOf = ({ skills }: Briefing, { lookAhead }: PilotOptions, speed: number): number =>
  Math.max((lookAhead + skills.lag) * speed, 1.5 * skills.width);
