import type { Ground } from '../ground/ground.ts';
import { World } from '../motion/world.ts';
import { Replay } from '../tape/replay.ts';
import type { Tape } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/**
 * The same hands on a tuning and a ground, from a tape's beginning to its end, or for so many ticks of the tuning's rate: a world whose
 * trace holds all of it, the beginning as its first row. What a world on the same ground has worked out (`known`) is not made again.
 */
export function rerun(tape: Tape, parameters: Parameters, ground: Ground, known?: World, most = Infinity): World {
  const replay = new Replay(tape, parameters.clock.hz);
  const ticks = Math.min(most, replay.ticks);
  const isAlike = known?.ground === ground && known.parameters.contact.seams === parameters.contact.seams;
  const world = new World(parameters, ground, ticks, isAlike ? known.walls : undefined);
  if (known && isAlike) world.takeNavigator(known.navigator);
  if (tape.snapshot) world.resume(tape.snapshot);
  for (let tick = 0; tick < ticks; tick++) world.tick(replay.next());
  return world;
}
