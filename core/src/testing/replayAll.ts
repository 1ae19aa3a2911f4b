import type { Ground } from '../ground/ground.ts';
import { World } from '../motion/world.ts';
import { Replay } from '../tape/replay.ts';
import type { Tape } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** Replays a tape and gives the hash of each hundredth state; the whole core of a run, for other engines to do the same. */
export function replayAll(parameters: Parameters, ground: Ground, tape: Tape): string[] {
  const { hz } = parameters.clock;
  const replay = new Replay(tape, hz);
  const world = new World(parameters, ground, replay.ticks);
  const hashes: string[] = [];
  for (let tick = 0; tick < replay.ticks; tick++) {
    world.tick(replay.next());
    if (tick % 100 === 99) hashes.push(world.hash());
  }
  return hashes;
}
