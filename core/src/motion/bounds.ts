import type { Ground } from '../ground/ground.ts';
import { clamp } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { BoundsState, Motion } from './slices.ts';

/** Where the body's origin may be, in the ground's unit. */
export interface BoundsParameters {
  policy: Parameters['bounds']['policy'];
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** An interval that is narrower than nothing becomes its middle: a frame smaller than the body holds it centred. */
function interval(low: number, high: number): [number, number] {
  return low <= high ? [low, high] : [(low + high) / 2, (low + high) / 2];
}

/** The frame less the insets, less what of the body lies on either side of its origin. */
export function prepareBounds(parameters: Parameters, ground: Ground): BoundsParameters {
  const { bounds, body } = parameters;
  const frame = bounds.frame === 'screen' && ground.frame ? ground.frame : { x: 0, y: 0, ...ground.size };
  const whole = bounds.measure === 'body' ? 1 : 0;
  const width = whole * (body.shape === 'circle' ? 2 * body.radius : body.width);
  const height = whole * (body.shape === 'circle' ? 2 * body.radius : body.height);
  const [left, right] = interval(
    frame.x + bounds.inset.left + width * body.originX,
    frame.x + frame.width - bounds.inset.right - width * (1 - body.originX),
  );
  const [top, bottom] = interval(
    frame.y + bounds.inset.top + height * body.originY,
    frame.y + frame.height - bounds.inset.bottom - height * (1 - body.originY),
  );
  const free = (axis: 'x' | 'y') => bounds.axes !== 'both' && bounds.axes !== axis;
  return {
    policy: bounds.policy,
    left: free('x') ? -Infinity : left,
    right: free('x') ? Infinity : right,
    top: free('y') ? -Infinity : top,
    bottom: free('y') ? Infinity : bottom,
  };
}

/** Clamp: the place is held in the limits, and the velocity across the edge that holds it goes to 0. */
export function stepBounds(state: BoundsState, p: BoundsParameters, motion: Motion): void {
  state.held = 0;
  if (p.policy !== 'clamp') return;
  if (motion.x < p.left || motion.x > p.right) {
    motion.x = clamp(motion.x, p.left, p.right);
    motion.vx = 0;
    state.held = 1;
  }
  if (motion.y < p.top || motion.y > p.bottom) {
    motion.y = clamp(motion.y, p.top, p.bottom);
    motion.vy = 0;
    state.held = 1;
  }
}
