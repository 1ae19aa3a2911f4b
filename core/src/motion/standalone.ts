import { groundWith } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { Navigator } from '../route/navigator.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Body } from './body.ts';
import { type Plan, preparePlan } from './plan.ts';
import { World } from './world.ts';

/** A tuning's motion without obstacles: the settings of its stages, and the start of a body at 0, 0. */
export interface Standalone {
  plan: Omit<Plan, 'camera'>;
  start: Readonly<Body>;
}

/** Prepares a tuning without a ground: the caller supplies walls, edges and routes. */
export function standalone(parameters: Parameters): Standalone {
  const ground = groundWith({ name: 'Open', size: { width: 1e6, height: 1e6 }, start: { x: 0, y: 0 } });
  const walls = new WallIndex(bucketWalls(ground));
  const plan = preparePlan(parameters, ground, walls, new Navigator(parameters, ground, walls));
  // At the start no edge has been reported yet.
  const free: Parameters = { ...parameters, bounds: { ...parameters.bounds, policy: 'none' } };
  return { plan, start: { ...new World(free, ground, 1).body } };
}
