import type { World } from '../motion/world.ts';
import { holdingOf } from '../tape/held.ts';
import { Replay } from '../tape/replay.ts';
import type { Tape } from '../tape/tape.ts';

/**
 * Cuts the ticks from `from` to `to` (that one not included) out of a tape; the result moves bit for bit as they do within the whole. `world` has the
 * tape's tuning and ground; it is driven to the start of the span, and stays there. Throws if there is no tick, or if the tuning's rate differs from
 * the tape's.
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
