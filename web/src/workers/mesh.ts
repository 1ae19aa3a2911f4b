import { type Ground, type Mesh, meshFor, type Parameters } from '@zygopod/core';

/** What a mesh of free places is asked for. */
export interface MeshOrder {
  ground: Ground;
  parameters: Parameters;
}
export interface MeshAnswer {
  mesh: Mesh | null;
}

/** Makes the mesh of free places away from the page. */
self.addEventListener('message', ({ data }: MessageEvent<MeshOrder>) => {
  const { ground, parameters } = data;
  let mesh: Mesh | null = null;
  try {
    mesh = meshFor(parameters, ground, parameters.route.margin);
  } catch {
    // The page says that there is none.
  }
  self.postMessage({ mesh } satisfies MeshAnswer);
});
