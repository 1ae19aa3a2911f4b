import { type Ground, groundWith } from '../../ground/ground.ts';

const plain = groundWith({ name: 'Plain', size: { width: 1e6, height: 1e6 }, start: { x: 5e5, y: 5e5, facing: 0 } });

/** An empty ground for the drawings that run the core, with the objects that the drawing needs. */
export function plainGround(over: Partial<Ground> = {}): Ground {
  return { ...plain, ...over };
}
