import type { Ground, Parameters, Tape } from '@zygopod/core';

/** Where a tape is played, and with what. */
interface Place {
  ground: Pick<Ground, 'name'>;
  parameters: Pick<Parameters, 'scheme' | 'route'>;
}

/** The ground that a tape was driven on, where it is not this one. */
export const otherGround = (tape: Tape, ground: Place['ground']): string | null =>
  tape.ground !== undefined && tape.ground !== ground.name ? `driven on ${tape.ground}` : null;

/** Why a tape is not for this ground and tuning; null if it is, or nobody knows. */
export function whyUnfit(tape: Tape, { ground, parameters }: Place): string | null {
  const isClick = tape.events.some((event) => 'press' in event && event.press === 'pointer');
  const reasons = [
    otherGround(tape, ground),
    tape.scheme !== undefined && tape.scheme !== parameters.scheme ? `made for the scheme ${tape.scheme}` : null,
    isClick && !parameters.route.enabled ? 'it clicks, and this tuning does not go to clicks' : null,
  ].filter((reason) => reason !== null);
  return reasons.length > 0 ? reasons.join(', ') : null;
}
