import { DEGREE } from '../math/functions.ts';
import type { Body, Own } from './body.ts';
import { faceAtStart } from './facing.ts';

/** Places a new body, facing an angle in degrees. */
export function placeAtStart(body: Own<'facing'> & Pick<Body, 'x' | 'y'>, x: number, y: number, facing: number): void {
  body.x = x;
  body.y = y;
  faceAtStart(body, facing * DEGREE);
}
