import type { Ground } from '../../ground/ground.ts';
import type { World } from '../../motion/world.ts';

/**
 * The last world on each ground. A later run on that ground shares its walls, and its mesh if body, contact, bounds and margin are equal. No
 * result depends on it.
 */
export class Prepared {
  readonly #worlds = new WeakMap<Ground, World>();

  on(ground: Ground): World | undefined {
    return this.#worlds.get(ground);
  }

  keep(world: World): void {
    this.#worlds.set(world.ground, world);
  }
}
