import { type Ground, type Mesh, meshFor, type Parameters } from '@zygopod/core';
import { expose } from 'comlink';

/** Makes meshes of free places away from the page. Throws if there is none. */
const api = {
  mesh: (ground: Ground, parameters: Parameters): Mesh => meshFor(parameters, ground, parameters.route.margin),
};
export type MeshApi = typeof api;

expose(api);
