import type { Ground } from '../../ground/ground.ts';
import { TraceRooms } from '../../motion/trace.ts';
import type { World } from '../../motion/world.ts';

/** Grounds that are kept at most. */
const MOST_GROUNDS = 64;

/**
 * Data that runs share; no result depends on it. The last world on each ground: a later run on that ground shares its walls, and its mesh if body,
 * contact, bounds and margin are equal. Grounds by the numbers that they were laid out with. Rooms for traces, where these aren't read later.
 */
export class Prepared {
  readonly #worlds = new WeakMap<Ground, World>();
  readonly #grounds = new Map<string, Ground>();
  /** Where traces find room; null if they are kept. */
  readonly rooms: TraceRooms | null;

  /** @param areTracesKept false: each drill's runs may overwrite the traces of the drill before */
  constructor(areTracesKept = true) {
    this.rooms = areTracesKept ? null : new TraceRooms();
  }

  /** The ground that was laid out with these numbers under this name, or a new one. */
  ground(name: string, numbers: readonly number[], lay: () => Ground): Ground {
    const key = `${name} ${numbers.join(' ')}`;
    const known = this.#grounds.get(key);
    if (known) return known;
    const made = lay();
    if (this.#grounds.size >= MOST_GROUNDS) this.#grounds.clear();
    this.#grounds.set(key, made);
    return made;
  }

  on(ground: Ground): World | undefined {
    return this.#worlds.get(ground);
  }

  keep(world: World): void {
    this.#worlds.set(world.ground, world);
  }
}
