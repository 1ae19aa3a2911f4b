import { World } from '../../motion/world.ts';
import { Recorder } from '../../tape/recorder.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { plainGround } from './plainGround.ts';

/** Cells that are stepped in a run. */
export const STEPS_SHOWN = 3;

/** Distance travelled (in cells) over time with the key held for three steps, by the core. */
export function stepRun(parameters: Parameters): [number, number][] {
  const { clock, step } = parameters;
  const cell = Math.max(step.cell, 1);
  const start = { x: cell * 0.5, y: cell * 0.5, facing: 90 };
  const free: Parameters = {
    ...parameters,
    scheme: 'step',
    bounds: { ...parameters.bounds, policy: 'none' },
    input: { ...parameters.input, axes: 'both', relativeTo: 'screen' },
    clock: { ...clock, stepping: 'fixed' },
  };
  const world = new World(free, plainGround({ start }), 4);
  const recorder = new Recorder();
  recorder.push({ press: 'right' });
  const curve: [number, number][] = [[0, 0]];
  const whole = STEPS_SHOWN * step.time + step.turnTime;
  const ticks = Math.min(1500, Math.ceil(Math.max(0.1, whole) * clock.hz) + 3);
  for (let tick = 0; tick < ticks; tick++) {
    if (tick / clock.hz > whole - step.time * 0.5) recorder.push({ release: 'right' });
    world.tick(recorder.next());
    curve.push([(tick + 1) / clock.hz, (world.body.x - start.x) / cell]);
  }
  return curve;
}
