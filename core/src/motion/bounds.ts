import { type Limits, originLimits } from '../collision/limits.ts';
import type { Ground } from '../ground/ground.ts';
import { clamp } from '../math/functions.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { EDGE_LEFT, EDGE_MET, SENT, WRAPPED } from './events.ts';
import type { BoundsState, Motion } from './slices.ts';

/** What happens where the body's origin leaves its limits. */
export interface BoundsParameters extends Limits {
  policy: Parameters['bounds']['policy'];
  push: number;
  sendToX: number;
  sendToY: number;
}

export const LEFT_SIDE = 1;
export const RIGHT_SIDE = 2;
export const TOP_SIDE = 4;
export const BOTTOM_SIDE = 8;

export function prepareBounds(parameters: Parameters, ground: Ground): BoundsParameters {
  const { bounds } = parameters;
  return {
    policy: bounds.policy,
    ...originLimits(parameters, ground),
    push: bounds.push,
    sendToX: bounds.sendToX,
    sendToY: bounds.sendToY,
  };
}

/** What happens at the edges that the body has passed; a body within them costs one comparison a side. */
export function stepBounds(state: BoundsState, p: BoundsParameters, motion: Motion): void {
  const was = state.held;
  state.happened = 0;
  state.held = 0;
  state.sides = 0;
  if (motion.x < p.left || motion.x > p.right || motion.y < p.top || motion.y > p.bottom) meetEdge(state, p, motion);
  if (state.held !== was) state.happened |= state.held ? EDGE_MET : EDGE_LEFT;
}

function meetEdge(state: BoundsState, p: BoundsParameters, motion: Motion): void {
  const across = motion.x < p.left ? LEFT_SIDE : motion.x > p.right ? RIGHT_SIDE : 0;
  const down = motion.y < p.top ? TOP_SIDE : motion.y > p.bottom ? BOTTOM_SIDE : 0;
  state.sides = across | down;
  switch (p.policy) {
    case 'none':
      return;
    case 'clamp':
      // Held in the limits; the velocity across the edge goes to 0.
      if (across !== 0) motion.vx = 0;
      if (down !== 0) motion.vy = 0;
      motion.x = clamp(motion.x, p.left, p.right);
      motion.y = clamp(motion.y, p.top, p.bottom);
      state.held = 1;
      return;
    case 'push':
      // Put back inside and left its velocity: that is what trembles or pops.
      if (across !== 0) motion.x = pushed(across === LEFT_SIDE, p.left, p.right, p.push);
      if (down !== 0) motion.y = pushed(down === TOP_SIDE, p.top, p.bottom, p.push);
      state.held = 1;
      return;
    case 'wrap':
      if (across !== 0) motion.x = wrapped(motion.x, p.left, p.right);
      if (down !== 0) motion.y = wrapped(motion.y, p.top, p.bottom);
      state.happened |= WRAPPED;
      return;
    case 'sendTo':
      motion.x = clamp(p.sendToX, p.left, p.right);
      motion.y = clamp(p.sendToY, p.top, p.bottom);
      motion.vx = 0;
      motion.vy = 0;
      state.happened |= SENT;
  }
}

/** The place `push` inside the edge, but never past the middle. */
function pushed(low: boolean, from: number, to: number, push: number): number {
  const middle = (from + to) / 2;
  return low ? Math.min(from + push, middle) : Math.max(to - push, middle);
}

/** A value brought into [low, high) by whole spans. */
function wrapped(value: number, low: number, high: number): number {
  const span = high - low;
  if (span <= 0) return low;
  const rest = value - low - Math.floor((value - low) / span) * span;
  return low + (rest < span ? rest : 0);
}
