import { World } from '../../motion/world.ts';
import { Recorder } from '../../tape/recorder.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { plainGround } from './plainGround.ts';

export const policies = ['clamp', 'push', 'wrap', 'sendTo', 'none'] as const;

/** Seconds for which the drawing presses a body against an edge. */
export const HELD_AGAINST = 1;

/** How far a body's right side is beyond the right edge of a frame, tick by tick, while it is driven against it. */
export function pressAgainstEdge(parameters: Parameters, policy: Parameters['bounds']['policy']): { time: number; beyond: number }[] {
  const { body, clock, pace } = parameters;
  const width = body.shape === 'circle' ? 2 * body.radius : body.width;
  const side = Math.max(600, width * 12);
  const run = pace.walkSpeed * 0.25;
  const start = { x: side - run - width * (1 - body.originX), y: side / 2, facing: 0 };
  const free: Parameters = {
    ...parameters,
    scheme: 'steer',
    bounds: {
      ...parameters.bounds,
      policy,
      frame: 'ground',
      axes: 'both',
      inset: { top: 0, right: 0, bottom: 0, left: 0 },
      sendToX: start.x,
      sendToY: start.y,
    },
    input: { ...parameters.input, axes: 'both', relativeTo: 'screen' },
    pace: { ...pace, autoRun: 'off', backwardFactor: 1, sidewaysFactor: 1 },
    clock: { ...clock, stepping: 'fixed' },
  };
  const world = new World(free, plainGround({ size: { width: side, height: side }, start }), 4);
  const recorder = new Recorder();
  recorder.push({ press: 'right' });
  const ticks = Math.min(600, Math.ceil(clock.hz * HELD_AGAINST));
  return Array.from({ length: ticks }, (_, tick) => {
    world.tick(recorder.next());
    return { time: (tick + 1) / clock.hz, beyond: world.body.x + width * (1 - body.originX) - side };
  });
}
