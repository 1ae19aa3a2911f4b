import type { Ground } from '../ground/ground.ts';
import { World } from '../motion/world.ts';
import { Replay } from '../tape/replay.ts';
import type { Tape } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/**
 * The same hands on a tuning and a ground, a piece at a time: from a tape's beginning to its end, or for so many ticks of the tuning's rate.
 * The world's trace holds all of it, the beginning as its first row. What a world on the same ground has worked out (`known`) is not made
 * again.
 */
export class Rerun {
  readonly world: World;
  /** Ticks that there are to drive. */
  readonly ticks: number;
  readonly #replay: Replay;

  constructor(tape: Tape, parameters: Parameters, ground: Ground, known?: World, most = Infinity) {
    this.#replay = new Replay(tape, parameters.clock.hz);
    this.ticks = Math.min(most, this.#replay.ticks);
    const isAlike = known?.ground === ground && known.parameters.contact.seams === parameters.contact.seams;
    this.world = new World(parameters, ground, this.ticks, isAlike ? known.walls : undefined);
    if (known && isAlike) this.world.takeNavigator(known.navigator);
    if (tape.snapshot) this.world.resume(tape.snapshot);
  }

  /** Ticks that are driven. */
  get done(): number {
    return Math.min(this.ticks, this.#replay.tick);
  }

  /** Drives so many ticks more, or what is left of them. */
  run(ticks: number): void {
    for (let left = Math.min(ticks, this.ticks - this.done); left > 0; left--) this.world.tick(this.#replay.next());
  }
}

/** All of a rerun at once. */
export function rerun(tape: Tape, parameters: Parameters, ground: Ground, known?: World, most = Infinity): World {
  const again = new Rerun(tape, parameters, ground, known, most);
  again.run(Infinity);
  return again.world;
}
