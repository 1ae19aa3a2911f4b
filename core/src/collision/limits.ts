import type { Ground } from '../ground/ground.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** Where the body's origin may be, in the ground's unit. */
export interface Limits {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** An interval that is narrower than nothing becomes its middle: a frame smaller than the body holds it centred. */
function interval(low: number, high: number): [number, number] {
  return low <= high ? [low, high] : [(low + high) / 2, (low + high) / 2];
}

/** The rectangle whose edges count: the screen's frame where it is meant and the ground has one, else the whole ground. */
function edgeFrame(parameters: Parameters, ground: Ground): { x: number; y: number; width: number; height: number } {
  return parameters.bounds.frame === 'screen' && ground.frame ? ground.frame : { x: 0, y: 0, ...ground.size };
}

/**
 * The frame less the insets, less what of the body lies on either side of its origin. Wrapping by the whole body works the
 * other way round: the body has to be out of sight before it comes in at the other side.
 */
export function originLimits(parameters: Parameters, ground: Ground): Limits {
  const { bounds, body } = parameters;
  const frame = edgeFrame(parameters, ground);
  const whole = bounds.measure === 'body' ? 1 : 0;
  const size = bodySize(body);
  const [width, height] = [whole * size.width, whole * size.height];
  const out = bounds.policy === 'wrap';
  const [before, after] = [width * body.originX, width * (1 - body.originX)];
  const [above, below] = [height * body.originY, height * (1 - body.originY)];
  const [left, right] = interval(
    frame.x + bounds.inset.left + (out ? -after : before),
    frame.x + frame.width - bounds.inset.right - (out ? -before : after),
  );
  const [top, bottom] = interval(
    frame.y + bounds.inset.top + (out ? -below : above),
    frame.y + frame.height - bounds.inset.bottom - (out ? -above : below),
  );
  const free = (axis: 'x' | 'y') => bounds.policy === 'none' || (bounds.axes !== 'both' && bounds.axes !== axis);
  return {
    left: free('x') ? -Infinity : left,
    right: free('x') ? Infinity : right,
    top: free('y') ? -Infinity : top,
    bottom: free('y') ? Infinity : bottom,
  };
}
