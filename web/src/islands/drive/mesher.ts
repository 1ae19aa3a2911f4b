import type { Navigator } from '@zygopod/core';
import type { MeshAnswer, MeshOrder } from '../../workers/mesh.ts';
import type { Drive } from './drive.ts';

/** Has the mesh for routes made in a worker as soon as a tuning or a ground wants another one, so that no click waits for it on the page. */
export class Mesher {
  readonly #drive: Drive;
  #worker: Worker | null = null;
  /** For whom the mesh is that is being made; null while none is. */
  #underWay: Navigator | null = null;
  /** Those whose mesh could not be made: it is not asked for again and again. */
  readonly #failed = new WeakSet<Navigator>();

  constructor(drive: Drive) {
    this.#drive = drive;
  }

  /** Looks whether the mesh is wanted and not there; called once a frame. */
  look(): void {
    const { navigator, parameters, ground } = this.#drive.world;
    if (!parameters.route.enabled || navigator.ready || this.#underWay || this.#failed.has(navigator)) return;
    this.#worker ??= this.#start();
    this.#underWay = navigator;
    this.#worker.postMessage({ ground, parameters } satisfies MeshOrder);
  }

  stop(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#underWay = null;
  }

  #start(): Worker {
    const worker = new Worker(new URL('../../workers/mesh.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<MeshAnswer>) => {
      const navigator = this.#underWay;
      this.#underWay = null;
      if (!navigator) return;
      if (data.mesh) this.#drive.world.takeMesh(navigator, data.mesh);
      else this.#failed.add(navigator);
    });
    return worker;
  }
}
