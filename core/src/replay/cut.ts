import type { World } from '../motion/world.ts';
import { holdingOf } from '../tape/held.ts';
import { Replay } from '../tape/replay.ts';
import type { Tape } from '../tape/tape.ts';

/**
 * The ticks of a tape from `from` to `to` (that one not included) as a tape of their own, which moves bit for bit as they do within the
 * whole. `world` has the tuning and the ground that it was driven with; it is driven to the beginning of the span, and stands there after.
 * Throws where there is no tick, and where the tuning's rate is another than the tape's.
 */
export function cutTape(tape: Tape, from: number, to: number, world: World): Tape {
  const { hz } = world.parameters.clock;
  if (hz !== tape.hz) throw new RangeError(`the tape has ${tape.hz} Hz, the tuning ${hz} Hz`);
  if (!(from >= 0 && to > from && to <= tape.ticks)) throw new RangeError(`no ticks from ${from} to ${to} of ${tape.ticks}`);
  const replay = new Replay(tape, hz);
  world.resume(tape.snapshot ?? { hands: {} });
  for (let tick = 0; tick < from; tick++) world.tick(replay.next());
  return {
    ...tape,
    ticks: to - from,
    snapshot: world.snapshot(holdingOf(replay.hands) ?? {}),
    events: tape.events.filter(({ at }) => at >= from && at < to).map((event) => ({ ...event, at: event.at - from })),
  };
}
