import type { MeshAnswer, MeshOrder } from '../../workers/mesh.ts';
import type { Drive } from './drive.ts';

/** Has the mesh for routes made in a worker as soon as a tuning or a ground wants another one, so that no click waits for it on the page. */
export class Mesher {
  readonly #drive: Drive;
  #worker: Worker | null = null;
  #underWay: string | null = null;
  /** A mesh that could not be made is not asked for again and again. */
  readonly #failed = new Set<string>();

  constructor(drive: Drive) {
    this.#drive = drive;
  }

  /** Looks whether the mesh is wanted and not there; called once a frame. */
  look(): void {
    const { world } = this.#drive;
    const { navigator, parameters, ground } = world;
    if (!parameters.route.enabled || navigator.ready || this.#underWay || this.#failed.has(navigator.key)) return;
    this.#worker ??= this.#start();
    this.#underWay = navigator.key;
    this.#worker.postMessage({ key: navigator.key, ground, parameters } satisfies MeshOrder);
  }

  stop(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#underWay = null;
  }

  #start(): Worker {
    const worker = new Worker(new URL('../../workers/mesh.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<MeshAnswer>) => {
      this.#underWay = null;
      if (data.mesh) this.#drive.world.takeMesh(data.key, data.mesh);
      else this.#failed.add(data.key);
    });
    return worker;
  }
}
