import type { Ground } from '../../ground/ground.ts';

/** An empty ground for the drawings that run the core, with whatever the drawing needs on it. */
export function plainGround(over: Partial<Ground> = {}): Ground {
  return {
    format: 'zygopod/ground',
    version: 1,
    name: 'Plain',
    unit: 'px',
    size: { width: 1e6, height: 1e6 },
    cell: 32,
    cells: [],
    surfaces: {},
    walls: [],
    start: { x: 5e5, y: 5e5, facing: 0 },
    ...over,
  };
}
