import { type Ground, type Mesh, meshFor, type Parameters } from '@zygopod/core';

/** What a mesh of free places is asked for: `key` says what it is for. */
export interface MeshOrder {
  key: string;
  ground: Ground;
  parameters: Parameters;
}
export interface MeshAnswer {
  key: string;
  mesh: Mesh | null;
}

/** Makes the mesh of free places away from the page. */
self.addEventListener('message', ({ data }: MessageEvent<MeshOrder>) => {
  const { key, ground, parameters } = data;
  let mesh: Mesh | null = null;
  try {
    mesh = meshFor(parameters, ground, parameters.route.margin);
  } catch {
    // The page says that there is none.
  }
  self.postMessage({ key, mesh } satisfies MeshAnswer);
});
