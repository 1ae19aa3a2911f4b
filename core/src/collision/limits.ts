import type { Ground } from '../ground/ground.ts';
import { bodySize, centreOffset } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** The parameters of a body and of its surroundings. */
export type BodyParameters = Pick<Parameters, 'body' | 'contact' | 'bounds'>;

/** The area of the body's origin, in the ground's unit. */
export interface Limits {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** An interval of negative length becomes its middle: a frame smaller than the body holds it centred. */
function interval(low: number, high: number): [number, number] {
  return low <= high ? [low, high] : [(low + high) / 2, (low + high) / 2];
}

/** The rectangle with the edges: the screen's frame if the tuning uses it and the ground has one, else the whole ground. */
function edgeFrame(parameters: BodyParameters, ground: Ground): { x: number; y: number; width: number; height: number } {
  return parameters.bounds.frame === 'screen' && ground.frame ? ground.frame : { x: 0, y: 0, ...ground.size };
}

/** How far inside of each edge, beyond its inset, the body's origin must stay; negative if it goes beyond the edge. */
export function edgeMargins({ bounds, body }: BodyParameters): Limits {
  const whole = bounds.measure === 'body';
  const { width, height } = bodySize(body);
  const offset = centreOffset(body);
  const out = bounds.policy === 'wrap' && whole;
  const [before, after] = whole ? [width * body.originX, width * (1 - body.originX)] : [-offset.x, offset.x];
  const [above, below] = whole ? [height * body.originY, height * (1 - body.originY)] : [-offset.y, offset.y];
  return {
    left: out ? -after : before,
    right: out ? -before : after,
    top: out ? -below : above,
    bottom: out ? -above : below,
  };
}

/**
 * The frame less the insets, less the body's extent on either side of its origin, measured by the centre and shifted by the centre's offset from the
 * origin. Wrapping by the whole body is reversed: the body must be out of sight before it enters at the other side.
 */
export function originLimits(parameters: BodyParameters, ground: Ground): Limits {
  const { bounds } = parameters;
  const frame = edgeFrame(parameters, ground);
  const margins = edgeMargins(parameters);
  const [left, right] = interval(frame.x + bounds.inset.left + margins.left, frame.x + frame.width - bounds.inset.right - margins.right);
  const [top, bottom] = interval(frame.y + bounds.inset.top + margins.top, frame.y + frame.height - bounds.inset.bottom - margins.bottom);
  const free = (axis: 'x' | 'y') => bounds.policy === 'none' || (bounds.axes !== 'both' && bounds.axes !== axis);
  return {
    left: free('x') ? -Infinity : left,
    right: free('x') ? Infinity : right,
    top: free('y') ? -Infinity : top,
    bottom: free('y') ? Infinity : bottom,
  };
}
