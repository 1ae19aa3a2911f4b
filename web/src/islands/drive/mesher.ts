import type { Navigator } from '@zygopod/core';
import { Desk, GivenUp } from '../../workers/desk.ts';
import type { MeshApi } from '../../workers/mesh.ts';
import type { Drive } from './drive.ts';

/** Has the mesh for routes made in a worker as soon as a tuning or a ground wants another one, so that no click waits for it on the page. */
export class Mesher {
  readonly #drive: Drive;
  readonly #desk = new Desk<MeshApi>(() => new Worker(new URL('../../workers/mesh.ts', import.meta.url), { type: 'module' }));
  #isBusy = false;
  /** Settings whose mesh failed: it isn't requested again and again. */
  readonly #failed = new WeakSet<Navigator>();

  constructor(drive: Drive) {
    this.#drive = drive;
  }

  /** Checks whether the mesh is wanted and not there; called once a frame. */
  look(): void {
    const { navigator, parameters } = this.#drive.world;
    if (!parameters.route.enabled || navigator.ready || this.#isBusy || this.#failed.has(navigator)) return;
    this.#isBusy = true;
    void this.#make(navigator).finally(() => {
      this.#isBusy = false;
    });
  }

  async #make(navigator: Navigator): Promise<void> {
    const { ground, parameters } = this.#drive.world;
    try {
      const mesh = await this.#desk.call((remote) => remote.mesh(ground, parameters));
      this.#drive.world.takeMesh(navigator, mesh);
    } catch (error) {
      // Where there is none, a click says so.
      if (!(error instanceof GivenUp)) this.#failed.add(navigator);
    }
  }

  stop(): void {
    this.#desk.stop();
  }
}
