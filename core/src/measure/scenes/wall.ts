import { World } from '../../motion/world.ts';
import { Recorder } from '../../tape/recorder.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { plainGround } from './plainGround.ts';

/** Seconds until a slide is steady. */
const STEADY = 1;

/** The share of the speed that is kept at the moment of contact at an angle (degrees) to a wall: the model's formula. */
export function keptAtContact({ wallFriction, keepSpeed, response }: Parameters['contact'], degrees: number): number {
  if (response !== 'slide') return response === 'none' ? 1 : 0;
  const angle = (degrees * Math.PI) / 180;
  if (keepSpeed) return degrees >= 90 ? 0 : 1;
  return Math.max(0, Math.cos(angle) - wallFriction * Math.sin(angle));
}

/** Velocity, as a fraction of the walk speed, of a body that keeps pushing against a floor at an angle, by the core. */
export function steadySlide(parameters: Parameters, degrees: number): { x: number; y: number } {
  const { body, clock, pace } = parameters;
  const reach = body.shape === 'circle' ? body.radius : body.height / 2;
  const floor = 5e5 + reach * (body.shape === 'circle' ? 2 * (1 - body.originY) : 2 - 2 * body.originY) + 2;
  const free: Parameters = {
    ...parameters,
    scheme: 'steer',
    bounds: { ...parameters.bounds, policy: 'none' },
    input: { ...parameters.input, deadZone: 0, outerZone: 1, axes: 'both', directions: 'free', relativeTo: 'screen' },
    pace: { ...pace, autoRun: 'off', backwardFactor: 1, sidewaysFactor: 1 },
    clock: { ...clock, stepping: 'fixed' },
  };
  const walls = [{ points: [[0, floor] as [number, number], [1e6, floor] as [number, number]], closed: false, solid: true }];
  const ticks = Math.ceil(clock.hz * STEADY);
  const world = new World(free, plainGround({ walls }), 4);
  const recorder = new Recorder();
  const angle = (degrees * Math.PI) / 180;
  recorder.push({ stick: [Math.cos(angle), Math.sin(angle)] });
  for (let i = 0; i < ticks; i++) world.tick(recorder.next());
  const speed = Math.max(pace.walkSpeed, 1e-9);
  return { x: world.body.vx / speed, y: world.body.vy / speed };
}
