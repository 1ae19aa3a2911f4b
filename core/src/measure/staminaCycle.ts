import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** The cycle of the stamina, by the model's formulas (docs/model.md, “Gait and stamina”). */
export interface StaminaCycle {
  /** Seconds that a full bar lasts; Infinity when it never empties. */
  lasts: number;
  /** Seconds from empty, standing still, until a sprint may begin again. */
  recovers: number;
  /** Distance that a full bar of sprint covers at steady speed. */
  distance: number;
  /** Share of the time that is sprinted, always asking for it on the move. */
  share: number;
  /** Mean speed of that long cycle, without the ramps. */
  meanSpeed: number;
}

/** Computes the cycle of empty and recovered. */
export function staminaCycle({ stamina, pace }: Parameters): StaminaCycle {
  const { walkSpeed, sprintSpeed } = pace;
  const endless = stamina.drain <= 0 || !stamina.emptyEndsSprint;
  if (!stamina.enabled || endless) return { lasts: Infinity, recovers: 0, distance: Infinity, share: 1, meanSpeed: sprintSpeed };
  const goal = Math.min(stamina.max, Math.max(stamina.recoverTo, stamina.startAt));
  const wait = stamina.regainWhile === 'always' ? 0 : stamina.regainDelay;
  const moving = stamina.regainWhile === 'standing' ? 0 : stamina.regain * stamina.regainMovingFactor;
  // With regain at all times, the net drain is reduced by it.
  const drain = stamina.drain - (stamina.regainWhile === 'always' ? moving : 0);
  if (drain <= 0) return { lasts: Infinity, recovers: 0, distance: Infinity, share: 1, meanSpeed: sprintSpeed };
  const sprinting = goal / drain;
  const recovering = moving > 0 ? wait + goal / moving : Infinity;
  const share = recovering === Infinity ? 0 : sprinting / (sprinting + recovering);
  // It walks as if spent through the wait and until the lock opens, which is before a sprint may begin where `startAt` is the larger.
  const locked = recovering === Infinity ? 1 : (wait + Math.min(goal, stamina.recoverTo) / moving) / recovering;
  const spentSpeed = walkSpeed * (stamina.spentFactor * locked + (1 - locked));
  return {
    lasts: stamina.max / drain,
    recovers: stamina.regain > 0 ? wait + goal / stamina.regain : Infinity,
    distance: (stamina.max / drain) * sprintSpeed,
    share,
    meanSpeed: share * sprintSpeed + (1 - share) * spentSpeed,
  };
}
